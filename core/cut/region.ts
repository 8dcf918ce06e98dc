/** Where the answer is known and where it has to be solved. */
export const Region = { clear: 0, fringe: 1, core: 2 } as const;
