import type {
  Background,
  BackgroundChange,
  Frame,
  OwnPlace,
  PlacedOn,
  Style,
  StyleChange,
} from '../../contract/index.ts';
import { layChange } from '../../contract/merge.ts';
import { grouped } from '../../core/gather/grouped.ts';
import type { Extras } from '../../core/place/extras.ts';
import type { Look } from '../../core/place/look.ts';
import type { StandingModel } from '../../core/place/standing.ts';
import { api } from './api.ts';
import { change, fieldsOf, saved } from './change.ts';
import { untilAnswered } from './request.ts';
import { attempt, changingLibrary, takeItems, useStore } from './store.ts';

/** Changes at Place: where people stand, how pictures look, and what is known of backgrounds. */

const { setState, getState } = useStore;

function savePlacement(
  shootId: number,
  ids: number[],
  placement: PlacedOn | null,
  places: readonly OwnPlace[] = [],
): Promise<boolean> {
  const own = new Map(places.map(({ id, ...place }) => [id, place]));
  return change({
    kind: 'frames',
    ids,
    lay: (frame) => ({
      ...frame,
      placement: placement && {
        ...placement,
        others: ids.length === 1 ? placement.others : frame.placement?.others,
        ...own.get(frame.id),
      },
    }),
    sameOrders: true,
    sending: { call: 'place', args: [shootId, placement, ids, places] },
  });
}

/** Frames that are put on one background. */
export interface Putting {
  frames: readonly Frame[];
  placement: PlacedOn;
  /** Of single frames, where they do not stand as the others. */
  places?: readonly OwnPlace[];
}

/** Puts frames on backgrounds, as one step. Taking it back restores each frame's own earlier placement. */
export function placeAll(shootId: number, all: readonly Putting[], label: string): Promise<void> {
  const before = all.flatMap(({ frames }) => frames.map(({ id, placement: old }) => ({ id, old })));
  return saved(
    label,
    async () => {
      const made = await Promise.all(
        all.map(({ frames, placement, places }) =>
          savePlacement(
            shootId,
            frames.map(({ id }) => id),
            placement,
            places,
          ),
        ),
      );
      return made.every(Boolean);
    },
    () => Promise.all(before.map(({ id, old }) => savePlacement(shootId, [id], old))),
  );
}

/** Puts frames on one background; see `placeAll`. */
export function placeFrames(
  shootId: number,
  frames: readonly Frame[],
  placement: PlacedOn,
  label: string,
  places: readonly OwnPlace[] = [],
): Promise<void> {
  return placeAll(shootId, [{ frames, placement, places }], label);
}

/**
 * Changes how the finished pictures on a background look; can be taken back. What another window changed meanwhile
 * stays.
 */
export function changeStyle(shootId: number, backgroundId: number, to: StyleChange, label: string): Promise<void> {
  const there = getState().styles.find((style) => style.backgroundId === backgroundId);
  // The first look of a background: nothing is there yet to be shown changed.
  if (!there) return startStyle(shootId, backgroundId, to).then(() => undefined);
  const seen = seenOf(there, to);
  return saved(
    label,
    () => saveStyle(shootId, there, seen, to),
    () => saveStyle(shootId, there, to, seen),
  );
}

/**
 * Says how people stand on a background, for whoever is put there later, and moves some who are there already; one step.
 * @param places of those who are moved; each keeps its own look and whom it has beside it.
 */
export async function keepStanding(
  shootId: number,
  backgroundId: number,
  standing: StandingModel,
  places: readonly OwnPlace[],
): Promise<void> {
  const style =
    getState().styles.find((one) => one.backgroundId === backgroundId) ?? (await startStyle(shootId, backgroundId, {}));
  if (!style) return;
  const moved = getState().frames.flatMap(({ id, placement }) =>
    placement && places.some((place) => place.id === id) ? [{ id, placement }] : [],
  );
  const before = moved.map(({ id, placement: { x, y, height } }) => ({ id, x, y, height }));
  const groups = [...grouped(moved, ({ placement }) => JSON.stringify(placement.look)).values()];
  const move = async (to: readonly OwnPlace[]): Promise<boolean> => {
    const made = await Promise.all(
      groups.map((own) => {
        const ids = own.map(({ id }) => id);
        return savePlacement(
          shootId,
          ids,
          own[0].placement,
          to.filter(({ id }) => ids.includes(id)),
        );
      }),
    );
    return made.every(Boolean);
  };
  const seen = seenOf(style, { standing });
  await saved(
    'standing',
    async () => (await saveStyle(shootId, style, seen, { standing })) && (await move(places)),
    async () => (await saveStyle(shootId, style, { standing }, seen)) && (await move(before)),
  );
}

async function startStyle(shootId: number, backgroundId: number, to: StyleChange): Promise<Style | undefined> {
  const style = await attempt(api.changeStyle(shootId, backgroundId, to, {}));
  if (style) takeItems(shootId, { styles: [style] });
  return style;
}

function saveStyle(
  shootId: number,
  { id, backgroundId }: Style,
  seen: StyleChange,
  next: StyleChange,
): Promise<boolean> {
  return change({
    kind: 'styles',
    ids: [id],
    sameOrders: true,
    lay: (style) => ({
      ...style,
      look: layChange<Look>(style.look, seen.look ?? {}, next.look ?? {}),
      extras: layChange<Extras>(style.extras, seen.extras ?? {}, next.extras ?? {}),
      standing: next.standing === undefined ? style.standing : next.standing,
    }),
    sending: { call: 'changeStyle', args: [shootId, backgroundId, next, seen] },
  });
}

/** What a change to a style is made on. */
function seenOf(style: Style, to: StyleChange): StyleChange {
  return {
    ...(to.look ? { look: fieldsOf<Look>(style.look, to.look) } : {}),
    ...(to.extras ? { extras: fieldsOf<Extras>(style.extras, to.extras) } : {}),
    ...(to.standing === undefined ? {} : { standing: style.standing }),
  };
}

/** Changes what is known of a background, for all shoots; can be taken back. */
export function changeBackground({ id }: Background, to: BackgroundChange, label: string): Promise<void> {
  const now = getState().backgrounds.find((background) => background.id === id);
  if (!now) return Promise.resolve();
  const put = (lay: (background: Background) => Background): void =>
    setState(({ backgrounds }) => ({ backgrounds: backgrounds.map((one) => (one.id === id ? lay(one) : one)) }));
  const save = async (seen: BackgroundChange, next: BackgroundChange): Promise<boolean> =>
    changingLibrary(async () => {
      put((background) => layChange<Background>(background, seen, next));
      const saved = await attempt(untilAnswered(() => api.changeBackground(id, { ...next, seen })));
      const stands = saved ?? (await attempt(api.backgrounds()))?.find((one) => one.id === id);
      if (stands) put(() => stands);
      return saved !== undefined;
    });
  const seen = fieldsOf<BackgroundChange>(now, to);
  return saved(
    label,
    () => save(seen, to),
    () => save(to, seen),
  );
}
