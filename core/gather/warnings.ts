import { medianOf } from '../screen/statistics.ts';
import type { FrameFacts } from './facts.ts';
import { grouped } from './grouped.ts';
import { comparable, patternDistance, type Reference } from './setups.ts';

/** What speaks against picking a frame, by its like; only ever said, never acted on. */

export type WarningKind =
  'soft' | 'clipped' | 'light' | 'tint' | 'beyond' | 'near' | 'others' | 'uneven' | 'shadow' | 'eyes' | 'costly';
export const warningFacts: Record<WarningKind, { label: string; remedy: string; onlyLook?: true }> = {
  soft: { label: 'out of focus or shaken', remedy: 'Focus on the nearer eye; a shorter exposure.' },
  clipped: { label: 'skin without drawing', remedy: 'Less key light, or expose lower.' },
  light: { label: 'exposed unlike its setup', remedy: 'Set exposure by hand, as at the first frame.' },
  tint: { label: 'another colour of light than its setup', remedy: 'Fix the white balance; look for other light.' },
  beyond: { label: 'reaches beyond the screen', remedy: 'Nearer to the middle, or arms closer.' },
  near: { label: 'wears colours near the screen’s', remedy: 'The other screen’s colour, or something over it.' },
  others: { label: 'somebody else in the frame', remedy: 'Take it again alone, or say who is on it.' },
  uneven: { label: 'the screen is lit unlike its setup', remedy: 'Look at the lamps and the cloth.' },
  shadow: { label: 'casts a shadow on the screen', remedy: 'Farther from the screen, or the key higher.' },
  eyes: { label: 'an eye may be hidden', remedy: 'Look: hair over an eye?', onlyLook: true },
  costly: {
    label: 'costly to extract',
    remedy: 'Another frame of the same person may cost less.',
    onlyLook: true,
  },
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
  /** Stops. */
  shadow: 0.6,
  /** Skin at the eyes as a share of what is usual for the person, and how far below it at least. */
  eyes: 0.45,
  eyesBelow: 0.15,
  /** Minutes by hand, at least and as a multiple of what is usual for the setup. */
  costly: 3,
  costlier: 3,
};

export interface Judged {
  id: number;
  subject: string;
  setupId: number;
  /** Its camera’s body. */
  camera: string;
  /** Whether the frame is higher than wide. */
  upright: boolean;
  /** Exposure by the camera's settings, steps; null if unknown. */
  exposure: number | null;
  facts: FrameFacts | null;
}

/**
 * Warnings of each frame, the gravest first. Frames are compared within their subject and their setup.
 * @param references test frames that were signed off, by setup: the light of its frames is compared with them.
 */
export function warningsOf(
  frames: readonly Judged[],
  references: ReadonlyMap<number, Reference> = new Map(),
): Map<number, Warning[]> {
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
  const eyes = new Map(
    [...bySubject].flatMap(([key, list]) => {
      const known = list.flatMap(({ facts }) => facts?.eyes ?? []);
      return known.length < 3 ? [] : [[key, medianOf(known)]];
    }),
  );
  return new Map(
    people.map((frame) => {
      const facts = frame.facts as FrameFacts;
      const group = frame.subject ? `${frame.setupId} ${frame.subject}` : `alone ${frame.id}`;
      const setup = usual.get(keyOfSetup(frame));
      const reference = references.get(frame.setupId);
      const light =
        reference && comparable({ ...frame, screen: facts.screen }, reference) ? lightOf(reference) : setup?.light;
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
      if (facts.screen && light) {
        const off = facts.screen.level - (frame.exposure ?? 0) - light.level;
        add(
          'light',
          Math.abs(off),
          bounds.light,
          `${Math.abs(off).toFixed(1)} steps ${off > 0 ? 'brighter' : 'darker'}`,
        );
        const tint = Math.hypot(facts.screen.chroma[0] - light.chroma[0], facts.screen.chroma[1] - light.chroma[1]);
        add('tint', tint, bounds.chroma, `off by ${tint.toFixed(3)} in chromaticity`);
        add(
          'uneven',
          patternDistance(facts.screen.grid, light.grid),
          bounds.pattern,
          'the pattern of light is another',
        );
      }
      add('beyond', facts.person?.beyond ?? 0, bounds.beyond, `${percent(facts.person?.beyond ?? 0)} of the person`);
      add('near', facts.person?.near ?? 0, bounds.near, `${percent(facts.person?.near ?? 0)} of the person`);
      add('shadow', facts.shadow ?? 0, bounds.shadow, `${(facts.shadow ?? 0).toFixed(1)} stops`);
      const seen = eyes.get(group);
      if (facts.eyes !== null && seen && facts.eyes < Math.min(bounds.eyes * seen, seen - bounds.eyesBelow))
        found.push({ kind: 'eyes', words: `${percent(1 - facts.eyes / seen)} less skin there`, weight: 1 });
      add(
        'costly',
        facts.minutes ?? 0,
        Math.max(bounds.costly, bounds.costlier * (setup?.minutes ?? 0)),
        costInWords(facts.minutes ?? 0, setup?.minutes ?? 0),
      );
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

/** A draft’s minutes say more than the full cut’s, so they are told beside those of the others. */
function costInWords(minutes: number, usual: number): string {
  return usual > 0.2
    ? `${(minutes / usual).toFixed(1)} times what is usual for its setup, by a small draft`
    : `about ${Math.round(minutes)} min by hand, by a small draft`;
}

function percent(share: number): string {
  return `${Math.round(100 * share)} %`;
}

function usualOf(frames: readonly Judged[]) {
  const screens = frames.flatMap(({ facts, exposure }) => (facts?.screen ? [{ ...facts.screen, exposure }] : []));
  if (screens.length < 3) return undefined;
  return {
    clipped: medianOf(frames.map(({ facts }) => facts?.clipped ?? 0)),
    minutes: medianOf(frames.map(({ facts }) => facts?.minutes ?? 0)),
    light: {
      level: medianOf(screens.map(({ level, exposure }) => level - (exposure ?? 0))),
      chroma: [medianOf(screens.map(({ chroma }) => chroma[0])), medianOf(screens.map(({ chroma }) => chroma[1]))],
      grid: screens[0].grid.map((_, n) => medianOf(screens.map(({ grid }) => grid[n]))),
    },
  };
}

function lightOf({ screen, exposure }: Reference) {
  return { level: screen.level - (exposure ?? 0), chroma: screen.chroma, grid: screen.grid };
}
