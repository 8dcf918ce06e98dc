import { fireEvent, render, screen, within } from '@testing-library/react';
import { MemoryRouter, Route, Routes } from 'react-router';
import { beforeEach, expect, test, vi } from 'vitest';
import type { PlanRow } from '../../../contract/index.ts';
import { somePlanRow } from '../../../contract/testing/items.ts';
import {
  clock,
  isWithin,
  readingFacts,
  reportOn,
  scheduleOf,
  startingPlan,
  sunThroughDay,
  type Plan,
} from '../../../core/plan/index.ts';
import { useStore } from '../../state/store.ts';
import { standInWorker } from '../../testing/worker.ts';
import { ComparePage } from './ComparePage.tsx';
import { DayPanel } from './DayPanel.tsx';
import { Findings } from './Findings.tsx';
import { ForecastPanel } from './ForecastPanel.tsx';
import { KitPanel } from './KitPanel.tsx';
import type { Numbers } from './plan.worker.ts';
import { SheetPage } from './SheetPage.tsx';

/** What is computed of a plan, as it is read: compared, on paper, by the hour, by the piece. */

// The charts need a real page to draw on.
vi.mock('./Chart.tsx', () => ({
  default: ({ names, values }: { names: string[]; values: number[] }) => (
    <p data-testid="chart">{names.map((name, n) => `${name} ${values[n].toFixed(1)}`).join('; ')}</p>
  ),
}));

const hall = startingPlan('Hall', '2026-06-13');
/** The same hall with the person against the screen. */
const near: Plan = { ...hall, name: 'Against the screen', people: hall.people.map((one) => ({ ...one, z: 0.6 })) };
const report = reportOn(hall, 18, 3);
const worse = reportOn(near, 18, 3);
const row = (id: number, plan: Plan): PlanRow => somePlanRow({ id, plan });
beforeEach(() => {
  // Pictures are never done here; the numbers do not wait for them.
  standInWorker({ picture: () => new Promise(() => undefined) as never });
  useStore.setState({ plans: [row(1, hall), row(2, near)] });
});
function at(address: string): void {
  render(
    <MemoryRouter initialEntries={[address]}>
      <Routes>
        <Route path="/plan/compare" element={<ComparePage />} />
        <Route path="/plan/:planId/sheet" element={<SheetPage />} />
      </Routes>
    </MemoryRouter>,
  );
}
const cells = (name: RegExp): string[] =>
  within(screen.getByRole('row', { name }))
    .getAllByRole('cell')
    .map((cell) => cell.textContent ?? '');
const signed = (difference: number, digits: number): string =>
  `${difference > 0 ? '+' : '−'}${Math.abs(difference).toFixed(digits)}`;

test('two plans side by side: every reading of either, with the difference', () => {
  at('/plan/compare?a=1&b=2');
  const minutes = cells(/^Hand repair/);
  expect(minutes.slice(1, 3)).toEqual([
    `${report.forecast.minutes.toFixed(0)} min`,
    `${worse.forecast.minutes.toFixed(0)} min`,
  ]);
  expect(minutes[3]).toBe(signed(worse.forecast.minutes - report.forecast.minutes, 0));
  for (const { id, value } of worse.readings) {
    const { title, unit, digits } = readingFacts[id];
    const [, , shown] = cells(new RegExp(`^${title.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')} `));
    expect(shown, id).toBe(`${value.toFixed(digits)} ${unit}${isWithin(id, value) ? '' : ', out of bounds'}`);
  }
});

test('what does not differ has no difference; a plan can be changed for another', () => {
  at('/plan/compare?a=1&b=2');
  expect(cells(/^Set-up/)[3]).toBe('–');
  fireEvent.change(screen.getByLabelText('Second plan'), { target: { value: '1' } });
  expect(cells(/^Hand repair/)[3]).toBe('–');
  fireEvent.change(screen.getByLabelText('First plan'), { target: { value: '2' } });
  expect(cells(/^Hand repair/)[3]).toBe(signed(report.forecast.minutes - worse.forecast.minutes, 0));
});

test('an address with plans that are gone compares the first two; one plan alone is not enough', () => {
  at('/plan/compare?a=77');
  expect((screen.getByLabelText('First plan') as HTMLSelectElement).value).toBe('1');
  expect((screen.getByLabelText('Second plan') as HTMLSelectElement).value).toBe('2');
});

test('with one plan it is said what is needed', () => {
  useStore.setState({ plans: [row(1, hall)] });
  at('/plan/compare');
  expect(screen.getByText('Two plans are needed.')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Copy one and change it.' })).toBeTruthy();
});

test('the set sheet has every lamp with its place, and what to pack', () => {
  at('/plan/1/sheet');
  const text = screen
    .getAllByRole('region')
    .map((part) => part.textContent)
    .join('\n');
  for (const { name } of hall.lamps) expect(text).toContain(name);
  expect(screen.getByRole('region', { name: 'Packing list' })).toBeTruthy();
  expect(screen.getByRole('link', { name: 'PDF' }).getAttribute('href')).toBe('/api/plans/1/sheet.pdf?units=metric');
  const print = vi.fn();
  window.print = print;
  fireEvent.click(screen.getByRole('button', { name: 'Print' }));
  expect(print).toHaveBeenCalledOnce();
});

test('the sheet of a plan that is gone leads back to the plans', () => {
  at('/plan/9/sheet');
  expect(screen.getByText('This plan does not exist.')).toBeTruthy();
});

test('findings: out of bounds first, then by cost; cautions stand below', () => {
  render(<Findings report={worse} plan={near} />);
  const beyond = worse.readings.filter(({ verdict }) => verdict === 'beyond');
  expect(beyond.length).toBeGreaterThan(0);
  const section = screen.getByRole('region', { name: 'Findings' }).textContent ?? '';
  expect(section).toContain(`${beyond.length} of ${worse.readings.length} readings out of bounds`);
  const calm = worse.readings.filter(({ verdict }) => verdict !== 'beyond');
  const placeOf = (id: keyof typeof readingFacts): number => section.indexOf(readingFacts[id].title);
  const lastBeyond = Math.max(...beyond.map(({ id }) => placeOf(id)));
  for (const { id } of calm) expect(placeOf(id), id).toBeGreaterThan(lastBeyond);
  expect(within(screen.getByRole('list', { name: 'Cautions' })).getAllByRole('listitem')).toHaveLength(
    worse.cautions.length,
  );
});

test('the forecast names its spread, its dearest causes, and the light in numbers', async () => {
  render(<ForecastPanel report={worse} />);
  const { forecast } = worse;
  const section = screen.getByRole('region', { name: 'Forecast' });
  expect(section.textContent).toContain(
    `${forecast.minutes.toFixed(0)} min of hand repair for ${forecast.frames} frames; four times in five between ${forecast.low.toFixed(0)} and ${forecast.high.toFixed(0)}.`,
  );
  const chart = await screen.findByTestId('chart');
  expect(chart.textContent?.split('; ')[0]).toBe(
    `${forecast.causes[0].title} ${forecast.causes[0].minutes.toFixed(1)}`,
  );
  expect(screen.getByRole('row', { name: /^Key at the face/ }).textContent).toContain(
    `${worse.person?.keyLux.toFixed(0)} lx`,
  );
  expect(screen.getAllByRole('row', { name: /^at f\// })).toHaveLength(worse.focus.schools.length);
});

test('the kit: several of one are one row; a circuit that carries more than four fifths is told', () => {
  const full = { ...report, circuits: [{ name: 'Wall', watts: 3000, rating: 3680, load: 3000 / 3680 }] };
  render(<KitPanel report={full as typeof report} />);
  const rows = screen.getAllByRole('row').slice(1);
  expect(rows).toHaveLength(report.kit.items.length);
  report.kit.items.forEach(({ name, count }, n) =>
    expect(rows[n].textContent).toContain(count > 1 ? `${count} × ${name}` : name),
  );
  expect(screen.getByText(/more than four fifths/)).toBeTruthy();
});

function numbers(plan: Plan): Numbers {
  const computed = reportOn(plan, 18, 3);
  return {
    report: computed,
    schedule: scheduleOf(plan, computed.kit, computed.forecast),
    sun: sunThroughDay(plan),
    milliseconds: 1,
  };
}

test('the day: every stretch with its hours and who does it; what does not fit comes with its remedy', () => {
  const crowded = numbers({ ...hall, event: { ...hall.event, guests: 900 } });
  render(<DayPanel planId={5} numbers={crowded} />);
  const stretches = screen.getAllByRole('listitem').map((item) => item.textContent ?? '');
  crowded.schedule.stretches.forEach(({ words, from, to }, n) => {
    expect(stretches[n]).toContain(`${clock(from)}–${clock(to)}`);
    expect(stretches[n]).toContain(words);
  });
  const notes = screen.getAllByRole('note').map((note) => note.textContent);
  expect(notes).toEqual(crowded.schedule.misfits.map(({ words, remedy }) => `${words} ${remedy}`));
  expect(screen.getByRole('link', { name: 'Calendar' }).getAttribute('href')).toContain('/api/plans/5/slots.ics');
});

test('indoors without a window the sun does not matter; outdoors it is drawn, with when to test again', async () => {
  const { rerender } = render(<DayPanel planId={5} numbers={{ ...numbers(hall), sun: undefined }} />);
  expect(screen.getByText(/the sun does not matter here/)).toBeTruthy();
  const meadow = numbers({ ...hall, room: { ...hall.room, outdoors: true } });
  rerender(<DayPanel planId={5} numbers={meadow} />);
  expect(await screen.findByTestId('chart')).toBeTruthy();
  expect(screen.queryByText(/does not matter/)).toBeNull();
  for (const { minute, words } of meadow.sun?.testAgain ?? []) {
    expect(screen.getAllByText(words).length).toBeGreaterThan(0);
    expect(screen.getAllByText(clock(minute)).length).toBeGreaterThan(0);
  }
});
