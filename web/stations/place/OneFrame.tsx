import { Box } from '@mui/material';
import { useState } from 'react';
import type { Background, Frame, Shoot } from '../../../contract/index.ts';
import { clampPlacement, defaultPlacement, goesOnBelow, type Placement } from '../../../core/place/placement.ts';
import type { Rgb } from '../../../core/plan/exposure.ts';
import { byPair, inARow, placedViews, type Other, type PlacedView } from '../../../core/place/index.ts';
import { useKeys } from '../../shared/keys.ts';
import { Panel, PanelTabs } from '../../shared/Panels.tsx';
import { ViewStrip } from '../../shared/ViewStrip.tsx';
import { Caption, Key, Plate, ReadingMargin, Strip } from '../../shared/layout.tsx';
import { pictures } from '../../state/api.ts';
import { changeBackground, placeFrames } from '../../state/placing.ts';
import { useStore } from '../../state/store.ts';
import type { ShownOther } from '../../worker/picture.worker.ts';
import { LookPanel, OtherSide } from './LookPanel.tsx';
import { byHand, ScenePanel } from './ScenePanel.tsx';
import { Stage } from './Stage.tsx';
import { StandingPanel } from './StandingPanel.tsx';
import { markedAt, seenAt } from '../../../core/place/reframed.ts';
import { distanceTo, groundOf, snappingOf } from './ground.ts';
import { modelOf, shownOf } from './styleStanding.ts';
import { panels, type PlaceBench } from './usePlaceBench.ts';
import { useLook } from './useLook.ts';
import { OthersPanel } from './OthersPanel.tsx';
import { useTones } from './useTones.ts';

/** Where nobody is seen, while lines are laid along those of the scene. */
const outOfSight: Placement = { x: 9, y: 1, height: 1 };

/** One frame on its background: the picture to the left, what is set to the right. */
export function OneFrame({
  bench,
  shoot,
  frame,
  cut,
  frames,
  backgrounds,
}: {
  bench: PlaceBench;
  shoot: Shoot;
  frame: Frame;
  cut: Frame[];
  frames: Frame[];
  backgrounds: Background[];
}) {
  const [draft, setDraft] = useState<Placement>();
  const { view, setView, panel, setPanel } = bench;
  const background = backgrounds.find((b) => b.id === frame.placement?.backgroundId);
  const saved = frame.placement;
  const placement = draft ?? saved ?? defaultPlacement;
  const look = useLook(shoot, frame, background);
  const others = saved?.others ?? [];
  const company = others.flatMap((one) => {
    const of = cut.find(({ id }) => id === one.frameId);
    return of ? [{ one, of }] : [];
  });
  const tonesFor = useTones(
    background ? [frame, ...company.map(({ of }) => of)].map((of) => [of, background] as const) : [],
  );
  const measured = background && tonesFor(frame, background);
  const [held, hold] = useState<number>();
  const other = held === undefined ? undefined : others[held];
  const otherFrame = other && cut.find(({ id }) => id === other.frameId);
  const heldOther = other && otherFrame && { n: held as number, other, frame: otherFrame };
  const [otherDraft, setOtherDraft] = useState<Placement>();
  const laid = others.map((one, n) => (n === held && otherDraft ? { ...one, ...otherDraft } : one));
  const beside = laid.flatMap(({ frameId, x, y, height, mirrored, where }): ShownOther[] => {
    const of = cut.find(({ id }) => id === frameId);
    if (!of?.cut) return [];
    const address = pictures.cutout(of.id, of.cut.version);
    const measuredThere = background && tonesFor(of, background);
    return [{ address, placement: { x, y, height }, mirrored, where, measured: measuredThere }];
  });
  const saveOthers = (next: Other[], what: string): void => {
    setOtherDraft(undefined);
    if (saved) void placeFrames(shoot.id, [frame], { ...saved, others: next }, what);
  };
  const gather = (more: readonly Frame[]): void => {
    const mirrored = look.look.mirrorPerson;
    const model = modelOf(frame, mirrored, placement, frame.cut?.faces.length ? 'heads' : 'scale');
    // Whoever is in the picture already stays mirrored, and behind or in front, as they are.
    const there = company.map(({ one: { mirrored: turned, where }, of }) => ({ of, mirrored: turned, where }));
    const all = [...there, ...more.map((of) => ({ of, mirrored: false, where: 'behind' as const }))];
    const shown = all.flatMap(({ of, mirrored: turned }) => shownOf(of, turned) ?? []);
    if (!background || !saved || !model || shown.length < all.length) return;
    const [own, ...places] = inARow(model, shown, background);
    const next = places.map((place, n): Other => {
      const { of, ...how } = all[n];
      return { frameId: of.id, ...place, ...how };
    });
    void placeFrames(shoot.id, [frame], { ...saved, ...own, others: next }, 'a group in the picture');
  };
  const views = Object.keys(placedViews) as PlacedView[];
  useKeys('place', { view: (key) => setView(views[Number(key) - 1]) });
  const lines = panel === 'scene' ? bench.lines : undefined;
  const plans = useStore((state) => state.plans);
  const ground = groundOf(frame, background, look.look, bench.eyesHigh);
  const kept = (next: Placement): Placement =>
    bench.grounded && ground ? ground.keep(placement, next) : clampPlacement(next);
  const point = (rgb: Rgb): void => {
    if (bench.pointing?.at !== 'there') return bench.setPointing({ at: 'there', person: rgb });
    bench.setPointing(undefined);
    look.keepAll(byPair(look.look, bench.pointing.person, rgb), 'pair that was pointed at');
  };
  const save = (next: Placement): void => {
    if (!background) return;
    const { x, y, height } = kept(next);
    setDraft(undefined);
    void placeFrames(
      shoot.id,
      [frame],
      { backgroundId: background.id, x, y, height, look: saved?.look ?? {}, others },
      'placement',
    );
  };
  const standing = heldOther
    ? { frame: heldOther.frame, placement: otherDraft ?? heldOther.other }
    : { frame, placement };
  const saveHeld = (next: Placement): void => {
    if (!heldOther) return save(next);
    const { x, y, height } = clampPlacement(next);
    saveOthers(
      others.map((one, n) => (n === heldOther.n ? { ...one, x, y, height } : one)),
      'where another stands',
    );
  };
  return (
    <>
      <Plate aria-label="Picture">
        <Strip>
          <ViewStrip
            label="View"
            views={views.map((value, n) => ({ value, title: placedViews[value], keyName: `${n + 1}` }))}
            value={view}
            onChange={setView}
          />
        </Strip>
        {background ? (
          <Stage
            key={background.id}
            frame={frame}
            background={background}
            drawn={{
              placement: lines ? outOfSight : placement,
              look: look.look,
              measured,
              view,
              extras: look.extras,
              others: lines ? [] : beside,
              onHistograms: panel === 'match' ? bench.setHistograms : undefined,
            }}
            held={
              heldOther ? { frame: heldOther.frame, placement: otherDraft ?? heldOther.other } : { frame, placement }
            }
            snapping={
              heldOther
                ? snappingOf(heldOther.frame, heldOther.other.mirrored)
                : bench.grounded
                  ? undefined
                  : snappingOf(frame, look.look.mirrorPerson)
            }
            onDraft={(next) => (heldOther ? setOtherDraft(next) : setDraft(kept(next)))}
            onSave={saveHeld}
            pointing={panel === 'match' ? bench.pointing?.at : undefined}
            onPoint={point}
            lines={lines?.pair}
            onLines={(pair) => bench.lines && bench.setLines({ ...bench.lines, pair })}
            horizon={
              (panel === 'scene' || bench.grounded) && background.scene.horizon !== null
                ? seenAt(look.look, background, background.scene.horizon)
                : null
            }
            onHorizon={(horizon) =>
              void changeBackground(
                background,
                { scene: byHand(background.scene, 'horizon', markedAt(look.look, background, horizon)) },
                'horizon',
              )
            }
          />
        ) : (
          <Box sx={{ color: '#fff', p: 3 }}>
            <strong>{frame.name} has no background yet.</strong> Choose one on the right.
          </Box>
        )}
        <Caption>
          <span>{frame.name}</span>
          <span className="quiet">
            {background ? `on ${background.name}` : ''} · drag the person (<Key>Alt</Key> frees from the guides), or
            arrows, <Key>+</Key>
            <Key>−</Key>
          </span>
          {background && (
            <span className="quiet figure" style={{ marginLeft: 'auto' }}>
              {background.width} × {background.height}
            </span>
          )}
        </Caption>
      </Plate>
      <ReadingMargin aria-label="Background and placement" sx={{ pt: 0 }}>
        <PanelTabs
          label="Panels"
          panels={panels}
          value={background ? panel : 'background'}
          figures={{ match: Object.keys(look.own).length || undefined }}
          onChange={setPanel}
        />
        <Panel id={background ? panel : 'background'}>
          {background && panel === 'scene' ? (
            <ScenePanel
              key={background.id}
              background={background}
              all={backgrounds}
              tones={measured?.scene}
              look={look.look}
              bench={bench}
            />
          ) : background && panel !== 'background' && panel !== 'scene' ? (
            <LookPanel
              panel={panel}
              look={look}
              background={background}
              shootId={shoot.id}
              backgrounds={backgrounds}
              bench={bench}
              measured={measured}
              placement={placement}
              feet={frame.cut !== null && !goesOnBelow(frame.cut.quality.extent)}
            />
          ) : (
            <StandingPanel
              shootId={shoot.id}
              frame={frame}
              cut={cut}
              frames={frames}
              backgrounds={backgrounds}
              background={background}
              placement={placement}
              mirrored={look.look.mirrorPerson}
              turn={look.look.turn}
              bench={bench}
              others={
                background && (
                  <OthersPanel
                    frame={frame}
                    cut={cut}
                    others={others}
                    held={heldOther?.n}
                    placement={placement}
                    onHold={hold}
                    onChange={saveOthers}
                    onGather={gather}
                  />
                )
              }
              ground={ground}
              distance={distanceTo(frame, background, look.look, bench.eyesHigh, placement, plans)}
              light={measured && <OtherSide look={look} measured={measured} />}
              standing={standing.placement}
              onStand={saveHeld}
              onSave={save}
              onPut={() => setDraft(undefined)}
            />
          )}
        </Panel>
      </ReadingMargin>
    </>
  );
}
