import { render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { beforeEach, expect, test } from 'vitest';
import { useStore } from '../state/store.ts';
import { someCut, someDelivery, someFrame, someSetup } from '../../contract/testing/items.ts';
import { StationRuler } from './StationRuler.tsx';

beforeEach(() => useStore.setState({ frames: [], setups: [], plans: [], checks: [], deliveries: [] }));

const figures = (): Record<string, string> => {
  render(<StationRuler shootId={7} />, { wrapper: MemoryRouter });
  return Object.fromEntries(
    screen.getAllByRole('link').map((link) => {
      const [name, figure] = [...link.children].map((part) => part.textContent ?? '');
      return [name, figure];
    }),
  );
};

test('a new shoot: every station says that there is nothing yet', () => {
  expect(figures()).toEqual({
    Plan: 'none yet',
    Check: 'none yet',
    Gather: '0 frames, 0 setups',
    Extract: '0 of 0',
    Place: '0 of 0',
    'Hand over': 'none yet',
    Log: 'by itself',
  });
});

const doubtful = (minutes: number) => someCut({ minutes, doubts: [{ kind: 'strands', minutes, places: [] }] });

test('plates count nowhere; minutes by hand are those of all cuts; a failure comes before them', () => {
  const placement = { backgroundId: 1, x: 0.5, y: 1, height: 0.8, look: {} };
  useStore.setState({
    setups: [someSetup()],
    frames: [
      someFrame(1, { ...doubtful(2.4), placement }),
      someFrame(2, doubtful(1.8)),
      someFrame(3),
      someFrame(9, { ...doubtful(60), plate: true }),
    ],
    deliveries: [someDelivery()],
  });
  expect(figures()).toMatchObject({
    Gather: '3 frames, 1 setup',
    Extract: '2 of 3, 4 min',
    Place: '1 of 3',
    'Hand over': '1 made',
  });
});

test('a failed frame is seen from every station', () => {
  useStore.setState({
    setups: [someSetup()],
    frames: [someFrame(1, someCut()), someFrame(2, { job: { state: 'failed', problem: null } })],
  });
  expect(figures()).toMatchObject({ Extract: '1 of 2, 1 failed' });
});
