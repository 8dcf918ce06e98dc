import CropIcon from '@mui/icons-material/CropOutlined';
import { Button, Link, styled } from '@mui/material';
import { useMemo, useState, type ReactNode } from 'react';
import { Link as RouterLink, useNavigate, useParams } from 'react-router';
import type { DeliverySettings } from '../../../contract/index.ts';
import { patternFlaw, plannedFiles, shapesOf, SMALL, type Chosen, type Preset } from '../../../core/handOver/index.ts';
import { counted } from '../../shared/format.ts';
import { Example } from '../../shared/Example.tsx';
import { Actions, EmptyPlace, Sheet } from '../../shared/layout.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { api } from '../../state/api.ts';
import { attempt, isPicture, useStore } from '../../state/store.ts';
import { candidatesOf } from './candidates.ts';
import { ChosenFields } from './ChosenFields.tsx';
import { CropSheet } from './CropSheet.tsx';
import { DeliveryRow } from './DeliveryRow.tsx';
import { changeDraft, noBounds, useDraft } from './draft.ts';
import { NamesField } from './NamesField.tsx';
import { PresetList } from './PresetList.tsx';
import { usePresets } from './usePresets.ts';
import { PapersFields, WrittenFields } from './WrittenFields.tsx';

const Columns = styled('div')`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 20px 36px;
  align-items: start;
`;

/** Handing over: what is made, of whom, under which names; the crops of prints; and what was made. */
export function HandOverPage() {
  const { panel } = useParams();
  const navigate = useNavigate();
  const shoot = useStore((state) => state.shoot);
  const frames = useStore((state) => state.frames);
  const deliveries = useStore((state) => state.deliveries);
  const known = usePresets();
  const used = useDraft((draft) => draft.used);
  if (!shoot) return null;
  const pictures = frames.filter(isPicture);
  const presets = known.presets.map(({ preset }) => preset).filter(({ name }) => used.includes(name));
  const cropped = presets.filter((preset) => shapesOf(preset).length);
  if (panel === 'crops')
    return (
      <CropSheet
        frames={pictures}
        presets={cropped}
        onEnd={() => void navigate('../hand-over', { relative: 'path' })}
      />
    );
  return (
    <Sheet>
      <h2 className="title">Hand over {shoot.name}</h2>
      {pictures.some((frame) => frame.cut) ? (
        <Order presets={presets} cropped={cropped.length > 0} known={known} />
      ) : (
        <EmptyPlace title="Nothing to hand over yet.">
          <Link component={RouterLink} to="../extract" relative="path">
            Extract the frames
          </Link>{' '}
          first; finished pictures also need a{' '}
          <Link component={RouterLink} to="../place" relative="path">
            background
          </Link>
          . What is made here are prints, pictures for screens, cutouts and more, under names of your own, and lists of
          them.
          <Example show={['cut']} words="a cutout with its hair, ready to be handed over" />
        </EmptyPlace>
      )}
      {deliveries.length > 0 && (
        <section style={{ display: 'grid', gap: 12 }}>
          <h2>Hand-overs</h2>
          {deliveries.map((delivery) => (
            <DeliveryRow key={delivery.id} delivery={delivery} />
          ))}
        </section>
      )}
    </Sheet>
  );
}

/** What is to be made, and what will be missing in it. */
function Order({
  presets,
  cropped,
  known,
}: {
  presets: Preset[];
  cropped: boolean;
  known: ReturnType<typeof usePresets>;
}) {
  const shoot = useStore((state) => state.shoot);
  const frames = useStore((state) => state.frames);
  const setups = useStore((state) => state.setups);
  const subjects = useStore((state) => state.subjects);
  const backgrounds = useStore((state) => state.backgrounds);
  const draft = useDraft();
  const { names, metadata, papers, used } = draft;
  const [chosen, setChosen] = useState<Chosen>(noBounds);
  const candidates = useMemo(
    () => candidatesOf(frames, setups, subjects, backgrounds),
    [frames, setups, subjects, backgrounds],
  );
  const flaw = patternFlaw(names);
  const planned = useMemo(
    () =>
      plannedFiles(
        shoot ?? { name: '', date: '' },
        { presets, names: flaw ? '{frame}' : names, chosen, papers },
        candidates,
      ),
    [shoot, presets, names, flaw, chosen, papers, candidates],
  );
  if (!shoot) return null;
  const files = planned.files.filter(({ preset }) => preset !== SMALL);
  const left = frames.filter((frame) => isPicture(frame) && !frame.cut).length;
  const settings: DeliverySettings = { presets, names, chosen, metadata, papers };
  const ready = presets.length > 0 && !flaw && planned.files.length > 0;
  return (
    <>
      <Columns>
        <Part title="What">
          <PresetList known={known} used={used} onUse={(list) => changeDraft({ used: list })} />
        </Part>
        <Part title="Whose">
          <ChosenFields chosen={chosen} candidates={candidates} onChange={setChosen} />
          <h2>Names of the files</h2>
          <NamesField names={names} flaw={flaw} planned={files} onChange={(to) => changeDraft({ names: to })} />
          <h2>Beside the pictures</h2>
          <PapersFields papers={papers} onChange={(to) => changeDraft({ papers: to })} />
          <WrittenFields metadata={metadata} onChange={(to) => changeDraft({ metadata: to })} />
        </Part>
      </Columns>
      {planned.notPlaced.length > 0 && (
        <Problem role="note" lead={`${counted(planned.notPlaced.length, 'frame')} not placed.`}>
          They have no finished picture until they stand on a background.{' '}
          <Link component={RouterLink} to="../place" relative="path">
            Choose their backgrounds
          </Link>
          , or hand over cutouts only.
        </Problem>
      )}
      {planned.keptBack.length > 0 && (
        <Problem role="note" lead={`${counted(planned.keptBack.length, 'frame')} kept back by what was said:`}>
          {planned.keptBack
            .slice(0, 3)
            .map(({ frame, subject, reason }) => `${frame} (${subject || 'nobody named'}: ${reason})`)
            .join(', ')}
          {planned.keptBack.length > 3 && ` and ${planned.keptBack.length - 3} more`}.
        </Problem>
      )}
      {left > 0 && (
        <Problem role="note" lead={`${counted(left, 'frame')} not extracted`}>
          and will be missing.{' '}
          <Link component={RouterLink} to="../extract" relative="path">
            Extract them
          </Link>
        </Problem>
      )}
      <Actions>
        <Button
          variant="contained"
          color="primary"
          disabled={!ready}
          onClick={() => void attempt(api.deliver(shoot.id, settings))}
        >
          Make {files.length} files
        </Button>
        {cropped && (
          <Button component={RouterLink} to="crops" startIcon={<CropIcon />}>
            Look at the crops
          </Button>
        )}
        <span className="quiet">
          {presets.length === 0 ? 'Choose at least one preset.' : flaw ? `The names cannot be used: ${flaw}.` : ''}
        </span>
      </Actions>
    </>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section style={{ display: 'grid', gap: 10 }}>
      <h2>{title}</h2>
      {children}
    </section>
  );
}
