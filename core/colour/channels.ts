/** One of a colour's channels: 0 red, 1 green, 2 blue. A screen's own is the one in which it is brightest. */
export type Channel = 0 | 1 | 2;

/** The other two of each channel, in their order. */
export const firstBeside: readonly Channel[] = [1, 0, 0];
export const secondBeside: readonly Channel[] = [2, 2, 1];
