import { Mutex } from 'async-mutex';
import { eq } from 'drizzle-orm';
import type { Sharp } from 'sharp';
import type { PlacedOn, View } from '../../../contract/index.ts';
import { fingerprintOf, type Order } from '../../../core/cut/index.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import { onBackground, shownAs, underCrop, type Crop, type Placement } from '../../../core/place/index.ts';
import type { Database } from '../../database/connect.ts';
import { backgrounds, placements } from '../../database/schema.ts';
import { Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { fromRaster } from '../../pictures/encode.ts';
import { LookedAt } from '../../pictures/lookedAt.ts';
import { cutoutRegion } from '../../pictures/views.ts';
import { ordersOf } from '../extract/readOrders.ts';
import type { FoundFrame } from './frames.ts';

/** Full-size pixels of parts of frames. */
export class Regions {
  private readonly looked = new LookedAt();
  /** What is computed for a look is computed one after the other, so that what nobody waits for any more is left out. */
  private readonly turn = new Mutex();

  constructor(private readonly context: Context) {}

  /**
   * @param on another place than the frame’s own, for the view on a background.
   * @param gone given if the cut is wanted as it is ordered now, made or not: tells whether nobody waits any more.
   * @returns undefined if nobody waits any more.
   */
  async show(
    found: FoundFrame,
    view: View,
    region: Crop,
    { gone, on }: { gone?: () => boolean; on?: PlacedOn | null } = {},
  ): Promise<Sharp | undefined> {
    const { frame } = found;
    if (view === 'photograph') {
      const picture = await this.looked.open(await this.context.store.need(frame.file, 'this photograph'));
      return picture.extract(region).toColourspace('srgb');
    }
    const part = gone ? await this.ordered(found, region, gone) : await this.stored(found, region);
    if (!part) return undefined;
    if (view !== 'background') return fromRaster(shownAs(part, view));
    const placed = await (on ? standingOn(this.context.database, on) : placedOf(this.context.database, frame.id));
    if (!placed) return fromRaster(shownAs(part, 'grey'));
    const path = await this.context.store.need(placed.background, 'the background');
    const behind = underCrop(await this.looked.raster(path), frame, placed.placement, region);
    return fromRaster(onBackground(part, behind));
  }

  private async stored({ cut }: FoundFrame, region: Crop): Promise<Cutout> {
    if (!cut) throw notCut();
    return cutoutRegion(await this.context.store.need(cut.file, 'this cut'), region);
  }

  private async ordered(found: FoundFrame, region: Crop, gone: () => boolean): Promise<Cutout | undefined> {
    const { database, pools } = this.context;
    const { frame, cut } = found;
    const orderNow = async (): Promise<Order | null | undefined> =>
      (await ordersOf(database, { frameIds: [frame.id] })).get(frame.id);
    const order = await orderNow();
    if (!order || cut?.fingerprint === fingerprintOf(order)) return this.stored(found, region);
    return this.turn.runExclusive(async () => {
      if (gone()) return undefined;
      const made = await pools.run('look', 'look', { photograph: frame.file, order, region });
      if (!made.ok) throw new Refusal(409, made);
      return made.output;
    });
  }
}

/** The background that a frame stands on, by its hash, and where. */
export async function placedOf(
  database: Database,
  frameId: number,
): Promise<{ background: string; placement: Placement } | undefined> {
  const [row] = await database
    .select({ background: backgrounds.file, placement: placements })
    .from(placements)
    .innerJoin(backgrounds, eq(backgrounds.id, placements.backgroundId))
    .where(eq(placements.frameId, frameId));
  return row;
}

/** A background by its hash, with a place on it; undefined if it is gone. */
async function standingOn(
  database: Database,
  placement: PlacedOn,
): Promise<{ background: string; placement: Placement } | undefined> {
  const [row] = await database
    .select({ background: backgrounds.file })
    .from(backgrounds)
    .where(eq(backgrounds.id, placement.backgroundId));
  return row && { ...row, placement };
}

type Cutout = EncodedRaster & { channels: 4 };

export function notCut(): Refusal {
  return new Refusal(409, { reason: 'this frame has not been extracted yet', remedy: 'Extract it first.' });
}
