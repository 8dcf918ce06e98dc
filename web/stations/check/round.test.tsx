import { act, fireEvent, render, renderHook, screen } from '@testing-library/react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import type { Findings, PictureKind, TestPictureResult } from '../../../contract/index.ts';
import { someCheck, someFindings } from '../../../contract/testing/items.ts';
import { api } from '../../state/api.ts';
import { RequestError } from '../../state/request.ts';
import { PictureSlots } from './PictureSlots.tsx';
import { RoundList } from './RoundList.tsx';
import { useReceiving } from './useReceiving.ts';
import { defaultView, evidenceOn, extremes, mapOf, viewsOf } from './views.ts';

const picture = (kind: PictureKind) => ({ kind, name: `${kind}.jpg`, width: 40, height: 60, version: 'v' });
const cause = (id: Findings['causes'][number]['id'], words = 'here'): Findings['causes'][number] => ({
  id,
  title: id,
  weight: 1,
  minutes: 3,
  remedy: 'Move it.',
  evidence: [{ x: 0.1, y: 0.1, width: 0.2, height: 0.2, words }],
});
const reading = (id: Findings['readings'][number]['id'], verdict: 'within' | 'beyond', words: string) => ({
  id,
  value: 1,
  verdict,
  reason: 'So.',
  minutes: 1,
  evidence: [{ x: 0.1, y: 0.1, width: 0.2, height: 0.2, words }],
});

describe('what a round shows', () => {
  const both = someCheck({ pictures: [picture('people'), picture('plate')] });
  test('its photographs in the order they are taken, and the maps that were read', () => {
    expect(viewsOf(undefined, undefined)).toEqual([]);
    expect(viewsOf(both, undefined).map(({ view }) => view)).toEqual(['plate', 'people']);
    const lawn = { columns: 2, rows: 1, stops: [0, -1] };
    const read = { ...both, findings: someFindings({ lawn }) };
    expect(viewsOf(read, someFindings({ lawn })).map(({ view }) => view)).toEqual(['plate', 'people', 'lawn', 'last']);
  });
  test('at first the photograph on which the foremost cause is seen', () => {
    expect(defaultView(both, someFindings(), undefined)).toBe('plate');
    expect(defaultView(both, someFindings({ causes: [cause('motion')] }), undefined)).toBe('people');
    const card = someCheck({ pictures: [picture('plate'), picture('grey card')] });
    expect(
      defaultView(card, someFindings({ causes: [cause('weakLamp'), cause('whiteBalance')] }), 'whiteBalance'),
    ).toBe('grey card');
    expect(defaultView(someCheck({ pictures: [picture('ball')] }), someFindings(), undefined)).toBe('ball');
    expect(defaultView(undefined, undefined, undefined)).toBeUndefined();
  });
  test('against the last round: the difference, nothing where one of them has nothing, no map of another shape', () => {
    const map = (stops: (number | null)[], columns = 3) => someFindings({ lawn: { columns, rows: 1, stops } });
    expect(mapOf('last', map([1, null, 0.5]), map([0.25, 1, null]))?.stops).toEqual([0.75, null, null]);
    expect(mapOf('last', map([1, 2, 3]), map([1, 2], 2))).toBeUndefined();
    expect(mapOf('last', map([1, 2, 3]), undefined)).toBeUndefined();
    expect(mapOf('people', map([1, 2, 3]), map([1, 2, 3]))).toBeUndefined();
  });
  test('hottest and darkest lie in the middle of their cells', () => {
    expect(extremes({ columns: 2, rows: 2, stops: [0, null, 0.5, -1] })).toEqual([
      { x: 0.25, y: 0.75, stops: 0.5 },
      { x: 0.75, y: 0.75, stops: -1 },
    ]);
    expect(extremes({ columns: 1, rows: 1, stops: [null] })).toEqual([]);
  });
  test('evidence: the chosen cause’s where it is seen, else what is out of bounds, and calm where nothing is', () => {
    const words = (kind: PictureKind, found: Findings, chosen?: string): string[] =>
      evidenceOn(kind, found, chosen).map((one) => one.words);
    const uneven = reading('spread', 'beyond', 'left is dark');
    const shadow = reading('shadow', 'beyond', 'a shadow');
    const found = someFindings({ readings: [uneven, shadow], causes: [cause('weakLamp', 'left is dark')] });
    expect(words('plate', found)).toEqual(['left is dark']);
    expect(words('people', found)).toEqual(['a shadow']);
    expect(words('plate', someFindings({ readings: [reading('spread', 'within', 'hot spot')] }))).toEqual(['hot spot']);
    expect(words('people', someFindings({ readings: [reading('shadow', 'within', 'none')] }))).toEqual([]);
    expect(evidenceOn('plate', undefined, undefined)).toEqual([]);
  });
});

test('each round of the list says how it ended', () => {
  const chosen = vi.fn();
  const rounds = [
    someCheck({ id: 1, signedAt: '2026-06-13T11:00:00.000Z', findings: someFindings() }),
    someCheck({ id: 2, findings: someFindings({ ready: false, causes: [cause('gain'), cause('motion')] }) }),
    someCheck({ id: 3, findings: someFindings() }),
    someCheck({ id: 4 }),
  ];
  render(<RoundList rounds={rounds} current={2} onChoose={chosen} onBegin={() => undefined} />);
  const rows = screen.getAllByRole('listitem').map((row) => row.textContent ?? '');
  ['signed off', '2 to change', 'ready', 'not read'].forEach((words, n) => expect(rows[n]).toContain(words));
  const buttons = screen.getAllByRole('listitem').map((row) => row.querySelector('button') as HTMLElement);
  expect(buttons.map((button) => button.getAttribute('aria-current'))).toEqual(['false', 'true', 'false', 'false']);
  fireEvent.click(buttons[3]);
  expect(chosen).toHaveBeenCalledWith(4);
});

test('a place without a photograph is chosen or taken; one with it is shown, replaced, taken out; not while a file comes', () => {
  const hand = { onShow: vi.fn(), onFile: vi.fn(), onTake: vi.fn(), onRemove: vi.fn() };
  const slots = (busy: boolean) => (
    <PictureSlots check={someCheck({ pictures: [picture('plate')] })} shown="plate" busy={busy} canTake {...hand} />
  );
  const { rerender } = render(slots(false));
  fireEvent.click(screen.getByRole('button', { name: 'Show empty screen' }));
  expect(hand.onShow).toHaveBeenCalledWith('plate');
  fireEvent.click(screen.getByRole('button', { name: 'Take out empty screen' }));
  expect(hand.onRemove).toHaveBeenCalledWith('plate');
  fireEvent.click(screen.getByRole('button', { name: 'Take matt ball with the stand-in camera' }));
  expect(hand.onTake).toHaveBeenCalledWith('ball');
  expect(screen.queryByRole('button', { name: 'Take out matt ball' })).toBeNull();
  // Where a background was, no stand-in camera has been.
  expect(screen.queryByRole('button', { name: /Take ball of a background/ })).toBeNull();
  rerender(slots(true));
  expect(screen.getByRole('button', { name: 'Replace empty screen' }).hasAttribute('disabled')).toBe(true);
});

describe('receiving test frames', () => {
  const file = (name: string): File => new File(['x'], name);
  let sent: string[];
  beforeEach(() => {
    sent = [];
  });
  const answerWith = (answer: (name: string) => Promise<TestPictureResult>): void => {
    vi.spyOn(api, 'uploadTestPicture').mockImplementation((_round, _kind, { name }) => {
      sent.push(name);
      return answer(name);
    });
  };
  const stored: TestPictureResult = { outcome: 'stored', kind: 'ball', check: someCheck() };

  test('what is refused or breaks off is listed and stops no other; what it is recognised as is told', async () => {
    answerWith((name) =>
      name === 'b'
        ? Promise.resolve({ outcome: 'refused', name, reason: 'No picture', remedy: 'Another.' })
        : name === 'c'
          ? Promise.reject(new RequestError({ reason: 'The disk is full', remedy: 'Make room.' }))
          : Promise.resolve(stored),
    );
    const taken = vi.fn();
    const { result } = renderHook(() => useReceiving(() => Promise.resolve(someCheck()), taken));
    await act(() => result.current.receive(['a', 'b', 'c', 'd'].map(file)));
    expect(sent).toEqual(['a', 'b', 'c', 'd']);
    expect(taken.mock.calls).toEqual([['ball'], ['ball']]);
    expect(result.current.refused.map(({ name, reason }) => `${name}: ${reason}`)).toEqual([
      'b: No picture',
      'c: The disk is full',
    ]);
    expect(result.current.upload).toBeUndefined();
    answerWith(() => Promise.resolve(stored));
    await act(() => result.current.receive([file('e')]));
    expect(result.current.refused).toEqual([]);
  });

  test('without a round nothing is sent', async () => {
    answerWith(() => Promise.resolve(stored));
    const { result } = renderHook(() => useReceiving(() => Promise.resolve(undefined), vi.fn()));
    await act(() => result.current.receive([file('a')]));
    expect(sent).toEqual([]);
  });
});
