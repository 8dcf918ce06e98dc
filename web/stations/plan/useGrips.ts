import { useRef, useState, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import type { Plan, Vec } from '../../../core/plan/index.ts';
import type { Axis } from './setProjection.ts';
import { nameOf, placeOf, withPlace, type ThingId } from './things.ts';

/** Snap distance of dragging and nudging, m; finer with Shift. */
const SNAP = 0.05;
const FINE = 0.01;

interface Hand {
  plan: Plan;
  chosen: ThingId;
  onChoose: (id: ThingId) => void;
  /** While something is dragged; undefined when it is dropped where it was. */
  onDraft: (plan: Plan | undefined) => void;
  onChange: (plan: Plan, label: string) => void;
}

/**
 * What makes a drawn thing one that is dragged, or moved by arrow keys when in focus.
 * @param title of the drawing, for names.
 */
export function useGrips(
  svg: RefObject<SVGSVGElement | null>,
  axis: Axis,
  title: string,
  { plan, chosen, onChoose, onDraft, onChange }: Hand,
): (id: ThingId) => object {
  const drag = useRef<{ id: ThingId; from: Vec; at: DOMPoint; plan: Plan; to: Plan } | undefined>(undefined);
  const [held, setHeld] = useState<ThingId>();

  const toPlan = (event: { clientX: number; clientY: number }): DOMPoint => {
    const matrix = svg.current?.getScreenCTM();
    return matrix ? new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse()) : new DOMPoint();
  };
  // An aim belongs to its lamp.
  const choose = (id: ThingId): void => onChoose(id.replace('aim:', 'lamp:') as ThingId);
  const start = (id: ThingId) => (event: PointerEvent<SVGElement>) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    choose(id);
    const from = placeOf(plan, id);
    if (!from) return;
    drag.current = { id, from, at: toPlan(event), plan, to: plan };
    setHeld(id);
  };
  const move = (event: PointerEvent<SVGElement>): void => {
    const now = drag.current;
    if (!now) return;
    const p = toPlan(event);
    const to = moved(now.from, axis, p.x - now.at.x, p.y - now.at.y, event.shiftKey ? FINE : SNAP);
    now.to = withPlace(now.plan, now.id, to);
    onDraft(now.to);
  };
  const end = (): void => {
    const now = drag.current;
    drag.current = undefined;
    setHeld(undefined);
    if (!now) return;
    onDraft(undefined);
    if (now.to !== now.plan) onChange(now.to, `move ${nameOf(plan, now.id)}`);
  };
  const onKey = (id: ThingId) => (event: KeyboardEvent<SVGElement>) => {
    const step = event.shiftKey ? FINE : SNAP;
    const steps: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const change = steps[event.key];
    const from = placeOf(plan, id);
    if (event.key === 'Enter') onChoose(id);
    if (!change || !from) return;
    event.preventDefault();
    onChange(withPlace(plan, id, moved(from, axis, ...change, FINE)), `move ${nameOf(plan, id)}`);
  };
  return (id) => ({
    role: 'button',
    tabIndex: 0,
    'aria-label': `${nameOf(plan, id)}, ${title.toLowerCase()}`,
    'aria-pressed': chosen === id,
    className: `thing${chosen === id ? ' chosen' : ''}${held === id ? ' held' : ''}`,
    onPointerDown: start(id),
    onPointerMove: move,
    onPointerUp: end,
    onPointerCancel: end,
    onKeyDown: onKey(id),
    onFocus: () => choose(id),
  });
}

/** A place moved across and down a drawing by metres, on the grid of `snap`. */
export function moved(from: Vec, axis: Axis, across: number, down: number, snap: number): Vec {
  const to = (value: number): number => Math.round(value / snap) * snap;
  const z = to(from.z + across);
  return axis === 'above' ? { ...from, z, x: to(from.x - down) } : { ...from, z, y: to(from.y - down) };
}
