import type { Findings } from '../../../contract/index.ts';
import type { View } from './views.ts';

/** What the shown photograph or map says in figures. */
export function RoundCaption({ shown, findings }: { shown: View | undefined; findings: Findings | undefined }) {
  if (!findings) return null;
  if (shown === 'lawn' && findings.spread)
    return (
      <span className="figure">
        {findings.spread.spread.toFixed(2)} stops from darkest to brightest, nine tenths within{' '}
        {findings.spread.spread90.toFixed(2)}; one grey step is a sixth of a stop
      </span>
    );
  if (shown === 'plan' && findings.difference)
    return (
      <span>
        Measured less planned, <span className="figure">{findings.difference.most.toFixed(2)}</span> stops at most.{' '}
        {findings.difference.lamps.map(({ name, share }) => `${name} gives ${Math.round(share * 100)} %`).join(', ')}{' '}
        beside the strongest.
      </span>
    );
  if (shown === 'last') return <span>Brighter: more light than in the last round, beside the mean.</span>;
  if (shown === 'ball' && findings.ball) {
    const { azimuth, elevation, softness, keyOverFill, temperature, tint } = findings.ball;
    return (
      <span>
        Main light <span className="figure">{Math.abs(azimuth).toFixed(0)}°</span> {azimuth < 0 ? 'left' : 'right'},{' '}
        <span className="figure">{elevation.toFixed(0)}°</span> up,{' '}
        {softness < 0.1 ? 'hard' : softness < 0.3 ? 'medium soft' : 'soft'}; key over fill{' '}
        <span className="figure">{keyOverFill.toFixed(1)}</span> stops; <span className="figure">{temperature}</span> K,
        tint <span className="figure">{tint}</span> if white is daylight
      </span>
    );
  }
  if (shown === 'background' && !findings.background)
    return <span>Circle the ball by hand: choose “Circle the ball”, then drag from one side of it to the other.</span>;
  if (findings.jpeg && (shown === 'plate' || shown === 'people'))
    return (
      <span className="quiet">
        JPEG of quality about {findings.jpeg.quality}
        {findings.jpeg.halvedChroma ? ', colour at half resolution' : ''}
      </span>
    );
  return null;
}
