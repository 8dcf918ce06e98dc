import {
  Accordion,
  AccordionDetails,
  AccordionSummary,
  Box,
  Table,
  TableBody,
  TableCell,
  TableRow,
} from '@mui/material';
import { lazy, Suspense } from 'react';
import type { Report } from '../../../core/plan/index.ts';
import { Changes } from '../../shared/Changes.tsx';
import { part } from '../../shared/part.ts';

const Chart = lazy(() => part(() => import('./Chart.tsx')));

/** The forecast broken down by cause, with its spread. */
export function ForecastPanel({ report }: { report: Report }) {
  const { forecast } = report;
  return (
    <section aria-label="Forecast">
      <p>
        <strong className="figure">{forecast.minutes.toFixed(0)} min</strong> of hand repair for{' '}
        <span className="figure">{forecast.frames}</span> frames; four times in five between{' '}
        <span className="figure">{forecast.low.toFixed(0)}</span> and{' '}
        <span className="figure">{forecast.high.toFixed(0)}</span>.
      </p>
      <Suspense fallback={<p className="quiet">Drawing …</p>}>
        <Chart
          kind="causes"
          names={forecast.causes.slice(0, 10).map((cause) => cause.title)}
          values={forecast.causes.slice(0, 10).map((cause) => cause.minutes)}
        />
      </Suspense>
      <Accordion slotProps={{ heading: { component: 'div' }, transition: { unmountOnExit: true } }}>
        <AccordionSummary>Why this number?</AccordionSummary>
        <AccordionDetails className="quiet">
          Each cause begins to cost at one reading and is full at another; between them it grows with the square. Causes
          add up, frames multiply. Each coefficient is taken as uncertain by two fifths, each frame scatters around its
          mean. The coefficients are first estimates until your own log corrects them.
        </AccordionDetails>
      </Accordion>
      <Box component="h2" sx={{ pt: 1.25 }}>
        Light in numbers
      </Box>
      <Table size="small">
        <TableBody>
          {report.person && (
            <>
              <Row name="Key at the face" value={`${report.person.keyLux.toFixed(0)} lx`} />
              <Row name="Screen, mean" value={`${report.evenness?.mean.toFixed(0) ?? '–'} lx`} />
              <Row name="Key over fill" value={`${report.person.keyOverFill.toFixed(1)} stops`} />
            </>
          )}
          {report.bounce && (
            <Row
              name="Screen light on left, right, back"
              value={`−${report.bounce.left.toFixed(1)}, −${report.bounce.right.toFixed(1)}, −${report.bounce.back.toFixed(1)} stops`}
            />
          )}
          <Row
            name="Screen out of focus by"
            value={`${report.focus.screenBlur.toFixed(0)} px; ${(report.focus.creaseContrast * 100).toFixed(0)} % of the creases stay`}
          />
          {report.focus.schools.map((school) => (
            <Row
              key={school.aperture}
              name={`at f/${school.aperture}`}
              value={`screen ${school.screenBlur.toFixed(0)} px, ear ${school.ear.toFixed(1)} px, creases ${(school.creaseContrast * 100).toFixed(0)} %`}
            />
          ))}
          <Row
            name="Standing, gesturing, jumping"
            value={`${report.motion.standing.toFixed(1)}, ${report.motion.gesturing.toFixed(0)}, ${report.motion.jumping.toFixed(0)} px`}
          />
          {report.losses.map((loss) => (
            <Row
              key={loss.lamp}
              name={`${loss.lamp}: lost in modifier, gel, diffusion, dimmer`}
              value={`${loss.modifier.toFixed(1)}, ${loss.gel.toFixed(1)}, ${loss.diffusion.toFixed(1)}, ${loss.dimmer.toFixed(1)} stops; ${loss.temperature.toFixed(0)} K`}
            />
          ))}
          {report.shadows.map((shadow) => (
            <Row
              key={shadow.source}
              name={`Shadow by ${report.losses[shadow.source]?.lamp ?? ''}`}
              value={`${shadow.depth.toFixed(2)} stops, edge ${shadow.softEdge.toFixed(2)} m, ${(shadow.share * 100).toFixed(0)} % of the screen`}
            />
          ))}
          {report.wind && (
            <Row
              name="Wind: force, ballast, down at"
              value={`${report.wind.force.toFixed(0)} N, ${report.wind.ballastNeeded.toFixed(0)} kg, ${report.wind.takeDown.toFixed(1)} m/s`}
            />
          )}
        </TableBody>
      </Table>
      <Wardrobe report={report} />
    </section>
  );
}

function Wardrobe({ report: { wardrobe } }: { report: Report }) {
  return (
    <>
      <Box component="h2" sx={{ pt: 1.25 }}>
        Clothes against the screen
      </Box>
      <p>
        {wardrobe.better === 'green' ? 'A green' : 'A blue'} screen suits this roster better,{' '}
        <span className="figure">{Math.round(wardrobe.sure * 100)} %</span> sure:{' '}
        <span className="figure">{Math.round(wardrobe.green.share * 100)} %</span> of guests at risk before green,{' '}
        <span className="figure">{Math.round(wardrobe.blue.share * 100)} %</span> before blue.
      </p>
      <Changes>
        {wardrobe.green.worn.slice(0, 6).map(({ guest, colour, risk }, n) => (
          <li key={n}>
            <span>
              <Swatch colour={colour} /> {guest}
            </span>
            <span className="figure">{Math.round(risk * 100)} %</span>
            <span className="quiet">green</span>
          </li>
        ))}
      </Changes>
    </>
  );
}

function Row({ name, value }: { name: string; value: string }) {
  return (
    <TableRow>
      <TableCell>{name}</TableCell>
      <TableCell align="right" className="figure">
        {value}
      </TableCell>
    </TableRow>
  );
}

function Swatch({ colour }: { colour: string }) {
  return (
    <Box
      component="i"
      sx={{
        display: 'inline-block',
        width: 12,
        height: 12,
        border: '1px solid var(--rule)',
        verticalAlign: '-2px',
        bgcolor: `#${colour}`,
      }}
    />
  );
}
