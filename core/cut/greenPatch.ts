import type { Point } from '../screen/outline.ts';

/** What speaks for and against a patch of screen-like colour being a thing. */
export interface PatchEvidence {
  /** Mean distance from the screen's chromaticity at that place. */
  apart: number;
  /** Largest share of screen that any foreground could hide in it, 0–1. */
  mostScreen: number;
  /**
   * What is left when so much screen is taken out: how far it still leans to the screen's colour (−1–1), and its
   * brightest channel.
   */
  leaning: number;
  remainder: number;
  /** Unevenness between neighbours relative to level; strands have much. */
  rough: number;
  /**
   * Distance from the screen's chromaticity in the darkest fifth: between dark hairs it is large, on green ones small.
   */
  darkApart: number;
  /** Spread of the level against the screen's, natural logarithm. */
  spread: number;
  /** Touches plain screen, or the frame's edge. */
  atScreen: boolean;
  atBorder: boolean;
}

/** What becomes of a patch. */
export type PatchVerdict = 'keep' | 'remove' | 'sheer';

/** A patch of screen-like colour in or beside the person. */
export interface GreenPatch {
  /** Bounding box in reduced pixels: left, top, right, bottom (exclusive). */
  box: [number, number, number, number];
  /** Share of the frame, 0–1. */
  share: number;
  /** Middle of its pixels, shares of the frame; mean red and blue as shares of the sum. */
  centre: Point;
  chroma: [number, number];
  evidence: PatchEvidence;
  /** It is the green of a check, of stripes or of a print, in pieces. */
  pattern: boolean;
  /** How likely it is a thing and no screen, 0–1. */
  likelihood: number;
  /** It keeps, it goes, or the screen is seen through it. */
  verdict: PatchVerdict;
  /** True where the evidence lies so near the limit that the verdict may be wrong. */
  doubtful: boolean;
  /** A hand gave the verdict. */
  byHand: boolean;
}
