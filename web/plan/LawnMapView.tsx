import { useEffect, useRef } from 'react';
import type { Plan, Report } from '../../core/plan/index.ts';

/** Ends of the grey scale, stops around the mean. */
const REACH = 1.2;

/**
 * The lawn map: level of the seen screen in stops around its mean, in grey steps of a sixth of a stop. The steps are
 * the evidence: two borders apart is a third of a stop.
 * @param source only this lamp's light; all of them if left out.
 */
export function LawnMapView({ plan, report, source, shadows }: { plan: Plan; report: Report; source?: number; shadows: boolean }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { map, evenness } = report;
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    const values = source === undefined ? (shadows ? map.shadowed : map.empty) : map.bySource[source];
    const seen = Array.from(values).filter((v) => v > 0);
    const mean = source === undefined ? (evenness?.mean ?? 0) : seen.reduce((a, b) => a + b, 0) / Math.max(1, seen.length);
    const image = context.createImageData(map.columns, map.rows);
    for (let p = 0; p < values.length; p++) {
      const stops = Math.log2(values[p] / mean);
      const step = Math.max(-REACH, Math.min(REACH, Math.round(stops * 6) / 6));
      const tone = Number.isFinite(stops) ? 128 + (step / REACH) * 104 : 0;
      image.data.set([tone, tone, tone, map.hits[p] ? 255 : 0], p * 4);
    }
    context.putImageData(image, 0, 0);
  }, [map, evenness, source, shadows]);
  const at = ({ x, y }: { x: number; y: number }): { left: string; top: string } => ({ left: `${Math.max(12, Math.min(88, x * 100))}%`, top: `${Math.max(4, Math.min(96, y * 100))}%` });
  return (
    <div className="lawn" style={{ aspectRatio: `${plan.camera.pixelsAcross} / ${plan.camera.pixelsDown}` }} role="img" aria-label={evenness ? `Lawn map: spread ${evenness.spread.toFixed(2)} stops` : 'Lawn map: no lit screen is seen'}>
      <canvas ref={canvas} width={map.columns} height={map.rows} />
      {evenness && source === undefined && (
        <>
          <i style={at(evenness.hot)} className="figure">
            +{evenness.hot.stops.toFixed(1)}
          </i>
          <i style={at(evenness.dark)} className="figure">
            −{Math.abs(evenness.dark.stops).toFixed(1)}
          </i>
        </>
      )}
    </div>
  );
}
