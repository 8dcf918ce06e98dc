import { Button } from '@mui/material';
import { useCallback, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import type { Frame, Setup } from '../../../contract/index.ts';
import { fileSize } from '../../shared/format.ts';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { api } from '../../state/api.ts';
import { attempt, changeSetup, takeItems, useStore } from '../../state/store.ts';
import { clearUploads, startUploads, useUploads, type Upload } from '../../state/uploads.ts';
import { ContactSheet } from './ContactSheet.tsx';

/** Frames come in here, setup by setup. */
export function GatherPage() {
  const shoot = useStore((state) => state.shoot);
  const setups = useStore((state) => state.setups);
  const frames = useStore((state) => state.frames);
  const [chosen, setChosen] = useState<number | null>(null);
  const setup = setups.find((s) => s.id === chosen) ?? setups[0];

  const shootId = shoot?.id;
  const setupId = setup?.id;
  const onDrop = useCallback(
    (files: File[]) => {
      if (shootId !== undefined && setupId !== undefined) startUploads(shootId, setupId, files);
    },
    [shootId, setupId],
  );
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({ onDrop, noClick: true, noKeyboard: true });

  if (!shoot) return null;
  return (
    <div className="gather" {...getRootProps()}>
      <div className={`drop${isDragActive ? ' over' : ''}`} onClick={open}>
        <input {...getInputProps({ 'aria-label': 'Frame files' } as object)} />
        <Button variant="contained" color="primary" onClick={(event) => (event.stopPropagation(), open())}>
          Choose frames
        </Button>
        <div>
          <strong>or drop them anywhere on this sheet.</strong>{' '}
          <span className="quiet">
            JPEG, PNG or TIFF, 8 or 16 bit, up to <span className="figure">60</span> megapixels each. They go to{' '}
            {setup ? `“${setup.name}”` : 'the setup'} and stay untouched.
          </span>
        </div>
      </div>
      <Uploads shootId={shoot.id} />
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
      <div className="actions">
        <Button
          onClick={() => {
            void attempt(api.createSetup(shoot.id, `Setup ${setups.length + 1}`)).then((created) => {
              if (!created) return;
              takeItems(created.shootId, { setups: [created] });
              setChosen(created.id);
            });
          }}
        >
          Add a setup
        </Button>
        <span className="quiet">
          One setup for each arrangement of screen, lights and camera; it has its own extraction settings.
        </span>
      </div>
    </div>
  );
}

/** What went well needs no line. */
function isListed({ result }: Upload): boolean {
  return result?.outcome !== 'stored' || result.question !== undefined;
}

function Uploads({ shootId }: { shootId: number }) {
  const all = useUploads((state) => state.uploads);
  const uploads = all.filter((upload) => upload.shootId === shootId);
  if (!uploads.length) return null;
  const finished = uploads.filter((u) => u.result);
  const refused = finished.filter((u) => u.result?.outcome === 'refused');
  const duplicates = finished.filter((u) => u.result?.outcome === 'duplicate').length;
  const stored = finished.length - refused.length - duplicates;
  const bytes = uploads.reduce((sum, u) => sum + u.bytes, 0);
  const share = bytes ? uploads.reduce((sum, u) => sum + u.bytes * (u.result ? 1 : u.sent * 0.97), 0) / bytes : 1;
  const done = finished.length === uploads.length;
  return (
    <section className="uploads" aria-label="Import">
      <div className="actions">
        <strong>{done ? 'Import finished' : 'Importing'}</strong>
        <span className="figure">
          {stored} taken in, {duplicates} already here, {refused.length} refused, {uploads.length - finished.length} to
          go
        </span>
        {done && (
          <Button variant="text" onClick={() => clearUploads(shootId)}>
            Put this list away
          </Button>
        )}
      </div>
      {!done && <StepWedge share={share} label="Import" />}
      {uploads.some(isListed) && (
        <ul>
          {uploads.filter(isListed).map((u) => (
            <li key={u.key}>
              <span className="name">{u.name}</span>
              {!u.result && (
                <span className="quiet figure">
                  {u.sent < 1 ? `${Math.round(u.sent * 100)} % of ${fileSize(u.bytes)}` : 'being checked …'}
                </span>
              )}
              {u.result?.outcome === 'stored' && u.result.question && (
                <span>
                  <strong>Taken in, but:</strong> {u.result.question.reason}. {u.result.question.remedy}
                </span>
              )}
              {u.result?.outcome === 'duplicate' && <span>Already in this shoot as {u.result.of}.</span>}
              {u.result?.outcome === 'refused' && (
                <span>
                  <strong>Refused:</strong> {u.result.reason}. {u.result.remedy}
                </span>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
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
      <div className="setup-head">
        <input
          className="name-field"
          aria-label="Name of the setup"
          key={setup.name}
          defaultValue={setup.name}
          maxLength={120}
          onBlur={(event) => {
            const name = event.target.value.trim();
            if (name && name !== setup.name) void changeSetup(setup, { name }, 'name of the setup');
            else event.target.value = setup.name;
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
        <span className="figure quiet">{frames.length} frames</span>
        {!single && (
          <label style={{ marginLeft: 'auto' }}>
            <input
              type="radio"
              name="target"
              checked={target}
              onChange={onTarget}
              style={{ accentColor: 'var(--accent)' }}
            />{' '}
            new frames go here
          </label>
        )}
      </div>
      {frames.length === 0 && <p className="quiet">No frames yet.</p>}
      <ContactSheet frames={frames} onRemove={confirmRemoval} />
    </section>
  );
}

function confirmRemoval(frame: Frame): void {
  if (
    window.confirm(
      `Take ${frame.name} out of this shoot? Its cut and placement go with it. The file on your card or disk is not touched.`,
    )
  )
    void attempt(api.removeFrame(frame.id));
}
