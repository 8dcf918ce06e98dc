import type { ReactNode } from 'react';
import { isWithin, readingFacts, type ReadingFacts, type ReadingId } from '../../core/plan/index.ts';

/** A reading with its unit and accepted bound on a short scale; opens to its reason, its remedy and where the bound comes from. */
export function BoundReading({
  id,
  value,
  reason,
  minutes = 0,
  note,
}: {
  id: ReadingId;
  value: number;
  reason: string;
  minutes?: number;
  note?: ReactNode;
}) {
  const { title, unit, digits, scale, min, max, remedy, source }: ReadingFacts = readingFacts[id];
  const good = isWithin(id, value);
  const at = (v: number): number => 100 * Math.max(0, Math.min(1, (v - scale[0]) / (scale[1] - scale[0])));
  const bound = [min !== undefined && `≥ ${signed(min)}`, max !== undefined && `≤ ${max}`].filter(Boolean).join(', ');
  return (
    <details className="reading">
      <summary>
        <span>{good ? title : <strong>{title}</strong>}</span>
        <span className="figure">
          {signed(value.toFixed(digits))} {unit}
        </span>
        <svg viewBox="0 0 100 13" preserveAspectRatio="none" aria-hidden="true">
          <line x1="0" x2="100" y1="7" y2="7" stroke="var(--rule)" strokeWidth="1" vectorEffect="non-scaling-stroke" />
          {[min, max].map(
            (b, n) =>
              b !== undefined && (
                <line
                  key={n}
                  x1={at(b)}
                  x2={at(b)}
                  y1="1"
                  y2="13"
                  stroke="var(--ink)"
                  strokeWidth="1"
                  strokeDasharray="2 2"
                  vectorEffect="non-scaling-stroke"
                />
              ),
          )}
          <line
            x1={at(value)}
            x2={at(value)}
            y1="2"
            y2="12"
            stroke={good ? 'var(--ink)' : 'var(--accent)'}
            strokeWidth="5"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        <span className="quiet">
          {good ? 'within' : 'out of bounds'}, {bound} {unit}
        </span>
        <span className="quiet figure">{note ?? (minutes >= 0.5 ? `${minutes.toFixed(0)} min` : '')}</span>
      </summary>
      <p>{reason}</p>
      {!good && <p>{remedy}</p>}
      <p>Bound: {source}.</p>
    </details>
  );
}

const signed = (value: number | string): string => `${value}`.replace('-', '−');
