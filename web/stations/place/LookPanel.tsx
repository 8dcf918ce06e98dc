import BackIcon from '@mui/icons-material/UndoOutlined';
import {
  Accordion,
  AccordionDetails,
  AccordionSummary,
  Box,
  Button,
  FormControlLabel,
  IconButton,
  Switch,
  ToggleButton,
  ToggleButtonGroup,
  Tooltip,
} from '@mui/material';
import type { Background } from '../../../contract/index.ts';
import {
  lookFacts,
  lookGroups,
  litApart,
  lookSwitches,
  matchBounds,
  sidesOf,
  type Look,
  type LookGroup,
  type LookSwitch,
  type Measured,
  type Placement,
} from '../../../core/place/index.ts';
import { lazy, Suspense } from 'react';
import { part } from '../../shared/part.ts';
import type { PlaceBench } from './usePlaceBench.ts';
import { Changes } from '../../shared/Changes.tsx';
import { Actions } from '../../shared/layout.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { ExtrasPanel } from './ExtrasPanel.tsx';
import { LookSettings } from './LookSettings.tsx';
import { MeasuredTable } from './MeasuredTable.tsx';
import { lookLabel, type LookBench, type LookScope } from './useLook.ts';

const HistogramChart = lazy(() => part(() => import('./HistogramChart.tsx')));

/** How person and background are made to agree: what is measured and proposed, and what the hand adds. */
export function LookPanel({
  panel,
  look,
  shootId,
  background,
  backgrounds,
  bench,
  measured,
  placement,
  feet,
}: {
  panel: 'match' | 'joining' | 'all';
  look: LookBench;
  shootId: number;
  background: Background;
  backgrounds: readonly Background[];
  bench: PlaceBench;
  measured: Measured | undefined;
  placement: Placement;
  /** Whether the lowest of the person is in the frame. */
  feet: boolean;
}) {
  return (
    <>
      <Scope look={look} background={background} />
      {panel === 'match' && (
        <>
          {measured ? (
            <MeasuredTable measured={measured} look={look.look} placement={placement} />
          ) : (
            <p className="quiet" role="status">
              Person and background are being measured …
            </p>
          )}
          <Histogram bench={bench} />
          <Group group="match" look={look} open />
          <p className="quiet">
            {background.scene.lightFrom === null &&
              'A match changes colours and turns no light until its side is marked under Scene. '}
            Skin is turned by no more than{' '}
            <span className="figure">{measured?.balls ? matchBounds.skinTurnByBalls : matchBounds.skinTurn}°</span> of
            hue.
          </p>
          <PointAtPair bench={bench} />
          <Group group="hand" look={look} />
          <Mirror name="mirrorPerson" look={look} note="Writing on clothes will read backwards." />
        </>
      )}
      {panel === 'joining' && (
        <>
          {!feet && (
            <p className="quiet">
              The person goes on below the frame: shadows at the feet and on the ground have nothing to start from.
            </p>
          )}
          <Group group="joining" look={look} open />
        </>
      )}
      {panel === 'all' && (
        <>
          <Group group="grade" look={look} open />
          <ExtrasPanel look={look} shootId={shootId} background={background} backgrounds={backgrounds} />
          <Group group="background" look={look} open />
          <Mirror name="mirrorBackground" look={look} note="" />
        </>
      )}
      <Actions sx={{ pt: 1.25 }}>
        <Button variant="text" onClick={() => look.all('proposed')}>
          All as proposed
        </Button>
        <Button variant="text" onClick={() => look.all('plain')}>
          Do nothing
        </Button>
      </Actions>
    </>
  );
}

/** How bright person and background are, behind each other. */
function Histogram({ bench: { histograms } }: { bench: PlaceBench }) {
  return (
    <Accordion
      slotProps={{ heading: { component: 'h3' }, transition: { unmountOnExit: true, mountOnEnter: true } }}
      sx={{ mt: 0.75 }}
    >
      <AccordionSummary id="brightness" aria-controls="brightness-chart">
        Brightness of both
      </AccordionSummary>
      <AccordionDetails>
        <Suspense fallback={<span className="quiet">…</span>}>
          {histograms && <HistogramChart histograms={histograms} />}
        </Suspense>
      </AccordionDetails>
    </Accordion>
  );
}

/** “This white is that white”: two places are pointed at, and the person is set so that they look alike. */
function PointAtPair({ bench: { pointing, setPointing, setView } }: { bench: PlaceBench }) {
  return (
    <Box sx={{ pt: 1 }}>
      {pointing ? (
        <Problem
          role="status"
          lead={pointing.at === 'person' ? 'Point at a place on the person,' : 'Now at the place behind'}
          action={
            <Button variant="text" onClick={() => setPointing(undefined)}>
              Leave it
            </Button>
          }
        >
          {pointing.at === 'person'
            ? 'such as a white collar.'
            : 'that it should look like, such as a white wall in the same light.'}
        </Problem>
      ) : (
        <Button
          variant="text"
          onClick={() => {
            setView('finished');
            setPointing({ at: 'person' });
          }}
        >
          Point at two that should look alike
        </Button>
      )}
    </Box>
  );
}

/** For whom a change holds, and in which settings the frame differs from the style. */
function Scope({ look, background }: { look: LookBench; background: Background }) {
  const differs = Object.keys(look.own) as (keyof Look)[];
  return (
    <Box sx={{ mb: 1 }}>
      <h2>A change holds for</h2>
      <ToggleButtonGroup
        exclusive
        value={look.scope}
        onChange={(_, next: LookScope | null) => next && look.setScope(next)}
        aria-label="A change holds for"
        sx={{ ml: -0.75, '& .MuiToggleButton-root': { px: 0.75, py: 0.25 } }}
      >
        <ToggleButton value="style">all on “{background.name}”</ToggleButton>
        <ToggleButton value="frame">this frame</ToggleButton>
      </ToggleButtonGroup>
      {!look.style && (
        <Problem role="status" lead="Nothing is matched here yet:">
          person and background are as they are.{' '}
          <Button variant="text" onClick={() => look.all('proposed')}>
            Match and join them
          </Button>
        </Problem>
      )}
      {differs.length > 0 && (
        <Changes aria-label="Differs from the style">
          {differs.map((name) => (
            <li key={name}>
              <span>
                {lookLabel(name)} <span className="figure">{inWords(name, look.look[name])}</span>
                <div className="quiet">
                  the style: <span className="figure">{look.style && inWords(name, look.style.look[name])}</span>
                </div>
              </span>
              <Tooltip title="As the style">
                <IconButton aria-label={`${lookLabel(name)} as the style`} onClick={() => look.takeBack(name)}>
                  <BackIcon fontSize="small" />
                </IconButton>
              </Tooltip>
            </li>
          ))}
        </Changes>
      )}
    </Box>
  );
}

function Group({ group, look, open }: { group: LookGroup; look: LookBench; open?: boolean }) {
  return (
    <Accordion
      defaultExpanded={open}
      slotProps={{ heading: { component: 'h3' }, transition: { unmountOnExit: true } }}
      sx={{ mt: 0.75 }}
    >
      <AccordionSummary id={`group-${group}`} aria-controls={`settings-${group}`}>
        {lookGroups[group]}
      </AccordionSummary>
      <AccordionDetails>
        <LookSettings group={group} look={look} />
      </AccordionDetails>
    </Accordion>
  );
}

function Mirror({ name, look, note }: { name: LookSwitch; look: LookBench; note: string }) {
  return (
    <div>
      <FormControlLabel
        control={
          <Switch size="small" color="secondary" checked={look.look[name]} onChange={(_, on) => look.keep(name, on)} />
        }
        label={lookSwitches[name]}
      />
      {note && look.look[name] && <span className="quiet">{note}</span>}
    </div>
  );
}

/** Light from the other side, and what would set it right. */
export function OtherSide({ look, measured }: { look: LookBench; measured: Measured }) {
  const { mirrorPerson, mirrorBackground } = look.look;
  const { person, scene } = sidesOf(measured, look.look);
  if (!litApart(person, scene)) return null;
  const side = (v: number): string => (v > 0 ? 'right' : 'left');
  const turned = look.look.toSide > 0 && (measured.lightFrom !== null || measured.balls);
  return (
    <Problem role="status" lead="The light seems to come from the other side:">
      on the person the {side(person)} is lighter, behind the {side(scene)}.
      {turned && ' The match lightens the other side of the person; mirrored, the shadows fall right as well.'}{' '}
      <Button variant="text" onClick={() => look.keep('mirrorBackground', !mirrorBackground)}>
        Mirror the background
      </Button>{' '}
      <Button variant="text" onClick={() => look.keep('mirrorPerson', !mirrorPerson)}>
        Mirror the person
      </Button>
    </Problem>
  );
}

function inWords(name: keyof Look, value: number | boolean): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  const { unit } = lookFacts[name as keyof typeof lookFacts];
  return unit === 'share'
    ? `${Math.round(value * 100)} %`
    : `${`${Math.round(value * 100) / 100}`.replace('-', '−')} ${unit}`;
}
