import { fireEvent, render, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { defaultRecipe } from '../../../core/cut/recipe.ts';
import { CoverageScale } from './CoverageScale.tsx';
import { OutlineProfile } from './OutlineProfile.tsx';
import { someCheck, someFindings } from '../../../contract/testing/items.ts';
import { byCardOf } from './byCard.ts';
import { Questions } from './Questions.tsx';

const nothing = (): void => undefined;

test('the coverage scale has two marks; each changes only its own setting and is named so', () => {
  const committed = vi.fn();
  render(<CoverageScale recipe={defaultRecipe} coverage={[1, 4, 9]} onChange={nothing} onCommit={committed} />);
  const solid = screen.getByRole('slider', { name: 'Counts as solid' });
  fireEvent.change(solid, { target: { value: '0.9' } });
  expect(committed).toHaveBeenCalledWith({ ...defaultRecipe, ceiling: 0.9 }, 'what counts as solid');
  const gone = screen.getByRole('spinbutton', { name: 'Counts as gone' });
  fireEvent.change(gone, { target: { value: '0,1' } });
  fireEvent.blur(gone);
  expect(committed).toHaveBeenLastCalledWith({ ...defaultRecipe, floor: 0.1 }, 'what counts as gone');
});

test('neither mark leaves its own range, wherever it is pulled', () => {
  const changed = vi.fn();
  render(<CoverageScale recipe={defaultRecipe} coverage={undefined} onChange={changed} onCommit={nothing} />);
  fireEvent.change(screen.getByRole('slider', { name: 'Counts as gone' }), { target: { value: '0.8' } });
  fireEvent.change(screen.getByRole('slider', { name: 'Counts as solid' }), { target: { value: '0.2' } });
  for (const [recipe] of changed.mock.calls) {
    expect(recipe.floor).toBeLessThanOrEqual(0.4);
    expect(recipe.ceiling).toBeGreaterThanOrEqual(0.6);
  }
});

test('the outline’s place and slope are pulled by keys, a step each, and not beyond their ranges', () => {
  const committed = vi.fn();
  render(<OutlineProfile recipe={{ ...defaultRecipe, edge: 3 }} onChange={nothing} onCommit={committed} />);
  const place = screen.getByRole('slider', { name: 'Where does the outline lie?' });
  fireEvent.keyDown(place, { key: 'ArrowLeft' });
  expect(committed).toHaveBeenLastCalledWith({ ...defaultRecipe, edge: 2.9 }, 'outline out or in');
  fireEvent.keyDown(place, { key: 'ArrowRight' });
  expect(committed).toHaveBeenLastCalledWith({ ...defaultRecipe, edge: 3 }, 'outline out or in');
  fireEvent.keyDown(screen.getByRole('slider', { name: 'How steep is it?' }), { key: 'ArrowUp' });
  expect(committed.mock.lastCall?.[0].softness).toBeCloseTo(0.1);
});

test('a method asks only what it reads', () => {
  const questions = (method: typeof defaultRecipe.method) =>
    render(
      <Questions
        recipe={{ ...defaultRecipe, method }}
        coverage={undefined}
        onChange={nothing}
        onCommit={nothing}
        onSizing={nothing}
        byCard={undefined}
      />,
    );
  const unmixing = questions('unmixing');
  expect(screen.getByText('Is the hair there?')).toBeTruthy();
  expect(screen.queryByText('Where does the person begin?')).toBeNull();
  unmixing.unmount();
  questions('difference');
  expect(screen.queryByText('Is the hair there?')).toBeNull();
  expect(screen.getByText('Where does the person begin?')).toBeTruthy();
});

test('the light that a card asks for is said, and taken at a press with everything else as it was', () => {
  const check = someCheck({
    findings: someFindings({ balance: { by: 'grey card', gains: [0.9, 1, 1.2], stops: 0.5 } }),
  });
  const byCard = byCardOf([check, someCheck({ id: 4, findings: someFindings() })], 1);
  expect(byCard?.words).toMatch(/^The grey card of 13 June.* asks for \+0.5 stops, 30 mired colder\./);
  expect(byCardOf([check], 2), 'of another setup').toBeUndefined();
  const committed = vi.fn();
  render(
    <Questions
      recipe={{ ...defaultRecipe, spill: 0.4 }}
      coverage={undefined}
      onChange={nothing}
      onCommit={committed}
      onSizing={nothing}
      byCard={byCard}
    />,
  );
  fireEvent.click(screen.getByText('Light on the person, put right'));
  fireEvent.click(screen.getByRole('button', { name: 'Take it from the card' }));
  expect(committed).toHaveBeenCalledWith({ ...defaultRecipe, spill: 0.4, ...byCard?.set }, 'light by the card');
});

test('the round that was signed off is believed before a later one; a card that asks for nothing says so', () => {
  const round = (id: number, gains: [number, number, number], signedAt: string | null) =>
    someCheck({ id, signedAt, findings: someFindings({ balance: { by: 'colour chart', gains, stops: 0 } }) });
  const signed = round(3, [1, 1, 1], '2026-06-13T11:00:00.000Z');
  expect(byCardOf([signed, round(4, [1.3, 1, 1], null)], 1)?.words).toContain(
    'asks for nothing: it is as it should be',
  );
});
