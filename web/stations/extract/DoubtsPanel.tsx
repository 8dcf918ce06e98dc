import { Button, List, ListItem, ToggleButton } from '@mui/material';
import type { Frame } from '../../../contract/index.ts';
import { doubtFacts, type DoubtKind } from '../../../core/cut/doubts.ts';
import type { Place } from '../../../core/cut/places.ts';
import type { Quality } from '../../../core/cut/quality.ts';
import { settledAt } from '../../../core/touch/review.ts';
import { settle } from './review.ts';
import { Actions, Fields } from '../../shared/layout.tsx';
import { trimNumber } from '../../shared/takeNumber.ts';

interface Props {
  frame: Frame;
  quality: Quality;
  looking: Place | undefined;
  onLook: (place: Place | undefined) => void;
}

/** What is doubtful in the cut, costliest first, each with where to look, why, what to do and its minutes by hand. */
export function DoubtsPanel({ frame, quality, looking, onLook }: Props) {
  return (
    <section aria-label="Doubts">
      <p>
        <strong className="figure">{quality.minutes.toFixed(1)}</strong>{' '}
        <span className="quiet">minutes by hand, foreseen for this frame</span>
      </p>
      {quality.doubts.length === 0 && <p className="quiet">Nothing doubtful was found.</p>}
      <List sx={{ borderTop: 1, borderColor: 'divider', mt: 0.5, mb: 1 }}>
        {quality.doubts.map((doubt) => {
          const { title, reason, remedy, unit, bound } = factsOf(doubt.kind);
          const seen = doubt.places.find((place) => same(place, looking));
          return (
            <ListItem key={doubt.kind} disablePadding divider sx={{ display: 'block', py: 0.6 }}>
              <Actions sx={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
                <strong>{title}</strong>
                <span className="figure" style={{ whiteSpace: 'nowrap' }}>
                  {doubt.minutes.toFixed(1)} min
                </span>
              </Actions>
              <p className="quiet">
                {reason} {remedy}
                {doubt.value !== undefined && unit.includes(' of ') && (
                  <>
                    {' '}
                    <span className="figure">
                      {trimNumber(doubt.value, 1)} {unit}
                    </span>
                    , fine up to <span className="figure">{bound}</span>.
                  </>
                )}
              </p>
              {doubt.places.length > 0 && (
                <Actions>
                  <span>See</span>
                  {doubt.places.map((place, n) => (
                    <ToggleButton
                      key={n}
                      value={n}
                      className="figure"
                      aria-label={`See place ${n + 1}: ${title}${settledAt(frame.review, doubt.kind, place) ? ', settled' : ''}`}
                      selected={same(place, looking)}
                      onChange={() => onLook(same(place, looking) ? undefined : place)}
                      sx={{ border: '1px solid', borderColor: 'text.primary', px: 1, py: 0 }}
                    >
                      {n + 1}
                      {settledAt(frame.review, doubt.kind, place) && ' ✓'}
                    </ToggleButton>
                  ))}
                  {seen && frame.cut && !settledAt(frame.review, doubt.kind, seen) && (
                    <Button variant="text" onClick={() => settle(frame, { kind: doubt.kind, place: seen })}>
                      It is good so
                    </Button>
                  )}
                </Actions>
              )}
            </ListItem>
          );
        })}
      </List>
      <Fields className="quiet">
        <dt>Screen, plainly seen</dt>
        <dd className="figure">{Math.round(quality.screenShare * 100)} %</dd>
        <dt>Had to be solved</dt>
        <dd className="figure">{Math.round(quality.fringeShare * 100)} %</dd>
        <dt>Of that unexplained</dt>
        <dd className="figure">{(quality.unexplained * 100).toFixed(1)} %</dd>
        <dt>Noise of the screen</dt>
        <dd className="figure">{quality.noisePercent.toFixed(1)} %</dd>
        <dt>Green kept, removed</dt>
        <dd className="figure">
          {quality.greenKept}, {quality.greenRemoved}
        </dd>
      </Fields>
    </section>
  );
}

function factsOf(kind: DoubtKind): (typeof doubtFacts)[DoubtKind] {
  return doubtFacts[kind];
}

export function same(a: Place | undefined, b: Place | undefined): boolean {
  return (
    a !== undefined && b !== undefined && a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height
  );
}
