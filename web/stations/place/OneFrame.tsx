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
import { changeBackground, placeFrames } from '../../state/placing.ts';
import { LookPanel, OtherSide } from './LookPanel.tsx';
import { ScenePanel } from './ScenePanel.tsx';
import { Stage } from './Stage.tsx';
import { StandingPanel } from './StandingPanel.tsx';
import { markedAt, seenAt } from '../../../core/place/reframed.ts';
import { groundOf, snappingOf } from './ground.ts';
import { modelOf, shownOf } from './styleStanding.ts';
import { panels, type PlaceBench } from './usePlaceBench.ts';
import { useLook } from './useLook.ts';
import { OthersPanel } from './OthersPanel.tsx';
import { useMeasured, useOthers } from './useMeasured.ts';

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
  const measured = useMeasured(frame, background);
  const others = saved?.others ?? [];
  const [held, hold] = useState<number>();
  const other = held === undefined ? undefined : others[held];
  const otherFrame = other && cut.find(({ id }) => id === other.frameId);
  const heldOther = other && otherFrame && { n: held as number, other, frame: otherFrame };
  const [otherDraft, setOtherDraft] = useState<Placement>();
  const laid = others.map((one, n) => (n === held && otherDraft ? { ...one, ...otherDraft } : one));
  const beside = useOthers(laid, cut, background);
  const saveOthers = (next: Other[], what: string): void => {
    setOtherDraft(undefined);
    if (saved) void placeFrames(shoot.id, [frame], { ...saved, others: next }, what);
  };
  const gather = (company: readonly Frame[]): void => {
    const mirrored = look.look.mirrorPerson;
    const model = modelOf(frame, mirrored, placement, frame.cut?.faces.length ? 'heads' : 'scale');
    // Whoever is in the picture already stays mirrored, and behind or in front, as they are.
    const there = others.flatMap((one) => {
      const of = cut.find(({ id }) => id === one.frameId);
      return of ? [{ of, mirrored: one.mirrored, where: one.where }] : [];
    });
    const beside = [...there, ...company.map((of) => ({ of, mirrored: false, where: 'behind' as const }))];
    const shown = beside.flatMap(({ of, mirrored: turned }) => shownOf(of, turned) ?? []);
    if (!background || !saved || !model || shown.length < beside.length) return;
    const [own, ...places] = inARow(model, shown, background);
    const all = places.map((place, n): Other => {
      const { of, ...how } = beside[n];
      return { frameId: of.id, ...place, ...how };
    });
    void placeFrames(shoot.id, [frame], { ...saved, ...own, others: all }, 'a group in the picture');
  };
  const views = Object.keys(placedViews) as PlacedView[];
  useKeys('place', { view: (key) => setView(views[Number(key) - 1]) });
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
              placement,
              look: look.look,
              measured,
              view,
              extras: look.extras,
              others: beside,
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
            horizon={
              (panel === 'scene' || bench.grounded) && background.scene.horizon !== null
                ? seenAt(look.look, background, background.scene.horizon)
                : null
            }
            onHorizon={(horizon) =>
              void changeBackground(
                background,
                { scene: { ...background.scene, horizon: markedAt(look.look, background, horizon) } },
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
            <ScenePanel key={background.id} background={background} all={backgrounds} tones={measured?.scene} />
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
              light={measured && <OtherSide look={look} measured={measured} scene={background?.scene} />}
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
