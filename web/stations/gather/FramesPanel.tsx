import AddIcon from '@mui/icons-material/Add';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Button, FormControlLabel, IconButton, Radio, styled, Tooltip } from '@mui/material';
import { useCallback, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link as RouterLink } from 'react-router';
import type { Frame, Setup, Shoot } from '../../../contract/index.ts';
import { settingsInWords } from '../../../core/gather/camera.ts';
import { developingFacts, type Developing } from '../../../core/gather/develop.ts';
import { ContactSheet } from '../../shared/ContactSheet.tsx';
import { counted, megapixels } from '../../shared/format.ts';
import { ask } from '../../shared/ask.tsx';
import { Example } from '../../shared/Example.tsx';
import { FileInput } from '../../shared/FileInput.tsx';
import { Actions, EmptyPlace } from '../../shared/layout.tsx';
import { NameField } from '../../shared/NameField.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import { api, pictures } from '../../state/api.ts';
import { changeSetup } from '../../state/changes.ts';
import { attempt, takeItems, useStore } from '../../state/store.ts';
import { startUploads } from '../../state/uploads.ts';
import { CamerasPanel } from './CamerasPanel.tsx';
import { WatchField } from './WatchField.tsx';
import { Uploads } from './Uploads.tsx';

const Frames = styled('div')`
  display: grid;
  gap: 14px;
`;

const Drop = styled('div')`
  border: 1px dashed var(--ink);
  padding: 16px 20px;
  display: flex;
  gap: 16px;
  align-items: center;
  background: var(--sheet);
  cursor: pointer;
  &.over {
    background: var(--accent-wash);
    border-style: solid;
    border-color: var(--accent);
  }
  & button {
    flex: none;
  }
`;

const SetupHead = styled('div')`
  display: flex;
  gap: 14px;
  align-items: baseline;
  border-bottom: 1px solid var(--ink);
  padding-bottom: 3px;
`;

/** Frames come in here, setup by setup. */
export function FramesPanel({ shoot }: { shoot: Shoot }) {
  const setups = useStore((state) => state.setups);
  const frames = useStore((state) => state.frames);
  const [chosen, setChosen] = useState<number | null>(null);
  const setup = setups.find((s) => s.id === chosen) ?? setups[0];

  const shootId = shoot.id;
  const setupId = setup?.id;
  const onDrop = useCallback(
    (files: File[]) => {
      if (setupId !== undefined) startUploads(shootId, setupId, files);
    },
    [shootId, setupId],
  );
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({ onDrop, noClick: true, noKeyboard: true });
  const folder = useDropzone({ onDrop, noClick: true, noKeyboard: true, noDrag: true });
  const addSetup = async (): Promise<void> => {
    const created = await attempt(api.createSetup(shoot.id, `Setup ${setups.length + 1}`));
    if (!created) return;
    takeItems(created.shootId, { setups: [created] });
    setChosen(created.id);
  };

  return (
    <Frames {...getRootProps()}>
      <Drop className={isDragActive ? 'over' : undefined} onClick={open}>
        <FileInput label="Frame files" props={getInputProps} />
        <Button variant="contained" color="primary" onClick={(event) => (event.stopPropagation(), open())}>
          Choose frames
        </Button>
        <FileInput label="Folder of frames" props={folder.getInputProps} folder />
        <Button onClick={(event) => (event.stopPropagation(), folder.open())}>Choose a folder</Button>
        <div>
          <strong>or drop them anywhere on this sheet.</strong>{' '}
          <span className="quiet">
            JPEG, PNG, TIFF, WebP, AVIF, HEIC or camera raw, 8 or 16 bit, up to <span className="figure">60</span>{' '}
            megapixels each. They go to {setup ? `“${setup.name}”` : 'the setup'} and stay untouched.
          </span>
        </div>
      </Drop>
      <Uploads shootId={shoot.id} />
      <CamerasPanel shoot={shoot} frames={frames} />
      {setups.map((s) => (
        <SetupSheet
          key={s.id}
          setup={s}
          frames={frames.filter((f) => f.setupId === s.id)}
          target={s.id === setup?.id}
          onTarget={() => setChosen(s.id)}
          single={setups.length === 1}
        />
      ))}
      <Actions>
        <Button startIcon={<AddIcon />} onClick={() => void addSetup()}>
          Add a setup
        </Button>
        <Button component={RouterLink} to={`/shoots/${shoot.id}/gather/sign`}>
          Sign for the set
        </Button>
        <span className="quiet">
          One setup for each arrangement of screen, lights and camera; it has its own extraction settings.
        </span>
      </Actions>
    </Frames>
  );
}

function SetupSheet({
  setup,
  frames,
  target,
  onTarget,
  single,
}: {
  setup: Setup;
  frames: Frame[];
  target: boolean;
  onTarget: () => void;
  single: boolean;
}) {
  return (
    <section aria-label={setup.name} style={{ display: 'grid', gap: 10 }}>
      <SetupHead>
        <NameField
          label="Name of the setup"
          name={setup.name}
          size={13}
          onChange={(name) => void changeSetup(setup, { name }, 'name of the setup')}
        />
        <span className="figure quiet" style={{ whiteSpace: 'nowrap' }}>
          {counted(frames.length, 'frame')}
        </span>
        {frames.some(({ raw }) => raw) && (
          <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 60px auto 60px', gap: 1, alignItems: 'baseline' }}>
            {(Object.keys(developingFacts) as (keyof Developing)[]).map((field) => (
              <NumberField
                key={field}
                {...developingFacts[field]}
                digits={2}
                value={setup.develop[field]}
                onChange={(value) =>
                  void changeSetup(
                    setup,
                    { develop: { ...setup.develop, [field]: value } },
                    'how raw files are developed',
                  )
                }
              />
            ))}
          </Box>
        )}
        {!single && frames.length === 0 && (
          <Button variant="text" onClick={() => void attempt(api.removeSetup(setup.id))}>
            Remove it
          </Button>
        )}
        {!single && (
          <FormControlLabel
            sx={{ ml: 'auto', whiteSpace: 'nowrap' }}
            control={<Radio name="target" checked={target} onChange={onTarget} />}
            label="new frames go here"
          />
        )}
      </SetupHead>
      <WatchField setup={setup} />
      {frames.length === 0 && (
        <EmptyPlace title="No frames yet.">
          The photographs of one arrangement of screen, lights and camera belong here, and one of the empty screen if
          you took it. Choose them above, drop them on this sheet, or have the stand-in camera take one at Plan.
          <Example show={['photograph']} words="a frame as it comes from the camera" />
        </EmptyPlace>
      )}
      <ContactSheet
        frames={frames}
        picture={pictures.thumbnail}
        note={({ takenAt, width, height, depth, camera }) => {
          const file = `${megapixels(width, height)}, ${depth} bit`;
          const written = [camera.body, camera.lens, settingsInWords(camera), camera.profile]
            .filter(Boolean)
            .join(', ');
          return (
            <span title={[takenAt?.replace('T', ' ') ?? 'no time', written || 'no camera data', file].join('\n')}>
              {takenAt ? takenAt.slice(11, 16) : 'no time'}, {settingsInWords(camera) || file}
            </span>
          );
        }}
        action={(frame) => (
          <Tooltip title="Take out">
            <IconButton aria-label={`Take out ${frame.name}`} onClick={() => void confirmRemoval(frame)}>
              <DeleteIcon />
            </IconButton>
          </Tooltip>
        )}
      />
    </section>
  );
}

async function confirmRemoval(frame: Frame): Promise<void> {
  const sure = await ask({
    title: `Take ${frame.name} out of this shoot?`,
    text: 'Its cut and placement go with it. The file on your card or disk is not touched.',
    action: 'Take it out',
  });
  if (sure) await attempt(api.removeFrame(frame.id));
}
