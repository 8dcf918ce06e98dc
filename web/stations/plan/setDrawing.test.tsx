import { fireEvent, render, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { startingPlan, type Plan } from '../../../core/plan/index.ts';
import { SetDrawing } from './SetDrawing.tsx';
import { projectionOf } from './setProjection.ts';
import { moved } from './useGrips.ts';

const plan = startingPlan('Hall', '2026-06-13');
const place = { x: 1.02, y: 2.01, z: 3.03 };

test('across is towards the camera; down is to the right from above, and to the floor from the side', () => {
  expect(moved(place, 'above', 0.5, 0.25, 0.05)).toEqual({ x: expect.closeTo(0.75), y: 2.01, z: expect.closeTo(3.55) });
  expect(moved(place, 'side', 0.5, 0.25, 0.05)).toEqual({ x: 1.02, y: expect.closeTo(1.75), z: expect.closeTo(3.55) });
  expect(moved(place, 'side', 0, 0.013, 0.01).y).toBeCloseTo(2);
});

test.each(['above', 'side'] as const)('%s: whatever stands in the set lies in the drawing, outdoors too', (axis) => {
  for (const outdoors of [false, true]) {
    const there: Plan = { ...plan, room: { ...plan.room, outdoors } };
    const { across, down, width, height } = projectionOf(there, axis);
    for (const at of [there.camera.position, ...there.lamps.map(({ position }) => position)]) {
      expect(across(at)).toBeGreaterThan(0);
      expect(across(at)).toBeLessThan(width);
      expect(down(at)).toBeGreaterThan(0);
      expect(down(at)).toBeLessThan(height);
    }
  }
});

function draw(chosen: Parameters<typeof SetDrawing>[0]['chosen'] = 'screen') {
  const hand = { onChoose: vi.fn(), onDraft: vi.fn(), onChange: vi.fn<(plan: Plan, label: string) => void>() };
  render(<SetDrawing plan={plan} units="metric" chosen={chosen} {...hand} />);
  return hand;
}

test('the camera in focus is moved by arrows: 5 cm, 1 cm with Shift, up and down only from the side', () => {
  const { onChange, onChoose } = draw();
  const camera = screen.getByRole('button', { name: 'Camera, from the side' });
  fireEvent.focus(camera);
  expect(onChoose).toHaveBeenLastCalledWith('camera');
  const { y, z } = plan.camera.position;
  fireEvent.keyDown(camera, { key: 'ArrowRight' });
  expect(onChange.mock.lastCall?.[0].camera.position.z).toBeCloseTo(z + 0.05);
  expect(onChange.mock.lastCall?.[1]).toBe('move Camera');
  fireEvent.keyDown(camera, { key: 'ArrowUp', shiftKey: true });
  expect(onChange.mock.lastCall?.[0].camera.position.y).toBeCloseTo(y + 0.01);
  const calls = onChange.mock.calls.length;
  fireEvent.keyDown(camera, { key: 'a' });
  expect(onChange.mock.calls).toHaveLength(calls);
});

test('the aim of a lamp is there only while the lamp is chosen, and chooses its lamp', () => {
  const [lamp] = plan.lamps;
  draw();
  const name = `Aim of ${lamp.name}, from above`;
  expect(screen.queryByRole('button', { name })).toBeNull();
  const { onChoose, onChange } = draw(`lamp:${lamp.id}`);
  const aim = screen.getByRole('button', { name });
  fireEvent.focus(aim);
  expect(onChoose).toHaveBeenLastCalledWith(`lamp:${lamp.id}`);
  fireEvent.keyDown(aim, { key: 'ArrowRight' });
  const changed = onChange.mock.lastCall?.[0].lamps[0];
  expect(changed?.aim.z).toBeCloseTo(lamp.aim.z + 0.05);
  expect(changed?.position).toEqual(lamp.position);
});
