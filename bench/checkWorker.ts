import sharp from 'sharp';
import { jpegFacts } from '../core/image/jpegFacts.ts';
import type { EncodedRaster } from '../core/image/raster.ts';
import { reportOn, type Plan, type Vec } from '../core/plan/index.ts';
import { linearTable } from '../core/colour/transfer.ts';
import { angleBetween, anglesOf, checkSetup, type CauseId, type RehearsedCause } from '../core/screen/index.ts';
import { seededSet, shotsOf, takeFrame, type TakenFrame } from '../core/studio/index.ts';
import { fromRaster } from '../server/pictures/encode.ts';

export interface CheckCase {
  seed: number;
  causes: RehearsedCause[];
  width: number;
  /** Only the key of the set burns, for the ball. */
  keyAlone?: boolean;
}

/** What was read against what is true. */
export interface CheckResult {
  seed: number;
  causes: RehearsedCause[];
  /** Likeliest first. */
  named: CauseId[];
  ready: boolean;
  /** Read less true, stops: from the empty frame, and from the frame with somebody in it. */
  spreadError?: number;
  spreadErrorBehind?: number;
  /** Largest error of a side's uncovered strip, share of the frame's width. */
  boundaryError?: number;
  /** Angle between the read and the true direction of the main light, degrees. */
  ballError?: number;
}

/** Renders a set, photographs it as JPEG with halved chroma and reads it without knowing the plan. */
export default async function checkCase(one: CheckCase): Promise<CheckResult> {
  const whole = seededSet(one.seed, one.causes, one.width);
  const set = one.keyAlone
    ? {
        ...whole,
        plan: { ...whole.plan, lamps: whole.plan.lamps.filter(({ role }) => role === 'key' || role === 'screen') },
      }
    : whole;
  const shots = shotsOf(set, one.seed, one.width);
  const [frame, plate, ball, card] = await Promise.all(
    (['people', 'plate', 'ball', 'grey card'] as const).map((kind) => photographed(takeFrame(set.plan, shots[kind]))),
  );
  const report = checkSetup({
    frame: frame.raster,
    plate: plate.raster,
    ball: ball.raster,
    card: card.raster,
    jpeg: jpegFacts(plate.bytes),
  });
  const behind = checkSetup({ frame: frame.raster });
  const truth = reportOn(set.plan, 24, 4);
  const { width, height } = plate.raster;
  const missing = report.outline?.missing;
  const sides =
    missing &&
    (Object.keys(missing) as (keyof typeof missing)[]).map(
      (side) =>
        (missing[side] -
          truth.coverage.missing[side].pixels /
            (side === 'left' || side === 'right' ? set.plan.camera.pixelsAcross : set.plan.camera.pixelsDown)) *
        (side === 'left' || side === 'right' ? 1 : height / width),
    );
  return {
    seed: one.seed,
    causes: one.causes,
    named: report.causes.map(({ id }) => id),
    ready: report.ready,
    spreadError: report.spread && truth.evenness ? report.spread.spread - truth.evenness.spread : undefined,
    spreadErrorBehind: behind.spread && truth.evenness ? behind.spread.spread - truth.evenness.spread : undefined,
    boundaryError: sides && Math.max(...sides.map(Math.abs)),
    ballError: report.ball && angleBetween(report.ball, keyDirection(set.plan)),
  };
}

/** Noise of the empty screen as it is read ÷ that of the file. */
export async function noiseCase({ seed, causes, width }: CheckCase): Promise<number | undefined> {
  const { plan, ...set } = seededSet(seed, causes, width);
  const shot = shotsOf({ plan, ...set }, seed, width).plate;
  const plate = await photographed(takeFrame(plan, shot));
  const { noise } = checkSetup({ plate: plate.raster, jpeg: jpegFacts(plate.bytes) });
  return (
    noise &&
    1 /
      (noise.signalToNoise *
        noiseIn(
          plate.raster,
          takeFrame(plan, { ...shot, noiseless: true }).frame,
          plan.screen.colour === 'blue' ? 2 : 1,
        ))
  );
}

/**
 * Noise of the file as it is read, against its picture without noise: standard deviation of the screen's channel as a
 * share of its level.
 */
function noiseIn(noisy: EncodedRaster, clean: EncodedRaster, channel: 1 | 2): number {
  const a = linearTable(noisy.data);
  const b = linearTable(clean.data);
  let squares = 0;
  let level = 0;
  for (let o = channel; o < noisy.data.length; o += 3) {
    const truth = b[clean.data[o]];
    squares += (a[noisy.data[o]] - truth) ** 2;
    level += truth;
  }
  const count = noisy.data.length / 3;
  return Math.sqrt(squares / count) / (level / count);
}

/** Direction of the key from where the ball hangs. */
function keyDirection(plan: Plan): { azimuth: number; elevation: number } {
  const key = plan.lamps.find(({ role }) => role === 'key');
  const person = plan.people[0];
  const ball: Vec = { x: person.x, y: person.height * 0.93, z: person.z };
  const d = {
    x: (key?.position.x ?? 0) - ball.x,
    y: (key?.position.y ?? 0) - ball.y,
    z: (key?.position.z ?? 1) - ball.z,
  };
  const length = Math.hypot(d.x, d.y, d.z);
  return anglesOf({ x: d.x / length, y: d.y / length, z: d.z / length });
}

/** As the camera would write and the application would read it. */
export async function photographed(
  taken: TakenFrame,
  quality = 92,
): Promise<{ raster: EncodedRaster; bytes: Uint8Array }> {
  const bytes = await fromRaster(taken.frame)
    .toColourspace('srgb')
    .jpeg({ quality, chromaSubsampling: '4:2:0' })
    .toBuffer();
  const { data, info } = await sharp(bytes).raw().toBuffer({ resolveWithObject: true });
  return {
    raster: {
      width: info.width,
      height: info.height,
      channels: 3,
      data: new Uint8Array(data.buffer, data.byteOffset, data.length),
    },
    bytes,
  };
}
