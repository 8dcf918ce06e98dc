import { create } from 'zustand';
import { noFactors, type Factors } from '../../core/log/index.ts';
import { api } from './api.ts';
import { attempt } from './store.ts';

/** The coefficients of the own log, as they were taken; null while the shipped ones hold. */
export const useFactors = create<{ taken: Factors | null }>(() => ({ taken: null }));

export async function loadFactors(): Promise<void> {
  const taken = await attempt(api.factors());
  if (taken !== undefined) useFactors.setState({ taken });
}

/** Those that hold. */
export function useOwnFactors(): Factors {
  return useFactors((state) => state.taken) ?? noFactors;
}
