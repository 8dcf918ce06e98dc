import type { FrameFacts } from '../facts.ts';

/** What a frame of one person before an even screen shows, for tests. */
export const someFacts = (part: Partial<FrameFacts> = {}): FrameFacts => ({
  kind: 'people',
  slate: null,
  screen: {
    colour: 'green',
    chroma: [0.18, 0.16],
    level: -2,
    grid: Array.from({ length: 24 }, () => 0),
    missing: { left: 0, right: 0, top: 0, bottom: 0 },
  },
  person: { share: 0.3, looks: [], beyond: 0, near: 0 },
  faces: [{ x: 0.4, y: 0.2, width: 0.2, height: 0.2, eyesX: 0.5, eyesY: 0.28, sure: 0.9 }],
  sharp: 0.4,
  clipped: 0.01,
  shadow: 0.1,
  eyes: 0.8,
  minutes: 0.5,
  ...part,
});
