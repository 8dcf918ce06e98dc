import { render } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { vi } from 'vitest';
import type { Background, Frame } from '../../contract/index.ts';
import { someBackground, someCut, someFrame, someShoot } from '../../contract/testing/items.ts';
import {
  defaultLook,
  noExtras,
  type Extent,
  type Extras,
  type Look,
  type StandingModel,
  type Tones,
} from '../../core/place/index.ts';
import type { Face } from '../../core/persons/faces.ts';
import { kept, takeItems, useStore } from '../state/store.ts';
import { PlacePage } from '../stations/place/PlacePage.tsx';
import { standInServer, type Asked } from './server.ts';
import { standInWorker } from './worker.ts';

/** The page Place before a server and a worker that are stand-ins. */

export const hall = someBackground({ id: 1, name: 'Hall', width: 600, picture: 'b1' });
export const beach = someBackground({ id: 2, name: 'Beach', width: 300, picture: 'b2' });
export const dusk = someBackground({ id: 3, name: 'Dusk', width: 300, picture: 'b3' });
export const at = { backgroundId: 1, x: 0.5, y: 1, height: 0.8, look: {} };

/** What the server tells: the look, extras and standing of the hall's style, from which side person and hall are lit, and fringes. */
export interface Told {
  look: Look;
  extras: Extras;
  standing: StandingModel | null;
  sides: { person: number; hall: number };
  backgrounds: Background[];
  /** What is foretold of a frame’s fringe. */
  fringe: Record<number, number>;
}
let told: Told;
let heard: Asked[];
let frames: Frame[];

/** Before each test. */
export function prepareBench(): Told {
  told = {
    look: defaultLook,
    extras: noExtras,
    standing: null,
    sides: { person: 0, hall: 0 },
    backgrounds: [hall, beach, dusk],
    fringe: {},
  };
  standInWorker({});
  // A stage of 636 × 436 pixels holds the hall at 600 × 400.
  vi.stubGlobal(
    'ResizeObserver',
    class {
      constructor(private readonly seen: () => void) {}
      observe(element: HTMLElement): void {
        Object.defineProperty(element, 'clientWidth', { value: 636, configurable: true });
        Object.defineProperty(element, 'clientHeight', { value: 436, configurable: true });
        this.seen();
      }
      disconnect(): void {
        // Nothing is kept.
      }
      unobserve(): void {
        // Nothing is kept.
      }
    },
  );
  HTMLElement.prototype.setPointerCapture = () => undefined;
  return told;
}

const tonesAt = (path: string): Tones => ({
  black: [0.01, 0.01, 0.02],
  middle: [0.2, 0.2, 0.2],
  white: [0.6, 0.6, 0.6],
  level: 0.2,
  light: [1, 1, 1],
  saturation: 0.3,
  blur: 0.7,
  grain: 0.004,
  side: path.includes('/frames/') ? told.sides.person : told.sides.hall,
});

/** The page with these frames. */
export function show(...given: Frame[]): void {
  frames = given;
  kept.styles.clear();
  kept.frames.clear();
  useStore.setState({
    shoot: someShoot(),
    frames: given,
    setups: [],
    backgrounds: told.backgrounds,
    styles: [],
    steps: [],
    undone: [],
    unsaved: 0,
  });
  takeItems(undefined, { frames: given });
  heard = standInServer(({ path, body }) => {
    if (path.includes('/tones')) return { tones: tonesAt(path) };
    const [, fringed] = /frames\/(\d+)\/fringe/.exec(path) ?? [];
    if (fringed) return { seen: [told.fringe[Number(fringed)] ?? 0] };
    if (path === '/api/luts') return [{ id: 5, name: 'Warm print', size: 17 }];
    if (path.startsWith('/api/backgrounds/')) {
      const { seen: _, ...to } = body as { seen: object };
      told.backgrounds = told.backgrounds.map((one) => (path.endsWith(`/${one.id}`) ? { ...one, ...to } : one));
      return told.backgrounds.find(({ id }) => path.endsWith(`/${id}`));
    }
    if (path.includes('/styles/')) {
      const { look = {}, extras = {}, standing = told.standing } = body as Partial<Told>;
      Object.assign(told, { look: { ...told.look, ...look }, extras: { ...told.extras, ...extras }, standing });
      return {
        id: 9,
        revision: heard.length + 1,
        backgroundId: 1,
        look: told.look,
        extras: told.extras,
        standing: told.standing,
      };
    }
    const { frameIds, placement } = body as { frameIds?: number[]; placement: Frame['placement'] };
    return frames.filter(({ id }) => !frameIds || frameIds.includes(id)).map((frame) => ({ ...frame, placement }));
  });
  render(
    <MemoryRouter>
      <PlacePage />
    </MemoryRouter>,
  );
}
/** The hall has a style, as the server tells it. */
export function showStyled(...given: Frame[]): void {
  show(...given);
  const { look, extras, standing } = told;
  takeItems(undefined, { styles: [{ id: 9, revision: 1, backgroundId: 1, look, extras, standing }] });
}

export const writes = (): Asked[] => heard.filter(({ method }) => method === 'PUT' || method === 'PATCH');
export const put = (): {
  frameIds: number[];
  placement: NonNullable<Frame['placement']>;
  places: { x: number; y: number }[];
} => {
  const last = heard.findLast(({ method }) => method === 'PUT');
  if (!last) throw new Error('nothing was placed');
  return last.body as ReturnType<typeof put>;
};
export const person = (id: number, part: Partial<Frame> = {}): Frame => someFrame(id, { ...someCut(), ...part });
export const cutWith = (extent: Extent, faces: Face[] = []): Frame['cut'] => {
  const { cut } = someCut();
  return cut && { ...cut, faces, quality: { ...cut.quality, extent } };
};
