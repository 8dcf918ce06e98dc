import { Button } from '@mui/material';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import type { Frame } from '../../../contract/index.ts';
import { ownMatteUses, type OwnMatte, type OwnMatteUse } from '../../../core/cut/ownMatte.ts';
import { Choice } from '../../shared/Choice.tsx';
import { FileInput } from '../../shared/FileInput.tsx';
import { Actions } from '../../shared/layout.tsx';
import { api } from '../../state/api.ts';
import { changeFrame } from '../../state/changes.ts';
import { attempt } from '../../state/store.ts';

/** A matte made elsewhere that the frame is cut with; spill, touches and placement stay. */
export function OwnMatteField({ frame }: { frame: Frame }) {
  const { matte } = frame.guidance;
  const [busy, setBusy] = useState(false);
  const set = (to: OwnMatte | null): void =>
    void changeFrame(frame, ({ guidance }) => ({ guidance: { ...guidance, matte: to } }), 'the frame’s own matte');
  const bring = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    setBusy(true);
    const kept = await attempt(api.uploadMatte(frame.id, file));
    setBusy(false);
    if (kept) set({ ...kept, use: matte?.use ?? 'instead' });
  };
  const { getInputProps, open } = useDropzone({ multiple: false, noDrag: true, onDrop: ([file]) => void bring(file) });
  return (
    <>
      <h2>A matte of your own</h2>
      <p className="quiet">
        A grey picture or a cutout of this frame, PNG or TIFF, made elsewhere. Spill, touches and placement stay.
      </p>
      {matte && (
        <>
          <Choice
            label="It is taken"
            value={matte.use}
            options={Object.entries(ownMatteUses).map(([value, { title }]) => ({ value, title }))}
            onChange={(use) => set({ ...matte, use: use as OwnMatteUse })}
          />
          <p className="quiet">{ownMatteUses[matte.use].words}.</p>
        </>
      )}
      <Actions sx={{ my: 0.75 }}>
        <Button disabled={busy} onClick={open}>
          {matte ? 'Bring in another' : 'Bring one in'}
        </Button>
        {matte && (
          <Button variant="text" onClick={() => set(null)}>
            Take it off
          </Button>
        )}
        <FileInput label="Matte file" props={getInputProps} />
      </Actions>
    </>
  );
}
