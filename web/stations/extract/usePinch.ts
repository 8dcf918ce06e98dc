import { useRef } from 'react';
import { closerSight, heldSight, type Point, type Sight, type Size } from './sight.ts';

/** Two fingers on a picture: they come closer and move it at once. */

interface Pinch {
  /** When the second finger came: how far apart they were, their middle, and what was in sight. */
  apart: number;
  middle: Point;
  sight: Sight;
}

/** What a picture is told of fingers; all places are viewer's pixels. */
export function usePinch(
  shown: Sight,
  box: Size,
  size: Size,
  onSight: (sight: Sight | undefined) => void,
): {
  /** @returns whether it is the second finger, and the picture is meant. */
  down: (pointer: number, at: Point) => boolean;
  /** @returns whether two fingers hold the picture, or did until now. */
  move: (pointer: number, at: Point) => boolean;
  up: (pointer: number) => boolean;
} {
  const fingers = useRef(new Map<number, Point>());
  const pinch = useRef<Pinch>(undefined);
  const held = (): { apart: number; middle: Point } => {
    const [a, b] = [...fingers.current.values()];
    return {
      apart: Math.max(1, Math.hypot(a.x - b.x, a.y - b.y)),
      middle: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 },
    };
  };
  return {
    down: (pointer, at) => {
      fingers.current.set(pointer, at);
      if (fingers.current.size !== 2) return pinch.current !== undefined;
      pinch.current = { ...held(), sight: shown };
      return true;
    },
    move: (pointer, at) => {
      if (!fingers.current.has(pointer)) return false;
      fingers.current.set(pointer, at);
      const begun = pinch.current;
      if (!begun) return false;
      if (fingers.current.size < 2) return true;
      const { apart, middle } = held();
      const next = closerSight(begun.sight, apart / begun.apart, begun.middle, box, size);
      if (!next) onSight(undefined);
      else {
        const [right, down] = [(middle.x - begun.middle.x) / next.scale, (middle.y - begun.middle.y) / next.scale];
        onSight(heldSight({ ...next, x: next.x - right, y: next.y - down }, size));
      }
      return true;
    },
    up: (pointer) => {
      fingers.current.delete(pointer);
      const pinched = pinch.current !== undefined;
      // The finger that is left does nothing until it is lifted too.
      if (!fingers.current.size) pinch.current = undefined;
      return pinched;
    },
  };
}
