import { Fragment, useMemo } from 'react';
import { Circle, Group, Image, Label, Layer, Line, Rect, Stage, Tag, Text } from 'react-konva';
import type { Figure } from '../../../core/cut/gestures.ts';
import type { HandMask } from '../../../core/cut/guidance.ts';
import { coverRow } from '../../../core/image/polygon.ts';
import type { PathPoint } from '../../../core/touch/touch.ts';
import type { Place } from '../../../core/cut/places.ts';
import type { LedgerEntry } from '../../../core/cut/quality.ts';
import { tones, words } from '../../theme.ts';
import { areaOf, LEAST_CORNERS, outlineOf, type Drawing } from './maskFacts.ts';
import type { Sizing } from './Questions.tsx';
import type { Brush } from './touches.ts';
import { verdictWords, worthLooking } from './verdicts.ts';
import type { Projection } from './sight.ts';

interface Props {
  projection: Projection;
  /** Patches to be shown; none while something else is looked at. */
  ledger: LedgerEntry[];
  chosen: number | undefined;
  masks: readonly HandMask[];
  drawing: Drawing | undefined;
  /** What all people of the setup cover, while a crop is drawn. */
  gestures?: Figure;
  /** The drawing with its corners moved. */
  onDraw: (drawing: Drawing) => void;
  /** The first corner was pressed. */
  onClose: () => void;
  looking: Place | undefined;
  /** The stroke under way. */
  stroke: { brush: Pick<Brush, 'zone' | 'size' | 'kind'>; points: PathPoint[] } | undefined;
  /** A size that is being set, shown to scale in the middle. */
  sizing: Sizing | undefined;
}

/** What masks are filled with: what goes darkens, what stays lightens. */
const fills: Record<HandMask['effect'], string | undefined> = {
  clear: 'rgba(0,0,0,0.35)',
  solid: 'rgba(255,255,255,0.35)',
  crop: undefined,
  sheer: undefined,
  spillLeft: 'rgba(60,160,80,0.25)',
  spillGone: 'rgba(200,60,160,0.25)',
  own: undefined,
  screen: undefined,
};

/** Marks over the picture; lines are drawn twice, so that they show on dark and on light. */
export function Marks(props: Props) {
  const { projection, ledger, chosen, masks, drawing, gestures, onDraw, onClose, looking, sizing, stroke } = props;
  const worth = worthLooking(ledger);
  return (
    <Stage
      width={projection.width}
      height={projection.height}
      style={{ pointerEvents: drawing ? 'auto' : 'none' }}
      listening={!!drawing}
    >
      <Layer>
        {ledger.map(
          (entry, n) =>
            (n === chosen || worth.includes(n)) && (
              <Fragment key={n}>
                <Outlined
                  points={cornersOf(entry.place, projection)}
                  width={n === chosen ? 2.5 : 1}
                  dash={entry.doubtful ? [5, 4] : undefined}
                />
                {(n === chosen || entry.share > 0.002) && (
                  <Words
                    {...projection.project(entry.place)}
                    text={`${verdictWords[entry.verdict].toLowerCase()}${entry.doubtful ? '?' : ''}`}
                  />
                )}
              </Fragment>
            ),
        )}
        {masks.map((mask, n) => (
          <Outlined key={n} points={flat(mask.polygon, projection)} width={2} fill={fills[mask.effect]} />
        ))}
        {looking && <Outlined points={cornersOf(looking, projection)} width={2.5} />}
        {stroke && <Stroked projection={projection} {...stroke} />}
        {sizing && sizing.across > 0 && <Size projection={projection} sizing={sizing} />}
        {gestures && drawing && <Gestured projection={projection} gestures={gestures} drawing={drawing} />}
        {drawing && <Drawn projection={projection} drawing={drawing} onDraw={onDraw} onClose={onClose} />}
      </Layer>
    </Stage>
  );
}

/** The stroke under way, as wide as it will be. */
function Stroked({ projection, brush, points }: { projection: Projection } & NonNullable<Props['stroke']>) {
  const at = flat(points.length === 1 ? [points[0], points[0]] : points, projection);
  const width = brush.zone ? 2 : Math.max(1, brush.size * projection.frameHeight);
  const tone = { add: '#fff', take: '#000' }[brush.kind as string] ?? tones.accent;
  return (
    <Line
      points={at}
      closed={brush.zone}
      stroke={brush.zone ? tones.accent : tone}
      fill={brush.zone ? 'rgba(133,31,107,0.16)' : undefined}
      strokeWidth={width}
      opacity={brush.zone ? 1 : 0.5}
      lineCap="round"
      lineJoin="round"
      listening={false}
    />
  );
}

/** All gestures of the setup: what the crop leaves in the accent's wash, what it would take in the accent itself. */
function Gestured({
  projection,
  gestures: { width, height, data },
  drawing,
}: {
  projection: Projection;
  gestures: Figure;
  drawing: Drawing;
}) {
  const { corners, rounded } = drawing;
  const picture = useMemo(() => {
    const canvas = document.createElement('canvas');
    canvas.width = width;
    canvas.height = height;
    const pixels = new ImageData(width, height);
    const outline = corners.length >= LEAST_CORNERS ? outlineOf({ corners, rounded }) : undefined;
    for (let y = 0, p = 0; y < height; y++) {
      const inside = outline && coverRow(outline, y, width, height);
      for (let x = 0; x < width; x++, p++) {
        const taken = outline !== undefined && (inside?.[x] ?? 0) < 0.5;
        pixels.data.set([133, 31, 107, Math.round(data[p] * (taken ? TAKEN : LEFT))], p * 4);
      }
    }
    canvas.getContext('2d')?.putImageData(pixels, 0, 0);
    return canvas;
  }, [width, height, data, corners, rounded]);
  const from = projection.project({ x: 0, y: 0 });
  const to = projection.project({ x: 1, y: 1 });
  return <Image image={picture} {...from} width={to.x - from.x} height={to.y - from.y} listening={false} />;
}

/** How far gestures cover the picture: what a crop leaves of them, and what it takes. */
const LEFT = 0.3;
const TAKEN = 0.9;

/** The mask that is being drawn: the accent's line, numbered corners that can be dragged, and its area. */
function Drawn({
  projection,
  drawing,
  onDraw,
  onClose,
}: Pick<Props, 'projection' | 'onDraw' | 'onClose'> & { drawing: Drawing }) {
  const { corners } = drawing;
  const closes = corners.length >= LEAST_CORNERS;
  const middle = {
    x: corners.reduce((sum, { x }) => sum + x, 0) / corners.length,
    y: corners.reduce((sum, { y }) => sum + y, 0) / corners.length,
  };
  const outline = outlineOf(drawing);
  const points = flat(outline, projection);
  // Of a line drawn in one go the corners would hide what they go round.
  const small = corners.length > MOST_NUMBERED;
  return (
    <Group>
      <Line points={points} closed={closes} stroke="#fff" strokeWidth={4} opacity={0.85} listening={false} />
      <Line
        points={points}
        closed={closes}
        stroke={tones.accent}
        strokeWidth={2}
        fill={closes ? 'rgba(133,31,107,0.16)' : undefined}
        listening={false}
      />
      {closes && <Words {...projection.project(middle)} text={`${(100 * areaOf(outline)).toFixed(1)} %`} />}
      {corners.map((corner, n) => {
        const at = projection.project(corner);
        const first = n === 0 && closes;
        return (
          <Group
            key={n}
            {...at}
            draggable
            // A press on a corner is none on the picture.
            onPointerDown={({ evt }) => evt.stopPropagation()}
            onPointerUp={({ evt }) => evt.stopPropagation()}
            onClick={() => first && onClose()}
            onTap={() => first && onClose()}
            onDragMove={({ target }) => {
              const moved = projection.unproject(target.position());
              onDraw({ ...drawing, corners: corners.map((one, k) => (k === n ? moved : one)) });
            }}
          >
            <Circle
              radius={first ? 10 : small ? 3 : 8}
              fill="#fff"
              stroke={tones.accent}
              strokeWidth={first ? 3 : 1.5}
              hitStrokeWidth={10}
            />
            <Text
              visible={first || !small}
              text={`${n + 1}`}
              fontFamily={words}
              fontSize={10}
              fill={tones.ink}
              width={20}
              height={20}
              offsetX={10}
              offsetY={9.5}
              align="center"
              verticalAlign="middle"
              listening={false}
            />
          </Group>
        );
      })}
    </Group>
  );
}

/** Corners that are shown with their numbers. */
const MOST_NUMBERED = 24;

/** A piece or gap of the size that is set, to the scale of the picture. */
function Size({ projection, sizing }: { projection: Projection; sizing: Sizing }) {
  const side = Math.max(1, sizing.across * projection.scale);
  const x = projection.width / 2;
  const y = projection.height / 2;
  const what = sizing.name === 'specks' ? 'smallest piece kept' : 'smallest gap kept';
  return (
    <>
      <Rect x={x - side / 2} y={y - side / 2} width={side} height={side} stroke="#fff" strokeWidth={3} />
      <Rect x={x - side / 2} y={y - side / 2} width={side} height={side} stroke={tones.accent} strokeWidth={1.5} />
      <Words x={x + side / 2 + 6} y={y - 9} text={`${what}, ${sizing.across} pixels across`} />
    </>
  );
}

function Outlined({ points, width, dash, fill }: { points: number[]; width: number; dash?: number[]; fill?: string }) {
  return (
    <>
      <Line points={points} closed stroke="#000" strokeWidth={width + 2} opacity={0.55} />
      <Line points={points} closed stroke="#fff" strokeWidth={width} dash={dash} fill={fill} />
    </>
  );
}

function Words({ x, y, text }: { x: number; y: number; text: string }) {
  return (
    <Label x={x + 2} y={y + 2} listening={false}>
      <Tag fill={tones.sheet} opacity={0.85} />
      <Text text={text} fontFamily={words} fontSize={12} padding={2} fill={tones.ink} />
    </Label>
  );
}

function flat(points: readonly { x: number; y: number }[], { project }: Projection): number[] {
  return points.map(project).flatMap(({ x, y }) => [x, y]);
}

function cornersOf({ x, y, width, height, outline }: Place, projection: Projection): number[] {
  if (outline?.length) {
    const shape = Array.from({ length: outline.length / 2 }, (_, n) => ({ x: outline[2 * n], y: outline[2 * n + 1] }));
    return flat(shape, projection);
  }
  const corners = [
    { x, y },
    { x: x + width, y },
    { x: x + width, y: y + height },
    { x, y: y + height },
  ];
  return flat(corners, projection);
}
