import type { Pick } from '../../../contract/index.ts';

export const pickWords: Record<Pick, string> = { keep: 'kept', reserve: 'in reserve', drop: 'dropped' };
