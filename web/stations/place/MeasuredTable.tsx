import { styled, Table, TableBody, TableCell, TableHead, TableRow } from '@mui/material';
import { luminance } from '../../../core/colour/luminance.ts';
import { linearToSrgb } from '../../../core/colour/transfer.ts';
import {
  matchBounds,
  matchOf,
  miredOf,
  scaleOn,
  type Look,
  type Measured,
  type Placement,
} from '../../../core/place/index.ts';

const Scale = styled('svg')`
  display: block;
  width: 100%;
  height: 14px;
  overflow: visible;
`;

type Row = [title: string, unit: string, person: number, there: number, most: number, digits: number];
const side = (title: string, own: number, there: number): Row => [title, '%', 100 * own, 100 * there, 100, 0];

/** Person and background side by side on short scales, and what is proposed. */
export function MeasuredTable({ measured, look, placement }: { measured: Measured; look: Look; placement: Placement }) {
  const { person, scene, cut, background } = measured;
  const { proposed } = matchOf(measured, look, placement);
  const bright = (rgb: readonly [number, number, number]): number => linearToSrgb(luminance(...rgb));
  const placed = scaleOn(cut, background, placement);
  const { lightFrom } = measured;
  const ownSide = person.side * (look.mirrorPerson ? -1 : 1);
  const rows: Row[] = [
    ['Blacks', '%', 100 * bright(person.black), 100 * bright(scene.black), 100, 0],
    ['Middle', '%', 100 * bright(person.middle), 100 * bright(scene.middle), 100, 0],
    ['Lights', '%', 100 * bright(person.white), 100 * bright(scene.white), 100, 0],
    ['Warmth', 'mired', miredOf(person.light), miredOf(scene.light), 200, 0],
    ['Saturation', '%', 100 * person.saturation, 100 * scene.saturation, 100, 0],
    ['Blur', 'px', person.blur * placed, scene.blur, 4, 1],
    ...(lightFrom === null
      ? []
      : [
          side(
            'Lighter at the right',
            ownSide / matchBounds.sideOfPerson,
            lightFrom * (look.mirrorBackground ? -1 : 1),
          ),
        ]),
    ['Grain', '‰', 1000 * person.grain * Math.min(1, placed), 1000 * scene.grain, 20, 1],
  ];
  const apart = differences(measured);
  return (
    <>
      <Table size="small" aria-label="Measured" sx={{ '& td, & th': { px: 0.5, py: 0.1 } }}>
        <TableHead>
          <TableRow>
            <TableCell>Measured</TableCell>
            <TableCell align="right">person</TableCell>
            <TableCell sx={{ width: 76 }}>
              <span className="quiet">○ and ●</span>
            </TableCell>
            <TableCell align="right">there</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map(([title, unit, own, there, most, digits]) => (
            <TableRow key={title}>
              <TableCell>
                {title} <span className="quiet">{unit}</span>
              </TableCell>
              <TableCell align="right" className="figure">
                {signed(own, digits)}
              </TableCell>
              <TableCell>
                <Marks
                  own={own}
                  there={there}
                  least={title === 'Warmth' || title === 'Lighter at the right' ? -100 : 0}
                  most={most}
                />
              </TableCell>
              <TableCell align="right" className="figure">
                {signed(there, digits)}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {apart.length > 0 && (
        <p style={{ paddingTop: 4 }}>
          There it is {apart.slice(0, -1).join(', ')}
          {apart.length > 1 && ' and '}
          {apart.at(-1)} than on the person.
        </p>
      )}
      <p className="quiet" role="status" style={{ paddingTop: 4 }}>
        {measured.balls && 'By the balls of both places. '}Proposed for the person:{' '}
        <span className="figure">{signed(proposed.exposure, 2)}</span> stops,{' '}
        <span className="figure">{signed(proposed.warmth, 0)}</span> mired, colours ×{' '}
        <span className="figure">{proposed.saturation.toFixed(2)}</span>; skin turned by{' '}
        <span className="figure">{proposed.skinTurn.toFixed(1)}°</span> of hue at most.
      </p>
    </>
  );
}

/** From how much on a difference is said: stops, mired, share of saturation. */
const PLAIN = { stops: 0.4, mired: 15, saturation: 0.1 };

/** In what the background plainly differs from the person, in words with their figures. */
function differences({ person, scene }: Measured): string[] {
  const stops = Math.log2((luminance(...scene.middle) + 1e-4) / (luminance(...person.middle) + 1e-4));
  const mired = miredOf(scene.light) - miredOf(person.light);
  const saturation = scene.saturation - person.saturation;
  return [
    Math.abs(stops) >= PLAIN.stops && `${Math.abs(stops).toFixed(1)} stops ${stops > 0 ? 'brighter' : 'darker'}`,
    Math.abs(mired) >= PLAIN.mired && `${Math.round(Math.abs(mired))} mired ${mired > 0 ? 'warmer' : 'colder'}`,
    Math.abs(saturation) >= PLAIN.saturation &&
      `${Math.round(100 * Math.abs(saturation))} % ${saturation > 0 ? 'more' : 'less'} saturated`,
  ].filter((words) => words !== false);
}

/** The person as a ring, the background as a dot, on one line. */
function Marks({ own, there, least, most }: { own: number; there: number; least: number; most: number }) {
  const at = (v: number): number => 4 + 76 * Math.max(0, Math.min(1, (v - least) / (most - least)));
  return (
    <Scale viewBox="0 0 84 14" aria-hidden="true">
      <line x1="4" x2="80" y1="7" y2="7" stroke="var(--rule)" />
      <circle cx={at(there)} cy="7" r="3.5" fill="var(--ink)" />
      <circle cx={at(own)} cy="7" r="3.5" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
    </Scale>
  );
}

function signed(value: number, digits: number): string {
  const text = value.toFixed(digits);
  return Number(text) === 0 ? (0).toFixed(digits) : text.replace('-', '−');
}
