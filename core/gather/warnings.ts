import { medianOf } from '../screen/statistics.ts';
import type { FrameFacts } from './facts.ts';
import { grouped } from './grouped.ts';
import { patternDistance } from './setups.ts';

/** What speaks against picking a frame, by its like; only ever said, never acted on. */

export type WarningKind = 'soft' | 'clipped' | 'light' | 'tint' | 'beyond' | 'near' | 'others' | 'uneven';
export const warningFacts: Record<WarningKind, string> = {
  soft: 'out of focus or shaken',
  clipped: 'skin without drawing',
  light: 'exposed unlike its setup',
  tint: 'another colour of light than its setup',
  beyond: 'reaches beyond the screen',
  near: 'wears colours near the screen’s',
  others: 'somebody else in the frame',
  uneven: 'the screen is lit unlike its setup',
};

export interface Warning {
  kind: WarningKind;
  /** With its number. */
  words: string;
  /** 0–1; from 1 on it is named. */
  weight: number;
}

export const bounds = {
  /** Detail as a share of the sharpest frame of the same person. */
  soft: 0.72,
  /** Share of the face at a channel's limit, beyond the usual of the setup. */
  clipped: 0.06,
  /** Steps of light off the setup's. */
  light: 0.4,
  chroma: 0.015,
  beyond: 0.04,
  near: 0.08,
  pattern: 0.3,
};

export interface Judged {
  id: number;
  subject: string;
  setupId: number;
  /** Whether the frame is higher than wide. */
  upright: boolean;
  /** Exposure by the camera's settings, steps; null if unknown. */
  exposure: number | null;
  facts: FrameFacts | null;
}

/** Warnings of each frame, the gravest first. Frames are compared within their subject and their setup. */
export function warningsOf(frames: readonly Judged[]): Map<number, Warning[]> {
  const people = frames.filter(({ facts }) => facts?.kind === 'people');
  const bySetup = grouped(people, keyOfSetup);
  const bySubject = grouped(people, ({ subject, setupId, id }) => (subject ? `${setupId} ${subject}` : `alone ${id}`));
  const usual = new Map([...bySetup].map(([key, list]) => [key, usualOf(list)]));
  const sharpest = new Map(
    [...bySubject].map(([key, list]) => [key, Math.max(...list.map(({ facts }) => facts?.sharp ?? 0))]),
  );
  const company = new Map(
    [...bySubject].map(([key, list]) => [key, medianOf(list.map(({ facts }) => facts?.faces.length ?? 0))]),
  );
  return new Map(
    people.map((frame) => {
      const facts = frame.facts as FrameFacts;
      const group = frame.subject ? `${frame.setupId} ${frame.subject}` : `alone ${frame.id}`;
      const setup = usual.get(keyOfSetup(frame));
      const found: Warning[] = [];
      const add = (kind: WarningKind, value: number, bound: number, words: string): void => {
        if (value > bound) found.push({ kind, words, weight: value / bound });
      };
      const best = sharpest.get(group) ?? 0;
      if (facts.sharp !== null && best > 0 && facts.sharp < bounds.soft * best)
        found.push({
          kind: 'soft',
          words: `${Math.round((100 * facts.sharp) / best)} % of the detail of the sharpest`,
          weight: (bounds.soft * best) / Math.max(1e-6, facts.sharp),
        });
      add(
        'clipped',
        (facts.clipped ?? 0) - (setup?.clipped ?? 0),
        bounds.clipped,
        `${percent(facts.clipped ?? 0)} of the face`,
      );
      if (facts.screen && setup?.level !== undefined) {
        const off = facts.screen.level - (frame.exposure ?? 0) - setup.level;
        add(
          'light',
          Math.abs(off),
          bounds.light,
          `${Math.abs(off).toFixed(1)} steps ${off > 0 ? 'brighter' : 'darker'}`,
        );
        const tint = Math.hypot(facts.screen.chroma[0] - setup.chroma[0], facts.screen.chroma[1] - setup.chroma[1]);
        add('tint', tint, bounds.chroma, `off by ${tint.toFixed(3)} in chromaticity`);
        add(
          'uneven',
          patternDistance(facts.screen.grid, setup.grid),
          bounds.pattern,
          'the pattern of light is another',
        );
      }
      add('beyond', facts.person?.beyond ?? 0, bounds.beyond, `${percent(facts.person?.beyond ?? 0)} of the person`);
      add('near', facts.person?.near ?? 0, bounds.near, `${percent(facts.person?.near ?? 0)} of the person`);
      const faces = facts.faces.length;
      if (frame.subject && faces > Math.max(1, company.get(group) ?? 1))
        found.push({ kind: 'others', words: `${faces} faces`, weight: 1 });
      return [frame.id, found.toSorted((a, b) => b.weight - a.weight)];
    }),
  );
}

/** Frames that show the same part of the same light. */
function keyOfSetup({ setupId, upright }: Judged): string {
  return `${setupId} ${upright}`;
}

function percent(share: number): string {
  return `${Math.round(100 * share)} %`;
}

function usualOf(frames: readonly Judged[]) {
  const screens = frames.flatMap(({ facts, exposure }) => (facts?.screen ? [{ ...facts.screen, exposure }] : []));
  if (screens.length < 3) return undefined;
  return {
    clipped: medianOf(frames.map(({ facts }) => facts?.clipped ?? 0)),
    level: medianOf(screens.map(({ level, exposure }) => level - (exposure ?? 0))),
    chroma: [medianOf(screens.map(({ chroma }) => chroma[0])), medianOf(screens.map(({ chroma }) => chroma[1]))],
    grid: screens[0].grid.map((_, n) => medianOf(screens.map(({ grid }) => grid[n]))),
  };
}
