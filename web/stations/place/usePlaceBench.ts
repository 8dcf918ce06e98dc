import { useState } from 'react';
import { eyesAbove, type AlikeWay, type PlacedView } from '../../../core/place/index.ts';

export const panels = { background: 'Stand', scene: 'Scene', match: 'Match', joining: 'Joining', all: 'Over all' };

/** What stays open from frame to frame. */
export type PlaceBench = ReturnType<typeof usePlaceBench>;

export function usePlaceBench() {
  const [view, setView] = useState<PlacedView>('finished');
  const [panel, setPanel] = useState<keyof typeof panels>('background');
  const [eyesHigh, setEyesHigh] = useState(eyesAbove.default);
  const [grounded, setGrounded] = useState(false);
  const [alike, setAlike] = useState<AlikeWay>('scale');
  return { view, setView, panel, setPanel, eyesHigh, setEyesHigh, grounded, setGrounded, alike, setAlike };
}
