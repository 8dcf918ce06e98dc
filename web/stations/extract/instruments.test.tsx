import { fireEvent, render, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { defaultRecipe } from '../../../core/cut/recipe.ts';
import { CoverageScale } from './CoverageScale.tsx';
import { OutlineProfile } from './OutlineProfile.tsx';
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
