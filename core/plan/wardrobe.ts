import { linearToOklab } from '../colour/oklab.ts';
import { screenReflectance } from './library.ts';
import type { Event, Guest, Screen } from './plan.ts';

/** How a colour worn stands to a screen colour. */
export interface Worn {
  guest: string;
  people: number;
  colour: string;
  /**
   * Distance from the screen's colour with the level left out, in units of OKLab chroma; neutral cloth stands about
   * 0.13 from either screen.
   */
  apart: number;
  /** Chance that a frame with it needs a hand, 0–1. */
  risk: number;
}

export interface Wardrobe {
  /** For each screen colour the share of frames at risk, and the worst colours first. */
  green: { share: number; worn: Worn[] };
  blue: { share: number; worn: Worn[] };
  better: 'green' | 'blue';
  /** How sure: 0.5 a toss, 1 certain. */
  sure: number;
}

/** Where a colour becomes risky, and how quickly; see docs/forecast.md. */
export const wardrobeRisk = { middle: 0.085, width: 0.0095 };

export function wardrobeOf(event: Event): Wardrobe {
  const judge = (colour: 'green' | 'blue'): Wardrobe['green'] => {
    const all = event.roster.flatMap((guest) => guest.colours.map((hex) => worn(guest, hex, colour)));
    const people = event.roster.reduce((sum, guest) => sum + guest.people, 0);
    const share = people
      ? event.roster.reduce((sum, guest) => sum + guest.people * riskOf(guest, colour), 0) / people
      : 0;
    return { share, worn: all.sort((a, b) => b.risk * b.people - a.risk * a.people) };
  };
  const green = judge('green');
  const blue = judge('blue');
  // Without a reason against it green is the choice: cheaper, easier to light, cleaner on most sensors.
  const ahead = blue.share + 0.03 - green.share;
  return { green, blue, better: ahead >= 0 ? 'green' : 'blue', sure: 1 / (1 + Math.exp(-Math.abs(ahead) / 0.04)) };
}

/** Chance that the frames of one guest need a hand because of a colour near the screen's: 1 − Π (1 − risk). */
export function riskOf(guest: Guest, screen: Screen['colour']): number {
  return (
    1 - guest.colours.reduce((safe, hex) => safe * (1 - worn(guest, hex, screen === 'blue' ? 'blue' : 'green').risk), 1)
  );
}

function worn(guest: Guest, hex: string, screen: 'green' | 'blue'): Worn {
  const { red, green, blue } = screenReflectance[screen];
  const apart = chromaDistance(linearOf(hex), [red, green, blue]);
  return {
    guest: guest.name,
    people: guest.people,
    colour: hex,
    apart,
    risk: 1 / (1 + Math.exp((apart - wardrobeRisk.middle) / wardrobeRisk.width)),
  };
}

/** Linear sRGB 0–1 of six hex digits. */
export function linearOf(hex: string): [number, number, number] {
  const part = (n: number): number => {
    const v = parseInt(hex.slice(n, n + 2), 16) / 255;
    return v <= 0.04045 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4);
  };
  return [part(0), part(2), part(4)];
}

/**
 * Distance in OKLab (Ottosson 2020) of two linear colours brought to the same luminance: shadow and fold do not count.
 */
export function chromaDistance(a: readonly [number, number, number], b: readonly [number, number, number]): number {
  const p = chromaOf(a);
  const q = chromaOf(b);
  return Math.hypot(p[0] - q[0], p[1] - q[1]);
}

function chromaOf([r0, g0, b0]: readonly [number, number, number]): [number, number] {
  // A dark colour never has a hue worth trusting: a little flare is added before the level is taken out.
  const flare = 0.012;
  const luminance = 0.2126 * r0 + 0.7152 * g0 + 0.0722 * b0 + flare;
  const k = 0.25 / luminance;
  const r = (r0 + flare) * k;
  const g = (g0 + flare) * k;
  const b = (b0 + flare) * k;
  const [, across, along] = linearToOklab(r, g, b);
  return [across, along];
}
