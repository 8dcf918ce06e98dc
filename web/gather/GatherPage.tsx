import { Button } from '@mui/material';
import { useCallback, useEffect, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import type { Frame, ImportResult, Setup } from '../../contract/index.ts';
import { fileSize, megapixels } from '../shared/format.ts';
import { StepWedge } from '../shared/StepWedge.tsx';
import { api, pictures, RequestError } from '../state/api.ts';
import { attempt, useStore } from '../state/store.ts';

interface Upload {
  key: string;
  name: string;
  bytes: number;
  sent: number;
  result: ImportResult | null;
}

/** Files go up this many at a time: enough to keep the disk busy, few enough to see each finish. */
const AT_ONCE = 3;

/** Frames come in here, setup by setup. */
export function GatherPage() {
  const shoot = useStore((state) => state.shoot);
  const setups = useStore((state) => state.setups);
  const frames = useStore((state) => state.frames);
  const [chosen, setChosen] = useState<number | null>(null);
  const [uploads, setUploads] = useState<Upload[]>([]);
  const setup = setups.find((s) => s.id === chosen) ?? setups[0];

  const onDrop = useCallback(
    (files: File[]) => {
      if (!setup) return;
      const fresh = files.map((file, n) => ({ file, upload: { key: `${Date.now()}-${n}`, name: file.name, bytes: file.size, sent: 0, result: null } as Upload }));
      setUploads((list) => [...list.filter((u) => !u.result || u.result.outcome === 'refused'), ...fresh.map((f) => f.upload)]);
      const change = (key: string, part: Partial<Upload>): void => setUploads((list) => list.map((u) => (u.key === key ? { ...u, ...part } : u)));
      const queue = [...fresh];
      const next = async (): Promise<void> => {
        for (let item = queue.shift(); item; item = queue.shift()) {
          const { key, name } = item.upload;
          const result = await api.uploadFrame(setup.id, item.file, (share) => change(key, { sent: share })).catch((error): ImportResult => ({ outcome: 'refused', name, ...(error as RequestError).problem }));
          change(key, { sent: 1, result });
        }
      };
      for (let n = 0; n < AT_ONCE; n++) void next();
    },
    [setup],
  );
  const underWay = uploads.some(({ result }) => !result);
  useEffect(() => {
    if (!underWay) return;
    // A page cannot send on what it was given before it was reloaded, so the browser asks first.
    const ask = (event: BeforeUnloadEvent): void => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [underWay]);
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
            JPEG, PNG or TIFF, 8 or 16 bit, up to <span className="figure">60</span> megapixels each. They go to {setup ? `“${setup.name}”` : 'the setup'} and stay untouched.
          </span>
        </div>
      </div>
      {uploads.length > 0 && <Uploads uploads={uploads} onClear={() => setUploads([])} />}
      {setups.map((s) => (
        <SetupSheet key={s.id} setup={s} frames={frames.filter((f) => f.setupId === s.id)} target={s.id === setup?.id} onTarget={() => setChosen(s.id)} single={setups.length === 1} />
      ))}
      <div className="actions">
        <Button
          onClick={() => {
            void attempt(api.createSetup(shoot.id, `Setup ${setups.length + 1}`)).then((created) => created && setChosen(created.id));
          }}
        >
          Add a setup
        </Button>
        <span className="quiet">One setup for each arrangement of screen, lights and camera; it has its own extraction settings.</span>
      </div>
    </div>
  );
}

function Uploads({ uploads, onClear }: { uploads: Upload[]; onClear: () => void }) {
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
          {stored} taken in, {duplicates} already here, {refused.length} refused, {uploads.length - finished.length} to go
        </span>
        {done && (
          <Button variant="text" onClick={onClear}>
            Put this list away
          </Button>
        )}
      </div>
      {!done && <StepWedge share={share} label="Import" />}
      {uploads.some((u) => u.result?.outcome !== 'stored') && (
        <ul>
          {uploads
            .filter((u) => u.result?.outcome !== 'stored')
            .map((u) => (
              <li key={u.key}>
                <span className="name">{u.name}</span>
                {!u.result && <span className="quiet figure">{u.sent < 1 ? `${Math.round(u.sent * 100)} % of ${fileSize(u.bytes)}` : 'being checked …'}</span>}
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

function SetupSheet({ setup, frames, target, onTarget, single }: { setup: Setup; frames: Frame[]; target: boolean; onTarget: () => void; single: boolean }) {
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
            if (name && name !== setup.name) void attempt(api.changeSetup(setup.id, { name }));
            else event.target.value = setup.name;
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
        <span className="figure quiet">{frames.length} frames</span>
        {!single && (
          <label style={{ marginLeft: 'auto' }}>
            <input type="radio" name="target" checked={target} onChange={onTarget} style={{ accentColor: 'var(--accent)' }} /> new frames go here
          </label>
        )}
      </div>
      {frames.length === 0 && <p className="quiet">No frames yet.</p>}
      <ul className="contact">
        {frames.map((frame) => (
          <li key={frame.id}>
            <figure>
              <div className="mat">
                <img src={pictures.thumbnail(frame.id)} alt={frame.name} loading="lazy" />
              </div>
              <figcaption>
                {frame.name}
                <div className="quiet figure">
                  {frame.takenAt ? frame.takenAt.slice(11, 16) : 'no time'}, {megapixels(frame.width, frame.height)}, {frame.depth} bit
                </div>
              </figcaption>
              <button type="button" className="drop-it" onClick={() => confirmRemoval(frame)}>
                Take out
              </button>
            </figure>
          </li>
        ))}
      </ul>
    </section>
  );
}

function confirmRemoval(frame: Frame): void {
  if (window.confirm(`Take ${frame.name} out of this shoot? Its cut and placement go with it. The file on your card or disk is not touched.`)) void attempt(api.removeFrame(frame.id));
}
