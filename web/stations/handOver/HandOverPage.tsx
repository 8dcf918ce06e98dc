import {
  Button,
  FormControl,
  FormControlLabel,
  FormLabel,
  Link,
  Radio,
  RadioGroup,
  Slider,
  styled,
} from '@mui/material';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import type { DeliverySettings, Frame } from '../../../contract/index.ts';
import { Example } from '../../shared/Example.tsx';
import { Actions, EmptyPlace, Sheet } from '../../shared/layout.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { api } from '../../state/api.ts';
import { attempt, isPicture, useStore } from '../../state/store.ts';
import { cutoutChoices, finishedChoices } from './choices.ts';
import { DeliveryRow } from './DeliveryRow.tsx';

const Columns = styled('div')`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 36px;
  align-items: start;
`;

/** Handing over: what to write, the progress of writing it, and the ZIP. */
export function HandOverPage() {
  const shoot = useStore((state) => state.shoot);
  const all = useStore((state) => state.frames);
  const setups = useStore((state) => state.setups);
  const deliveries = useStore((state) => state.deliveries);
  if (!shoot) return null;
  const frames = all.filter((frame) => isPicture(frame, setups));
  return (
    <Sheet>
      <h2 className="title">Hand over {shoot.name}</h2>
      {frames.some((frame) => frame.cut) ? (
        <Order shootId={shoot.id} frames={frames} />
      ) : (
        <EmptyPlace title="Nothing to hand over yet.">
          <Link component={RouterLink} to="../extract">
            Extract the frames
          </Link>{' '}
          first; finished pictures also need a{' '}
          <Link component={RouterLink} to="../place">
            background
          </Link>
          . What is made here is one ZIP with all files, named after their frames, and a list of them.
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
function Order({ shootId, frames }: { shootId: number; frames: Frame[] }) {
  const [settings, setSettings] = useState<DeliverySettings>({ cutout: 'png', finished: 'jpeg', quality: 92 });
  const cut = frames.filter((frame) => frame.cut);
  const placed = cut.filter((frame) => frame.placement);
  const nothing = settings.cutout === 'none' && settings.finished === 'none';
  const files = (settings.cutout === 'none' ? 0 : cut.length) + (settings.finished === 'none' ? 0 : placed.length);
  return (
    <>
      <Columns>
        <Kinds
          title="Cutouts with transparency"
          choices={cutoutChoices}
          value={settings.cutout}
          onChange={(cutout) => setSettings({ ...settings, cutout })}
        />
        <Kinds
          title="Finished pictures on their backgrounds"
          choices={finishedChoices}
          value={settings.finished}
          onChange={(finished) => setSettings({ ...settings, finished })}
        />
      </Columns>
      {settings.finished !== 'none' && placed.length < cut.length && (
        <Problem role="note" lead={`${cut.length - placed.length} of ${cut.length} people have no background.`}>
          Their finished pictures are left out.{' '}
          <Link component={RouterLink} to="../place">
            Choose their backgrounds
          </Link>
          , or hand over cutouts only.
        </Problem>
      )}
      {cut.length < frames.length && (
        <Problem role="note" lead={`${frames.length - cut.length} of ${frames.length} frames are not extracted`}>
          and will be missing.{' '}
          <Link component={RouterLink} to="../extract">
            Extract them
          </Link>
        </Problem>
      )}
      {settings.finished === 'jpeg' && (
        <div style={{ display: 'grid', gridTemplateColumns: '170px 260px', alignItems: 'center' }}>
          <span>
            JPEG quality <span className="figure">{settings.quality}</span>
          </span>
          <Slider
            aria-label="JPEG quality"
            min={60}
            max={100}
            step={1}
            marks={[{ value: 92 }]}
            value={settings.quality}
            onChange={(_, quality) => setSettings({ ...settings, quality })}
          />
        </div>
      )}
      <Actions>
        <Button
          variant="contained"
          color="primary"
          disabled={nothing}
          onClick={() => void attempt(api.deliver(shootId, settings))}
        >
          Make {files} files
        </Button>
        <span className="quiet">
          {nothing
            ? 'Choose cutouts, finished pictures or both.'
            : 'All in one ZIP, with a list of files as CSV. Colours are sRGB with the profile inside.'}
        </span>
      </Actions>
    </>
  );
}

function Kinds<V extends string>({
  title,
  choices,
  value,
  onChange,
}: {
  title: string;
  choices: readonly { value: V; title: string; note: string }[];
  value: V;
  onChange: (value: V) => void;
}) {
  return (
    <FormControl>
      <FormLabel sx={{ fontWeight: 640, pb: 0.5 }}>{title}</FormLabel>
      <RadioGroup value={value} sx={{ gap: 0.75 }} onChange={(_, chosen) => onChange(chosen as V)}>
        {choices.map((choice) => (
          <FormControlLabel
            key={choice.value}
            value={choice.value}
            control={<Radio />}
            label={
              <>
                {choice.title} <span className="quiet">{choice.note}</span>
              </>
            }
          />
        ))}
      </RadioGroup>
    </FormControl>
  );
}
