import { Accordion, AccordionDetails, AccordionSummary, styled } from '@mui/material';
import type { ReactNode } from 'react';
import { isWithin, readingFacts, type ReadingFacts, type ReadingId } from '../../core/plan/index.ts';

const Head = styled('span')`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 10px;
  width: 100%;
  & > .figure {
    text-align: right;
  }
  & > svg {
    grid-column: 1 / -1;
    display: block;
    width: 100%;
    height: 13px;
    overflow: visible;
  }
`;

/**
 * A reading with its unit and accepted bound on a short scale; opens to its reason, its remedy and where the bound
 * comes from.
 */
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
  const { title, unit, digits, min, max, remedy, source }: ReadingFacts = readingFacts[id];
  const good = isWithin(id, value);
  const bound = [min !== undefined && `≥ ${signed(min)}`, max !== undefined && `≤ ${max}`].filter(Boolean).join(', ');
  return (
    <Accordion slotProps={{ heading: { component: 'div' }, transition: { unmountOnExit: true } }}>
      <AccordionSummary>
        <Head>
          <span>{good ? title : <strong>{title}</strong>}</span>
          <span className="figure">
            {signed(value.toFixed(digits))} {unit}
          </span>
          <Scale id={id} value={value} good={good} />
          <span className="quiet">
            {good ? 'within' : 'out of bounds'}, {bound} {unit}
          </span>
          <span className="quiet figure">{note ?? (minutes >= 0.5 ? `${minutes.toFixed(0)} min` : '')}</span>
        </Head>
      </AccordionSummary>
      <AccordionDetails className="quiet">
        <p>{reason}</p>
        {!good && <p>{remedy}</p>}
        <p>Bound: {source}.</p>
      </AccordionDetails>
    </Accordion>
  );
}

/** The value as a bar on a line, the bounds as dashed marks. */
function Scale({ id, value, good }: { id: ReadingId; value: number; good: boolean }) {
  const { scale, min, max }: ReadingFacts = readingFacts[id];
  const at = (v: number): number => 100 * Math.max(0, Math.min(1, (v - scale[0]) / (scale[1] - scale[0])));
  const line = { vectorEffect: 'non-scaling-stroke' } as const;
  return (
    <svg viewBox="0 0 100 13" preserveAspectRatio="none" aria-hidden="true">
      <line x1="0" x2="100" y1="7" y2="7" stroke="var(--rule)" strokeWidth="1" {...line} />
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
              {...line}
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
        {...line}
      />
    </svg>
  );
}

const signed = (value: number | string): string => `${value}`.replace('-', '−');
