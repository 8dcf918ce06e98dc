import { fireEvent, render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { expect, test, vi } from 'vitest';
import type { Shoot } from '../../../contract/index.ts';
import { someShoot } from '../../../contract/testing/items.ts';
import { ShootCard } from './ShootCard.tsx';
import { ShootDialog } from './ShootDialog.tsx';

const nothing = (): void => undefined;

function card(part: Partial<Shoot>, onRemove: () => void = nothing): HTMLElement {
  render(
    <ShootCard shoot={someShoot(part)} cutSeconds={3} onRename={nothing} onDuplicate={nothing} onRemove={onRemove} />,
    { wrapper: MemoryRouter },
  );
  return screen.getByRole('article', { name: 'Pier' });
}

test('a card leads to the one next thing, with what it costs, and tells every station’s standing', () => {
  const shown = card({ plans: 2, frames: 200, cut: 80, rounds: 2, signed: 1, minutes: 34 });
  const next = screen.getByRole('link', { name: 'Extract 120 frames, Pier' });
  expect(next.getAttribute('href')).toBe('/shoots/1/extract');
  expect(shown.textContent).toContain('6 min unattended');
  expect(shown.textContent).toContain('1 of 2 signed off');
  expect(shown.textContent).toContain('80 of 200, 34 min by hand');
});

test('while the sample comes in, its progress stands in the place of the cost', () => {
  const shown = card({ sample: true, frames: 36, pending: 12, plans: 2 });
  expect(screen.getByRole('status').textContent).toContain('12 pictures to go');
  expect(screen.getByRole('progressbar', { name: 'Sample' }).getAttribute('aria-valuenow')).toBe('75');
  expect(shown.textContent).not.toContain('unattended');
});

test('what else can be done lies in its menu, which closes with the choice', () => {
  const removed = vi.fn();
  card({}, removed);
  fireEvent.click(screen.getByRole('button', { name: 'More for Pier' }));
  fireEvent.click(screen.getByRole('menuitem', { name: 'Remove' }));
  expect(removed).toHaveBeenCalledOnce();
  expect(screen.queryByRole('menuitem')).toBeNull();
});

test('the dialog of a shoot gives nothing away before it has a name, and then what was typed, trimmed', async () => {
  const done = vi.fn();
  render(
    <ShootDialog
      title="New shoot"
      action="Make the shoot"
      shoot={{ name: '', date: '2026-06-13', place: '' }}
      onDone={done}
      onClose={nothing}
    />,
  );
  fireEvent.click(screen.getByRole('button', { name: 'Make the shoot' }));
  expect(await screen.findByText('Give the shoot a name.')).toBeTruthy();
  expect(done).not.toHaveBeenCalled();
  fireEvent.change(screen.getByRole('textbox', { name: 'Name' }), { target: { value: '  Rope walk ' } });
  fireEvent.click(screen.getByRole('button', { name: 'Make the shoot' }));
  await expect.poll(() => done.mock.calls).toEqual([[{ name: 'Rope walk', date: '2026-06-13', place: '' }]]);
});
