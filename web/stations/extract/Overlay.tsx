import type { HandMask } from '../../../core/cut/guidance.ts';
import type { LedgerEntry, Place } from '../../../core/cut/quality.ts';
import { worthLooking } from './LedgerPanel.tsx';
import type { Drawing } from './MasksPanel.tsx';

type Project = (point: { x: number; y: number }) => { x: number; y: number };

interface Props {
  project: Project;
  /** Patches to be shown; none while something else is looked at. */
  ledger: LedgerEntry[];
  chosen: number | undefined;
  masks: readonly HandMask[];
  drawing: Drawing | undefined;
  looking: Place | undefined;
}

/** Marks over the picture, each drawn twice so that they show on dark and on light. */
export function Overlay({ project, ledger, chosen, masks, drawing, looking }: Props) {
  const worth = worthLooking(ledger);
  return (
    <>
      {ledger.map(
        (entry, n) =>
          (n === chosen || worth.includes(n)) && (
            <g key={n} className={`patch${n === chosen ? ' chosen' : ''}${entry.doubtful ? ' doubtful' : ''}`}>
              <Frame place={entry.place} project={project} />
              {(n === chosen || entry.share > 0.002) && (
                <Words
                  place={entry.place}
                  project={project}
                  words={`${entry.verdict === 'keep' ? 'keeps' : 'goes'}${entry.doubtful ? '?' : ''}`}
                />
              )}
            </g>
          ),
      )}
      {masks.map((mask, n) => (
        <Corners key={n} points={mask.polygon.map(project)} name={`hand-mask ${mask.effect}`} />
      ))}
      {looking && (
        <g className="patch chosen">
          <Frame place={looking} project={project} />
        </g>
      )}
      {drawing && drawing.corners.length > 0 && (
        <>
          <Corners points={drawing.corners.map(project)} name="hand-mask drawn" />
          {drawing.corners.map(project).map(({ x, y }, n) => (
            <rect key={n} x={x - 3} y={y - 3} width={6} height={6} className="corner" />
          ))}
        </>
      )}
    </>
  );
}

function Frame({ place, project }: { place: Place; project: Project }) {
  const a = project(place);
  const b = project({ x: place.x + place.width, y: place.y + place.height });
  const box = { x: a.x, y: a.y, width: b.x - a.x, height: b.y - a.y };
  return (
    <>
      <rect {...box} className="under" />
      <rect {...box} className="line" />
    </>
  );
}

function Words({ place, project, words }: { place: Place; project: Project; words: string }) {
  const a = project(place);
  return (
    <text x={a.x + 4} y={a.y + 14}>
      {words}
    </text>
  );
}

function Corners({ points, name }: { points: { x: number; y: number }[]; name: string }) {
  const list = points.map(({ x, y }) => `${x},${y}`).join(' ');
  return (
    <g className={name}>
      <polygon points={list} className="under" />
      <polygon points={list} className="line" />
    </g>
  );
}
