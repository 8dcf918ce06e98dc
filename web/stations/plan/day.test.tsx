import { fireEvent, render, screen } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import { startingPlan, type Plan } from '../../../core/plan/index.ts';
import { useStore } from '../../state/store.ts';
import { DayForm } from './DayForm.tsx';

/** The day's form: guests, breaks, and the time that this machine really takes. */

const plan = startingPlan('Hall', '2026-06-13');
const changed = vi.fn<(plan: Plan, label: string) => void>();
beforeEach(() => {
  changed.mockClear();
  useStore.setState({ cutSeconds: null });
});
function show(event: Partial<Plan['event']> = {}): Plan {
  const shown = { ...plan, event: { ...plan.event, ...event } };
  render(
    <DayForm
      plan={shown}
      units="metric"
      chosen="day"
      library={[]}
      onChoose={() => undefined}
      onChange={changed}
      onLibrary={() => undefined}
    />,
  );
  return shown;
}
const event = (): Plan['event'] => {
  const [next] = changed.mock.lastCall ?? [];
  if (!next) throw new Error('nothing was changed');
  return next.event;
};

test('guests are whole, and the plan before is left as it was', () => {
  const shown = show({ guests: 40 });
  const field = screen.getByLabelText(/^Guests/);
  fireEvent.change(field, { target: { value: '55,4' } });
  fireEvent.blur(field);
  expect(event().guests).toBe(55);
  expect(shown.event.guests).toBe(40);
});

test('breaks are added, made longer and removed, each for itself', () => {
  const breaks = [
    { start: '12:00', minutes: 30 },
    { start: '15:00', minutes: 15 },
  ];
  show({ breaks });
  fireEvent.click(screen.getByRole('button', { name: 'Add a break' }));
  expect(event().breaks).toHaveLength(3);
  const minutes = screen.getByLabelText('Break 2, minutes');
  fireEvent.change(minutes, { target: { value: '20' } });
  fireEvent.blur(minutes);
  expect(event().breaks).toEqual([breaks[0], { start: '15:00', minutes: 20 }]);
  fireEvent.click(screen.getAllByRole('button', { name: 'Remove' })[0]);
  expect(event().breaks).toEqual([breaks[1]]);
});

test('what this machine took for a frame is offered, where it differs from what is planned', () => {
  useStore.setState({ cutSeconds: 3.14 });
  show({ cutSeconds: 2 });
  expect(screen.getByText('3.1 s')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Plan with that' }));
  expect(event().cutSeconds).toBe(3.1);
});

test('what differs by less than a fifth of a second is not worth a word', () => {
  useStore.setState({ cutSeconds: 2.1 });
  show({ cutSeconds: 2 });
  expect(screen.queryByRole('button', { name: 'Plan with that' })).toBeNull();
});

test('who comes is summed up; the list is opened to be edited', async () => {
  show({
    roster: [
      { name: 'Heron crew', colours: ['204b38'], people: 8 },
      { name: 'Families', colours: [], people: 30 },
    ],
  });
  expect(screen.getByText('2 entries, 38 people.')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Edit who comes' }));
  fireEvent.click(await screen.findByRole('button', { name: 'Add guests' }));
  expect(event().roster).toHaveLength(3);
});

test('nobody listed says what the list is for', () => {
  show({ roster: [] });
  expect(screen.getByText(/Nobody is listed/)).toBeTruthy();
});
