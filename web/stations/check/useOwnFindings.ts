import { useMemo } from 'react';
import type { Findings } from '../../../contract/index.ts';
import { byOwnLog } from '../../../core/log/index.ts';
import { useOwnFactors } from '../../state/factors.ts';

/** Findings with the minutes that the own log makes of them. */
export function useOwnFindings<F extends Findings | null | undefined>(findings: F): F {
  const factors = useOwnFactors();
  return useMemo((): F => {
    if (!findings) return findings;
    return {
      ...findings,
      readings: findings.readings.map((one) => ({ ...one, minutes: one.minutes * (factors.causes[one.id] ?? 1) })),
      forecast: findings.forecast && byOwnLog(findings.forecast, factors),
    };
  }, [findings, factors]);
}
