import { useMemo } from 'react';
import type { Plan, Report } from '../../../core/plan/index.ts';
import { StopsMap } from '../../shared/StopsMap.tsx';

/** The planned lawn map. @param source only this lamp's light; all of them if left out. */
export function LawnMapView({
  plan,
  report,
  source,
  shadows,
}: {
  plan: Plan;
  report: Report;
  source?: number;
  shadows: boolean;
}) {
  const { map, evenness } = report;
  const stops = useMemo(() => {
    const values = source === undefined ? (shadows ? map.shadowed : map.empty) : map.bySource[source];
    const seen = Array.from(values).filter((v) => v > 0);
    const mean =
      source === undefined ? (evenness?.mean ?? 0) : seen.reduce((a, b) => a + b, 0) / Math.max(1, seen.length);
    return values.map((value, p) => (map.hits[p] ? Math.max(-9, Math.log2(value / mean)) : NaN));
  }, [map, evenness, source, shadows]);
  return (
    <StopsMap
      columns={map.columns}
      rows={map.rows}
      stops={stops}
      places={evenness && source === undefined ? [evenness.hot, evenness.dark] : []}
      aspect={plan.camera.pixelsAcross / plan.camera.pixelsDown}
      label={evenness ? `Lawn map: spread ${evenness.spread.toFixed(2)} stops` : 'Lawn map: no lit screen is seen'}
    />
  );
}
