import { Autocomplete, Box, Button, TextField } from '@mui/material';
import type { Background } from '../../../contract/index.ts';
import { Fragment } from 'react';
import { miredOf, plainSides, type Look, type SceneFacts, type Tones } from '../../../core/place/index.ts';
import { sceneRanges, waysKnown } from '../../../core/place/scene.ts';
import { Choice } from '../../shared/Choice.tsx';
import { NameField } from '../../shared/NameField.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import { Actions, Fields } from '../../shared/layout.tsx';
import { changeBackground } from '../../state/placing.ts';
import { useStore } from '../../state/store.ts';
import { LensByLines, lensInWords } from './LensByLines.tsx';
import type { PlaceBench } from './usePlaceBench.ts';

/** What a fact starts with when it is marked. */
type Fact = keyof typeof sceneRanges;
const started: Record<Fact, number> = { horizon: 0.5, cameraHeight: 1.5, focal: 35, lightFrom: 0 };
const why: Record<Fact, string> = {
  horizon:
    'Where sea and sky meet, or where lines of floors and walls run together. Drag the line in the picture, or type.',
  cameraHeight: 'Everybody who stands on that ground meets the horizon at this height.',
  focal:
    'With it and the horizon the tilt of the camera is known, and how far away somebody stands; not so of a picture that was cropped.',
  lightFrom: 'From which side the sun or the lamps of the scene come.',
};
const facts = Object.keys(sceneRanges) as Fact[];

/** What is known of a background beside its pixels: its name, words to find it by, horizon, camera and light. */
export function ScenePanel({
  background,
  all,
  tones,
  look,
  bench,
}: {
  background: Background;
  all: readonly Background[];
  /** What was measured of it; undefined until that is there. */
  tones: Tones | undefined;
  look: Look;
  bench: PlaceBench;
}) {
  const { name, tags, scene } = background;
  const change = (fact: Fact, value: number | null): void =>
    void changeBackground(background, { scene: byHand(scene, fact, value) }, sceneRanges[fact].label.toLowerCase());
  return (
    <>
      <Box sx={{ pb: 1 }}>
        <NameField
          label="Name of the background"
          name={name}
          onChange={(typed) => void changeBackground(background, { name: typed }, 'name of a background')}
        />
      </Box>
      <Autocomplete
        multiple
        freeSolo
        size="small"
        options={[...new Set(all.flatMap((one) => one.tags))].filter((tag) => !tags.includes(tag))}
        value={tags}
        onChange={(_, next) => {
          const words = [...new Set(next.map((word) => word.trim().slice(0, 40)).filter(Boolean))].slice(0, 20);
          void changeBackground(background, { tags: words }, `words of ${name}`);
        }}
        renderInput={(params) => <TextField {...params} label="Words to find it by" helperText="Enter adds a word" />}
      />
      {facts.map((fact) => {
        const { label, unit, min, max, step } = sceneRanges[fact];
        const value = scene[fact];
        const share = unit.startsWith('%');
        return (
          <Box key={fact} sx={{ borderTop: 1, borderColor: 'divider', mt: 1.25, pt: 1 }}>
            {value === null ? (
              <Actions>
                <strong>{label}</strong>
                <span className="quiet">not known</span>
                <Button variant="text" sx={{ ml: 'auto' }} onClick={() => change(fact, started[fact])}>
                  Mark it
                </Button>
              </Actions>
            ) : (
              <Fields as="div">
                <NumberField
                  label={label}
                  unit={unit}
                  value={value}
                  min={min}
                  max={max}
                  step={step}
                  factor={share ? 100 : 1}
                  digits={share ? 1 : 2}
                  onChange={(next) => change(fact, next)}
                />
                <Button variant="text" sx={{ justifySelf: 'start', ml: -0.75 }} onClick={() => change(fact, null)}>
                  Forget it
                </Button>
              </Fields>
            )}
            <p className="quiet">
              {why[fact]}
              {value !== null && scene.by[fact] && ` Known ${waysKnown[scene.by[fact]]}.`}
              {fact === 'focal' &&
                value !== null &&
                scene.horizon !== null &&
                ` That is ${lensInWords(scene.horizon, value, background)}.`}
            </p>
            {fact === 'horizon' && <LensByLines background={background} look={look} bench={bench} />}
          </Box>
        );
      })}
      <Box sx={{ borderTop: 1, borderColor: 'divider', mt: 1.25, pt: 1 }}>
        <TextField
          key={scene.notes}
          multiline
          fullWidth
          size="small"
          label="How it was taken"
          helperText="Lens, distance, sensitivity, shutter, time of day: for whoever lights the people who will stand here"
          defaultValue={scene.notes}
          slotProps={{ htmlInput: { maxLength: 300 } }}
          onBlur={({ target }) => {
            const notes = target.value.trim();
            if (notes !== scene.notes)
              void changeBackground(background, { scene: { ...scene, notes } }, 'notes of a background');
          }}
        />
      </Box>
      <MeasuredFacts background={background} tones={tones} />
      <BallFact background={background} />
      <Box sx={{ borderTop: 1, borderColor: 'divider', mt: 1.25, pt: 1 }}>
        {background.removed ? (
          <>
            <p>It is no longer offered; whoever stands on it still does.</p>
            <Button onClick={() => void changeBackground(background, { removed: false }, `return of ${name}`)}>
              Offer it again
            </Button>
          </>
        ) : (
          <>
            <Button onClick={() => void changeBackground(background, { removed: true }, `removal of ${name}`)}>
              Remove from the library
            </Button>
            <p className="quiet">Whoever stands on it still does, in this and in other shoots.</p>
          </>
        )}
      </Box>
    </>
  );
}

/** A scene of which a hand said something, or took it back. */
export function byHand(scene: SceneFacts, fact: Fact, value: number | null): SceneFacts {
  const { [fact]: _, ...by } = scene.by;
  return { ...scene, [fact]: value, by };
}

/** What is measured of its pixels. */
function MeasuredFacts({ background: { width, height }, tones }: { background: Background; tones: Tones | undefined }) {
  const rows: [string, string][] = [
    ['Size', `${width} × ${height}`],
    ...(tones
      ? ([
          ['Prints at 300 dots an inch', `${inMillimetres(width)} × ${inMillimetres(height)} mm`],
          ['Sharpest edges', tones.blur > 0 ? `${tones.blur.toFixed(1)} px` : 'none to tell by'],
          ['Grain', `${(1000 * tones.grain).toFixed(1)} ‰`],
          ['Warmer than daylight', `${Math.round(miredOf(tones.light))} mired`.replace('-', '−')],
          ['Lighter side', Math.abs(tones.side) < plainSides.scene ? 'neither' : tones.side > 0 ? 'right' : 'left'],
        ] satisfies [string, string][])
      : []),
  ];
  return (
    <Box sx={{ borderTop: 1, borderColor: 'divider', mt: 1.25, pt: 1 }}>
      <strong>Measured</strong>
      <Fields>
        {rows.map(([name, value]) => (
          <Fragment key={name}>
            <dt>{name}</dt>
            <dd className="figure">{value}</dd>
          </Fragment>
        ))}
      </Fields>
    </Box>
  );
}

const inMillimetres = (pixels: number): number => Math.round((pixels / 300) * 25.4);

/** A ball photographed where the background was taken, from one of this shoot's rounds at Check. */
function BallFact({ background }: { background: Background }) {
  const checks = useStore((state) => state.checks);
  const setups = useStore((state) => state.setups);
  const { scene, name } = background;
  const rounds = checks.flatMap(({ id, setupId, findings }, n) => {
    const light = findings?.background?.light;
    const setup = setups.find((one) => one.id === setupId)?.name ?? '';
    return light ? [{ value: `${id}`, title: `round ${n + 1}, ${setup}`, light }] : [];
  });
  const kept = scene.ball && rounds.find(({ light }) => light.red.every((v, n) => v === scene.ball?.red[n]));
  return (
    <Box sx={{ borderTop: 1, borderColor: 'divider', mt: 1.25, pt: 1 }}>
      <Choice
        label="Ball there"
        value={kept ? kept.value : scene.ball ? 'kept' : ''}
        options={[
          { value: '', title: 'none' },
          ...(scene.ball && !kept ? [{ value: 'kept', title: 'measured' }] : []),
          ...rounds,
        ]}
        onChange={(value) => {
          if (value === 'kept') return;
          const light = rounds.find((round) => round.value === value)?.light ?? null;
          void changeBackground(background, { scene: { ...scene, ball: light } }, `ball of ${name}`);
        }}
      />
      <p className="quiet">
        A matt ball photographed there, exposed as the background, and read at Check as “background”. With one at the
        person’s place too, brightness, colour and side of the light are matched by what both balls show.
      </p>
    </Box>
  );
}
