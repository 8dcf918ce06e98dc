import { useState } from 'react';
import type { Rgb } from '../../../core/plan/exposure.ts';
import { eyesAbove, type AlikeWay, type Histograms, type PlacedView } from '../../../core/place/index.ts';

export const panels = { background: 'Stand', scene: 'Scene', match: 'Match', joining: 'Joining', all: 'Over all' };

/** Two places that should look alike are pointed at: first on the person. */
export type Pointing = { at: 'person' } | { at: 'there'; person: Rgb };

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
  return {
    histograms,
    setHistograms,
    pointing,
    setPointing,
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
