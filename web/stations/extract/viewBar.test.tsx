import { act, fireEvent, render, renderHook, screen } from '@testing-library/react';
import { describe, expect, test, vi } from 'vitest';
import { someBackground, someCut, someFrame } from '../../../contract/testing/items.ts';
import { useStore } from '../../state/store.ts';
import { standInServer } from '../../testing/server.ts';
import { useJudgedOn } from './JudgedOn.tsx';
import type { FrameBench } from './useFrameBench.ts';
import { Values } from './Values.tsx';
import { ViewBar } from './ViewBar.tsx';
import { allViews, viewOfKey } from './views.ts';

/** The ways to look at a frame, and values under the pointer. */

const bench = (part: Partial<FrameBench> = {}): FrameBench =>
  ({
    frame: someFrame(1),
    judged: someFrame(1),
    judgeOn: vi.fn(),
    shown: 'grey',
    values: false,
    setView: vi.fn(),
    setValues: vi.fn(),
    setBeside: vi.fn(),
    toggleBeside: vi.fn(),
    ...part,
  }) as unknown as FrameBench;

test('each key chooses one view, and no two the same', () => {
  const chosen = [...'123456789'].map(viewOfKey);
  expect(new Set(chosen).size).toBe(9);
  expect(chosen).toEqual(allViews.filter(({ keyName }) => keyName).map(({ value }) => value));
  expect(viewOfKey('0')).toBeUndefined();
});

test('a view of one side says what is to be seen', () => {
  const one = bench();
  const { rerender } = render(<ViewBar bench={one} />);
  fireEvent.change(screen.getByLabelText('Other views'), { target: { value: 'spill' } });
  expect(one.setView).toHaveBeenCalledWith('spill');
  rerender(<ViewBar bench={{ ...one, shown: 'spill' }} />);
  expect(screen.getByText(/that removing spill took away/)).toBeTruthy();
});

test('a second view: any but a background that nobody chose, divided or above', () => {
  const one = bench({ beside: { view: 'photograph', how: 'divided', at: 0.3 } });
  render(<ViewBar bench={one} />);
  const second = screen.getByLabelText('Second view') as HTMLSelectElement;
  expect([...second.options].map(({ value }) => value)).not.toContain('background');
  fireEvent.change(second, { target: { value: 'matte' } });
  expect(one.setBeside).toHaveBeenLastCalledWith({ view: 'matte', how: 'divided', at: 0.3 });
  fireEvent.click(screen.getByRole('button', { name: 'one above the other' }));
  expect(one.setBeside).toHaveBeenLastCalledWith({ view: 'photograph', how: 'above', at: 0.3 });
  fireEvent.click(screen.getByRole('button', { name: 'Two views' }));
  expect(one.toggleBeside).toHaveBeenCalledOnce();
});

test('values follow the pointer; two are held, the older gives way', async () => {
  const values = (level: number) => ({
    photograph: [level, 1, 2] as const,
    colour: level > 20 ? undefined : ([level, 3, 4] as const),
    coverage: level / 100,
    stops: -level,
    fromScreen: level / 2,
  });
  const preview = { valuesAt: (x: number) => Promise.resolve(values(100 * x)), working: false };
  const at = (x: number) => <Values bench={{ frame: someFrame(1), preview } as never} at={{ x, y: 0.5 }} />;
  const { rerender } = render(at(0.1));
  expect(await screen.findByText('10 1 2')).toBeTruthy();
  expect(screen.getByText('10.0 %')).toBeTruthy();
  expect(screen.getByText('−10.0 stops')).toBeTruthy();
  for (const x of [0.1, 0.2, 0.3]) {
    rerender(at(x));
    await screen.findByText(`${100 * x} 1 2`);
    fireEvent.keyDown(document, { key: 'm' });
  }
  rerender(at(0.4));
  await screen.findByText('40 1 2');
  expect(screen.getAllByText(/^\d+ 1 2$/).map((one) => one.textContent)).toEqual(['40 1 2', '20 1 2', '30 1 2']);
  fireEvent.click(screen.getByRole('button', { name: 'Let go' }));
  expect(screen.getAllByText(/^\d+ 1 2$/)).toHaveLength(1);
});

describe('judged on a background', () => {
  const backgrounds = [3, 4, 5].map((id) => someBackground({ id, name: `B${id}` }));
  const placed = (id: number) => ({ backgroundId: id, x: 0.5, y: 1, height: 0.8, look: {} });

  test('where the fringe shows most comes first, and their own is named', async () => {
    useStore.setState({ backgrounds, styles: [], checks: [] });
    standInServer(() => ({ seen: [10, 200, 60] }));
    const frame = someFrame(71, { ...someCut(), placement: placed(3) });
    const one = bench({ frame, judged: frame, shown: 'background' });
    render(<ViewBar bench={one} />);
    const list = screen.getByLabelText<HTMLSelectElement>('Background');
    await expect
      .poll(() => [...list.options].map(({ text }) => text))
      .toEqual(['B4, fringe plainly seen', 'B5, fringe a little', 'B3, where they stand, fringe hardly seen']);
    fireEvent.change(list, { target: { value: '4' } });
    expect(one.judgeOn).toHaveBeenCalledWith(4);
  });

  test('another background is a place in its middle; the next frame begins on its own again', () => {
    useStore.setState({ backgrounds });
    const hook = renderHook(({ frame }) => useJudgedOn(frame), {
      initialProps: { frame: someFrame(72, { placement: placed(3) }) },
    });
    expect(hook.result.current.judged.placement).toEqual(placed(3));
    act(() => hook.result.current.judgeOn(5));
    expect(hook.result.current.judged.placement?.backgroundId).toBe(5);
    hook.rerender({ frame: someFrame(73, { placement: placed(4) }) });
    expect(hook.result.current.judged.placement?.backgroundId).toBe(4);
    hook.rerender({ frame: someFrame(74, { placement: null }) });
    expect(hook.result.current.judged.placement?.backgroundId).toBe(3);
  });
});
