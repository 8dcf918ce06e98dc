/** A measured number with its unit, its accepted bound on a short scale, and on opening its reason and remedy. */
export interface ReadingFacts {
  title: string;
  value: number;
  bound: number;
  /** End of the scale. */
  most: number;
  unit: string;
  digits: number;
  reason: string;
  remedy: string;
}

export function Reading({ title, value, bound, most, unit, digits, reason, remedy }: ReadingFacts) {
  const beyond = value > bound;
  const at = (v: number): number => 100 * Math.min(1, v / most);
  return (
    <details className="reading">
      <summary>
        <span>{beyond ? <strong>{title}</strong> : title}</span>
        <span className="figure">
          {value.toFixed(digits)} {unit}
        </span>
        <svg viewBox="0 0 100 13" preserveAspectRatio="none" aria-hidden="true">
          <line x1="0" x2="100" y1="7" y2="7" stroke="var(--rule)" strokeWidth="1" vectorEffect="non-scaling-stroke" />
          <line
            x1={at(bound)}
            x2={at(bound)}
            y1="1"
            y2="13"
            stroke="var(--ink)"
            strokeWidth="1"
            strokeDasharray="2 2"
            vectorEffect="non-scaling-stroke"
          />
          <line
            x1={at(value)}
            x2={at(value)}
            y1="2"
            y2="12"
            stroke={beyond ? 'var(--accent)' : 'var(--ink)'}
            strokeWidth="5"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        <span className="quiet">{beyond ? 'beyond the bound' : 'within the bound'}</span>
        <span className="quiet figure">
          ≤ {bound.toFixed(bound % 1 ? digits : 0)} {unit}
        </span>
      </summary>
      <p>{reason}</p>
      <p>{remedy}</p>
    </details>
  );
}
