import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Units } from '../../../core/plan/index.ts';

/** Metric or imperial, as this browser prefers. */
export const useUnits = create<{ units: Units; setUnits: (units: Units) => void }>()(
  persist((set) => ({ units: 'metric', setUnits: (units) => set({ units }) }), { name: 'silent-lawn-units' }),
);
