import { Accordion, AccordionDetails, AccordionSummary, Box, Button, Link, styled } from '@mui/material';
import { Link as RouterLink } from 'react-router';
import type { Check, Findings } from '../../../contract/index.ts';
import { readingFacts, type ReadingFacts } from '../../../core/plan/index.ts';
import { minutes } from '../../shared/format.ts';
import { BoundReading } from '../../shared/BoundReading.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { signCheck } from '../../state/changes.ts';
import { Headline } from '../../shared/Headline.tsx';
import { Changes } from '../../shared/Changes.tsx';
import { compareRounds } from './compareRounds.ts';
import { useOwnFindings } from './useOwnFindings.ts';

const Causes = styled('ol')`
  list-style: none;
  padding-bottom: 4px;
  & .MuiAccordionSummary-content {
    display: grid;
    grid-template-columns: 16px 1fr auto;
    gap: 4px;
  }
`;

const Signing = styled('div')`
  border-block: 1px solid var(--ink);
  margin-block: 4px 2px;
  padding-block: 7px;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: baseline;
`;

/** Ready or not and why: causes, what changed since the last round, all readings, signing off. */
export function CheckFindings({
  check,
  previous: before,
  chosen,
  onChoose,
}: {
  check: Check;
  previous: Findings | undefined;
  chosen: string | undefined;
  onChoose: (id: string | undefined) => void;
}) {
  const findings = useOwnFindings(check.findings);
  const previous = useOwnFindings(before);
  if (!findings)
    return (
      <p className="quiet" role="status">
        {check.pictures.length ? 'Reading the photographs …' : 'Nothing has been photographed in this round yet.'}
      </p>
    );
  if (!findings.found)
    return (
      <Problem role="status" lead="No green or blue screen was found.">
        Photograph the lit screen so that it fills at least a twentieth of the frame.
      </Problem>
    );
  const ordered = [...findings.readings].sort(
    (a, b) => Number(b.verdict === 'beyond') - Number(a.verdict === 'beyond') || b.minutes - a.minutes,
  );
  const beyond = findings.readings.filter(({ verdict }) => verdict === 'beyond').length;
  return (
    <section aria-label="What the test says">
      <Headline className="headline" data-ready={findings.ready}>
        <strong>{findings.ready ? 'Ready.' : 'Not ready.'}</strong>{' '}
        <span className="figure big">{(findings.forecast?.minutes ?? 0).toFixed(0)}</span> min by hand{' '}
        <span className="quiet figure">
          {findings.forecast?.low.toFixed(0)}–{findings.forecast?.high.toFixed(0)}
        </span>{' '}
        <span className="quiet">
          for <span className="figure">{findings.forecast?.frames}</span> frames
        </span>
      </Headline>
      <h2>{findings.causes.length ? 'Change first' : 'Nothing to change'}</h2>
      <Causes aria-label="Causes">
        {findings.causes.map((cause, n) => (
          <li key={cause.id}>
            <Accordion
              expanded={chosen === cause.id || (chosen === undefined && n === 0)}
              slotProps={{ heading: { component: 'div' }, transition: { unmountOnExit: true } }}
              onChange={() => onChoose(cause.id)}
            >
              <AccordionSummary>
                <span className="figure">{n + 1}</span> <strong>{cause.title}</strong>
                <span className="quiet figure">{cause.minutes >= 1 ? `${cause.minutes.toFixed(0)} min` : ''}</span>
              </AccordionSummary>
              <AccordionDetails sx={{ pl: 2.5 }}>{cause.remedy}</AccordionDetails>
            </Accordion>
          </li>
        ))}
      </Causes>
      <Signature check={check} />
      {findings.move && <LightMoveWords move={findings.move} />}
      {previous && <Since previous={previous} now={findings} />}
      <Box component="h2" sx={{ pt: 1.25 }}>
        Readings{' '}
        <span className="quiet figure">
          {beyond} of {findings.readings.length} out of bounds
        </span>
      </Box>
      {ordered.map(({ id, value, reason, minutes: cost }) => (
        <BoundReading key={id} id={id} value={value} reason={reason} minutes={cost} />
      ))}
      {findings.inView.length > 0 && (
        <p className="quiet">In view beyond the screen: {findings.inView.map(({ words }) => words).join(', ')}.</p>
      )}
      <Accordion slotProps={{ heading: { component: 'div' }, transition: { unmountOnExit: true } }}>
        <AccordionSummary>Why this number?</AccordionSummary>
        <AccordionDetails className="quiet">
          The same model as in Plan: every reading begins to cost at one value and is full at another, causes add up,
          frames multiply. Here it stands on what was measured instead of what was planned. Frames and guests come from
          the setup’s plan.
        </AccordionDetails>
      </Accordion>
    </section>
  );
}

function Since({ previous, now }: { previous: Findings; now: Findings }) {
  const changes = compareRounds(previous, now);
  const moved = changes.filter(({ verdict }) => verdict !== 'same');
  const saved = (previous.forecast?.minutes ?? 0) - (now.forecast?.minutes ?? 0);
  return (
    <>
      <Box component="h2" sx={{ pt: 1.25 }}>
        Since the last round{' '}
        <span className="quiet figure">
          {Math.abs(saved) < 0.5
            ? 'as many minutes'
            : saved > 0
              ? `${saved.toFixed(0)} min less`
              : `${(-saved).toFixed(0)} min more`}
        </span>
      </Box>
      {moved.length === 0 && <p className="quiet">No reading has changed noticeably.</p>}
      <Changes aria-label="Since the last round">
        {moved.slice(0, 6).map(({ id, before, now: value, verdict }) => {
          const { title, unit, digits }: ReadingFacts = readingFacts[id];
          return (
            <li key={id}>
              <span>{title}</span>
              <span className="figure">
                {before.toFixed(digits).replace('-', '−')} → {value.toFixed(digits).replace('-', '−')} {unit}
              </span>
              <span>{verdict === 'worse' ? <strong>worse</strong> : verdict}</span>
            </li>
          );
        })}
      </Changes>
    </>
  );
}

function LightMoveWords({ move: { right, up, ratio, softer, warmer } }: { move: NonNullable<Findings['move']> }) {
  const turns = [
    Math.abs(right) >= 3 && `turn the key ${Math.abs(right).toFixed(0)}° to the ${right > 0 ? 'right' : 'left'}`,
    Math.abs(up) >= 3 && `${up > 0 ? 'raise' : 'lower'} it by ${Math.abs(up).toFixed(0)}°`,
    Math.abs(ratio) >= 0.3 &&
      `${ratio > 0 ? 'take' : 'give'} the fill ${Math.abs(ratio).toFixed(1)} stops ${ratio > 0 ? 'down' : 'more'}`,
    Math.abs(softer) >= 0.15 &&
      `make it ${softer > 0 ? 'softer: a larger source, or nearer' : 'harder: a smaller source, or farther'}`,
    Math.abs(warmer) >= 15 && `${warmer > 0 ? 'warm' : 'cool'} it by ${Math.abs(warmer).toFixed(0)} mired`,
  ].filter(Boolean);
  return (
    <>
      <Box component="h2" sx={{ pt: 1.25 }}>
        To match the background’s light
      </Box>
      <p>
        {turns.length
          ? `As the camera sees it: ${turns.join(', ')}.`
          : 'The studio’s light stands as the background’s does.'}
      </p>
    </>
  );
}

function Signature({ check }: { check: Check }) {
  const open = check.findings?.readings.filter(({ verdict }) => verdict === 'beyond').length ?? 0;
  return (
    <Signing>
      {check.signedAt ? (
        <>
          <p role="status">
            <strong>
              Signed off at{' '}
              {new Date(check.signedAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}.
            </strong>{' '}
            {check.openPoints.length ? `Open points: ${check.openPoints.join('; ')}.` : 'No open points.'}
          </p>
          <Button variant="text" onClick={() => void signCheck(check.id, false)}>
            Open again
          </Button>
        </>
      ) : (
        <>
          <Button
            variant="contained"
            color={open ? 'secondary' : 'primary'}
            onClick={() => void signCheck(check.id, true)}
          >
            Sign off this setup
          </Button>
          <span className="quiet">
            {open ? (
              <>
                <span className="figure">{open}</span> open {open === 1 ? 'point' : 'points'} will be listed
              </>
            ) : (
              'nothing is open'
            )}
            ; expects {minutes(check.findings?.forecast?.minutes ?? 0)}.{' '}
            <Link component={RouterLink} to="../plan">
              Change the plan
            </Link>
          </span>
        </>
      )}
    </Signing>
  );
}
