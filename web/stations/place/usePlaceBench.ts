import { useState } from 'react';
import type { Rgb } from '../../../core/plan/exposure.ts';
import {
  eyesAbove,
  type AlikeWay,
  type Histograms,
  type LinePair,
  type LineWay,
  type PlacedView,
} from '../../../core/place/index.ts';

export const panels = { background: 'Stand', scene: 'Scene', match: 'Match', joining: 'Joining', all: 'Over all' };

/** Two places that should look alike are pointed at: first on the person. */
export type Pointing = { at: 'person' } | { at: 'there'; person: Rgb };

/** Lines that are being laid along those of the scene. */
export interface LaidLines {
  way: LineWay;
  pair: LinePair;
}
const at = (x: number, y: number) => ({ x, y });
export function startedLines(way: LineWay): LaidLines {
  const pair: Record<LineWay, LinePair> = {
    away: [
      [at(0.1, 0.95), at(0.4, 0.6)],
      [at(0.9, 0.95), at(0.6, 0.6)],
    ],
    up: [
      [at(0.2, 0.2), at(0.22, 0.8)],
      [at(0.8, 0.2), at(0.78, 0.8)],
    ],
  };
  return { way, pair: pair[way] };
}

/** What stays open from frame to frame. */
export type PlaceBench = ReturnType<typeof usePlaceBench>;

export function usePlaceBench() {
  const [view, setView] = useState<PlacedView>('finished');
  const [panel, setPanel] = useState<keyof typeof panels>('background');
  const [eyesHigh, setEyesHigh] = useState(eyesAbove.default);
  const [grounded, setGrounded] = useState(false);
  const [alike, setAlike] = useState<AlikeWay>('scale');
  const [histograms, setHistograms] = useState<Histograms>();
  const [pointing, setPointing] = useState<Pointing>();
  const [lines, setLines] = useState<LaidLines>();
  return {
    histograms,
    setHistograms,
    pointing,
    setPointing,
    lines,
    setLines,
    view,
    setView,
    panel,
    setPanel,
    eyesHigh,
    setEyesHigh,
    grounded,
    setGrounded,
    alike,
    setAlike,
  };
}
