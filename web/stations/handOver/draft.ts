import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { DeliverySettings } from '../../../contract/index.ts';
import { everybody, noMetadata, noPapers, offeredPatterns, shippedPresets } from '../../../core/handOver/index.ts';

/** What the next hand-over is to be; kept in the browser, since most hand-overs are as the last one was. */
export interface Draft extends Omit<DeliverySettings, 'presets' | 'chosen'> {
  /** Names of the presets that are used together. */
  used: string[];
}

export const useDraft = create<Draft>()(
  persist(
    (): Draft => ({
      used: [shippedPresets[0].name, 'Screen'],
      names: offeredPatterns[0],
      metadata: noMetadata,
      papers: noPapers,
    }),
    { name: 'silent-lawn-hand-over', version: 1 },
  ),
);

export function changeDraft(to: Partial<Draft>): void {
  useDraft.setState(to);
}

/** Whose pictures; of one shoot only, so not kept with the rest. */
export const noBounds = everybody;
