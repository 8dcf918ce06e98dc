import { Box, Button } from '@mui/material';
import type { Background } from '../../../contract/index.ts';
import { lensByLines, lineWays, tiltOf, type Lens, type LineWay, type Look } from '../../../core/place/index.ts';
import { sceneRanges } from '../../../core/place/scene.ts';
import { Problem } from '../../shared/Problem.tsx';
import { Actions } from '../../shared/layout.tsx';
import { changeBackground } from '../../state/placing.ts';
import { startedLines, type PlaceBench } from './usePlaceBench.ts';

const titles: Record<LineWay, string> = { away: 'By lines that run away', up: 'By uprights' };

/** Horizon and focal length of a background, told by two lines that are laid along lines of the scene. */
export function LensByLines({ background, look, bench }: { background: Background; look: Look; bench: PlaceBench }) {
  const { lines, setLines } = bench;
  const { scene } = background;
  if (!lines)
    return (
      <Actions>
        {(Object.keys(lineWays) as LineWay[]).map((way) => (
          <Button key={way} variant="text" onClick={() => setLines(startedLines(way))}>
            {titles[way]}
          </Button>
        ))}
      </Actions>
    );
  const told = lensByLines(lines.way, lines.pair, look, background, scene);
  const lens = 'refused' in told ? undefined : told;
  const beyond = lens && outOfRange(lens);
  const take = ({ horizon, focal }: Lens): void => {
    setLines(undefined);
    const found = lines.way === 'up' && scene.focal === null ? { focal } : { horizon };
    const by = { ...scene.by, ...Object.fromEntries(Object.keys(found).map((name) => [name, 'lines' as const])) };
    void changeBackground(background, { scene: { ...scene, ...found, by } }, 'facts by lines');
  };
  return (
    <Problem role="status" lead="Lay both lines along edges">
      {lineWays[lines.way]}.{' '}
      <Box component="span" sx={{ color: 'text.primary' }}>
        {'refused' in told ? `They ${told.refused}.` : (beyond ?? inWords(told, background))}
      </Box>
      <Actions>
        <Button variant="text" disabled={!lens || beyond !== undefined} onClick={() => lens && take(lens)}>
          Take it
        </Button>
        <Button variant="text" onClick={() => setLines(undefined)}>
          Leave it
        </Button>
      </Actions>
    </Problem>
  );
}

function outOfRange({ horizon, focal }: Lens): string | undefined {
  const range = sceneRanges;
  if (horizon < range.horizon.min || horizon > range.horizon.max) return 'They put the horizon far out of the picture.';
  if (focal !== null && (focal < range.focal.min || focal > range.focal.max))
    return `They would mean a lens of ${Math.round(focal)} mm; lay them more exactly.`;
  return undefined;
}

function inWords({ horizon, focal }: Lens, background: Background): string {
  const at = `The horizon lies ${(100 * horizon).toFixed(1).replace('-', '−')} % from the top`;
  return focal === null ? `${at}.` : `${at}; ${lensInWords(horizon, focal, background)}.`;
}

/** “a lens of 29 mm, looking 4.2° down”. */
export function lensInWords(horizon: number, focal: number, background: Background): string {
  const tilt = tiltOf(horizon, focal, background);
  const way =
    Math.abs(tilt) < 0.3
      ? 'looking straight ahead'
      : `looking ${Math.abs(tilt).toFixed(1)}° ${tilt > 0 ? 'down' : 'up'}`;
  return `a lens of ${Math.round(focal)} mm, ${way}`;
}
