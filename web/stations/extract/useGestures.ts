import { useEffect, useMemo, useState } from 'react';
import type { Frame } from '../../../contract/index.ts';
import { together, type Figure } from '../../../core/cut/gestures.ts';
import { pictures } from '../../state/api.ts';
import { fetchPicture } from '../../worker/fetchPicture.ts';

/** All that the people of a setup do: their figures as they were cut, small. */

export interface Gestures {
  /** Figures that are still to be read; the others are shown when all are. */
  left: number;
  shown: { frame: Frame; figure: Figure }[];
  /** Frames that are not extracted yet, and those whose figure could not be read. */
  missing: number;
  /** What any of them covers, of the frames that are as wide as the one on the bench. */
  all: Figure;
}

/** By the version of the cut. */
const read = new Map<string, Promise<Figure>>();
/** Widths by heights that differ by less are the same. */
const SAME_SHAPE = 0.02;
/** Size of the field that all are laid together on: its height. */
const HEIGHT = 160;
const NOBODY: Figure = { width: 1, height: 1, data: new Uint8Array(1) };

/** The gestures of frames of a setup, once all are read; none while they are not asked for. */
export function useGestures(frame: Frame, frames: readonly Frame[], on: boolean): Gestures | undefined {
  const people = useMemo(() => frames.filter(({ plate }) => !plate), [frames]);
  const [shown, show] = useState<Gestures['shown']>();
  const [left, setLeft] = useState(0);
  useEffect(() => {
    if (!on) return;
    let current = true;
    setLeft(people.length);
    const reading = people.map(async (one) => {
      const figure = await figureOf(one);
      if (current) setLeft((now) => now - 1);
      return { frame: one, figure };
    });
    void Promise.all(reading).then(
      (list) => current && show(list.flatMap(({ frame: of, figure }) => (figure ? [{ frame: of, figure }] : []))),
    );
    return () => void (current = false);
  }, [people, on]);
  const shape = frame.width / frame.height;
  return useMemo(() => {
    if (!on) return undefined;
    if (left > 0 || !shown) return { left, shown: [], missing: 0, all: NOBODY };
    const alike = shown.filter(({ frame: { width, height } }) => Math.abs(width / height / shape - 1) < SAME_SHAPE);
    const all = together(
      alike.map(({ figure }) => figure),
      Math.round(HEIGHT * shape),
      HEIGHT,
    );
    return { left: 0, shown, missing: people.length - shown.length, all };
  }, [on, left, shown, shape, people]);
}

/** Undefined where there is no cut, or its figure cannot be read. */
async function figureOf(frame: Frame): Promise<Figure | undefined> {
  const { cut } = frame;
  if (!cut) return undefined;
  const known = read.get(cut.version) ?? fetched(pictures.figure(frame.id, cut.version));
  read.set(cut.version, known);
  return known.catch(() => void read.delete(cut.version));
}

async function fetched(address: string): Promise<Figure> {
  const { width, height, data } = await fetchPicture(address);
  return { width, height, data: Uint8Array.from({ length: width * height }, (_, p) => data[p * 3]) };
}
