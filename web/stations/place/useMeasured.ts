import { useEffect, useMemo, useState } from 'react';
import type { Background, Frame } from '../../../contract/index.ts';
import type { Measured, Tones } from '../../../core/place/index.ts';
import type { Other } from '../../../core/place/people.ts';
import { api, pictures } from '../../state/api.ts';
import { attempt, useStore } from '../../state/store.ts';
import type { ShownOther } from '../../worker/picture.worker.ts';
import { ballsOf } from './knownLight.ts';

/** What was measured of pictures that never change, by the names of their files. */
const known = new Map<string, Promise<Tones | null | undefined>>();

function tonesAt(name: string, ask: () => Promise<{ tones: Tones | null }>): Promise<Tones | null | undefined> {
  const there = known.get(name);
  if (there) return there;
  const asked = attempt(ask()).then((answer) => {
    // What could not be had is asked for again the next time.
    if (!answer) known.delete(name);
    return answer?.tones;
  });
  known.set(name, asked);
  return asked;
}

/** What is measured of a frame's cut and of a background; undefined until it is there, or where nothing is solid. */
export function useMeasured(frame: Frame, background: Background | undefined): Measured | undefined {
  const [found, setFound] = useState<{ of: string; person: Tones; scene: Tones }>();
  const version = frame.cut?.version;
  const of = `${frame.id} ${version} ${background?.picture}`;
  useEffect(() => {
    if (!background || !version) return;
    let current = true;
    void Promise.all([
      tonesAt(`cut ${frame.id} ${version}`, () => api.cutTones(frame)),
      tonesAt(`background ${background.picture}`, () => api.backgroundTones(background.id)),
    ]).then(([person, scene]) => {
      if (current && person && scene) setFound({ of, person, scene });
    });
    return () => {
      current = false;
    };
  }, [frame, background, version, of]);
  const sizes = `${frame.width} ${frame.height} ${background?.width} ${background?.height}`;
  const lightFrom = background?.scene.lightFrom ?? null;
  const checks = useStore((state) => state.checks);
  const balls = JSON.stringify(ballsOf(frame, background, checks) ?? null);
  return useMemo(() => {
    if (found?.of !== of) return undefined;
    const [width, height, across, down] = sizes.split(' ').map(Number);
    const { person, scene } = found;
    return {
      person,
      scene,
      cut: { width, height },
      background: { width: across, height: down },
      lightFrom,
      balls: (JSON.parse(balls) as Measured['balls'] | null) ?? undefined,
    };
  }, [found, of, sizes, lightFrom, balls]);
}

/** The others of a picture as they are drawn, each measured as soon as that is there. */
export function useOthers(
  others: readonly Other[],
  frames: readonly Frame[],
  background: Background | undefined,
): ShownOther[] {
  const checks = useStore((state) => state.checks);
  const [tones, setTones] = useState<Record<string, Tones | null>>({});
  const shown = others.flatMap((other) => {
    const frame = frames.find(({ id }) => id === other.frameId);
    return frame?.cut ? [{ other, frame, cut: frame.cut }] : [];
  });
  const wanted = shown.map(({ frame, cut }) => `cut ${frame.id} ${cut.version}`);
  const scene = background && `background ${background.picture}`;
  const names = [...wanted, ...(scene ? [scene] : [])].join('|');
  useEffect(() => {
    if (!background || !shown.length) return;
    let current = true;
    const keep = (name: string, asked: Promise<Tones | null | undefined>): void =>
      void asked.then((found) => {
        if (current && found !== undefined) setTones((known) => (name in known ? known : { ...known, [name]: found }));
      });
    for (const { frame, cut } of shown) {
      const name = `cut ${frame.id} ${cut.version}`;
      keep(
        name,
        tonesAt(name, () => api.cutTones(frame)),
      );
    }
    keep(
      `background ${background.picture}`,
      tonesAt(`background ${background.picture}`, () => api.backgroundTones(background.id)),
    );
    return () => {
      current = false;
    };
    // What is measured is named by the files; the rest of a frame makes no difference.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [names]);
  return shown.map(({ other: { x, y, height, mirrored, where }, frame, cut }, n) => {
    const [person, there] = [tones[wanted[n]], scene ? tones[scene] : undefined];
    const measured =
      background && person && there
        ? {
            person,
            scene: there,
            cut: { width: frame.width, height: frame.height },
            background: { width: background.width, height: background.height },
            lightFrom: background.scene.lightFrom,
            balls: ballsOf(frame, background, checks),
          }
        : undefined;
    return { address: pictures.cutout(frame.id, cut.version), placement: { x, y, height }, mirrored, where, measured };
  });
}
