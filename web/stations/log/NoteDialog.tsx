import { zodResolver } from '@hookform/resolvers/zod';
import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { DateTimePicker } from '@mui/x-date-pickers/DateTimePicker';
import dayjs from 'dayjs';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { newNoteSchema, type CameraNote, type NewNote, type Note, type ShootLog } from '../../../contract/index.ts';
import { workPlaces, type WorkPlace } from '../../../core/log/index.ts';
import { Dates } from '../../shared/Dates.tsx';
import { Choice } from '../../shared/Choice.tsx';
import { FileInput } from '../../shared/FileInput.tsx';
import { api } from '../../state/api.ts';
import { attempt, useStore } from '../../state/store.ts';

const titles = { note: 'Note', camera: 'The camera', background: 'A background’s camera', erased: 'Note' };
const numbers: { name: Exclude<keyof CameraNote, 'camera' | 'lens'>; label: string }[] = [
  { name: 'focal', label: 'Focal length, mm' },
  { name: 'aperture', label: 'Aperture, f/' },
  { name: 'shutter', label: 'Shutter, s' },
  { name: 'iso', label: 'ISO' },
  { name: 'height', label: 'Height, m' },
  { name: 'tilt', label: 'Tilt, °' },
  { name: 'distance', label: 'Distance, m' },
];
const noCameraNote: CameraNote = {
  camera: '',
  lens: '',
  focal: null,
  aperture: null,
  shutter: null,
  iso: null,
  height: null,
  tilt: null,
  distance: null,
};

/** What is known of the camera of a setup: from its frames’ metadata, then from its plan. */
function useKnownCamera(setupId: number | null): CameraNote {
  const camera = useStore(({ frames }) => frames.find((frame) => frame.setupId === setupId)?.camera);
  const plan = useStore(({ plans }) => plans.findLast((row) => row.setupId === setupId)?.plan);
  return {
    ...noCameraNote,
    camera: camera?.body ?? '',
    lens: camera?.lens ?? '',
    focal: camera?.focal ?? (plan ? plan.camera.focal * 1000 : null),
    aperture: camera?.aperture ?? plan?.camera.aperture ?? null,
    shutter: camera?.shutter ?? plan?.camera.shutter ?? null,
    iso: camera?.iso ?? plan?.camera.iso ?? null,
    height: plan?.camera.position.y ?? null,
    tilt: plan?.camera.tilt ?? null,
    distance: plan ? plan.camera.position.z - (plan.people[0]?.z ?? 0) : null,
  };
}

/** Writes a note, or what a picture was taken with. */
export function NoteDialog({
  note,
  kind,
  log,
  onEnd,
}: {
  note: Note | undefined;
  kind: Note['kind'];
  log: ShootLog;
  onEnd: (kept: boolean) => void;
}) {
  const first = log.setups[0]?.id ?? null;
  const known = useKnownCamera(note?.setupId ?? first);
  const [picture, setPicture] = useState<File | 'ball'>();
  const { control, handleSubmit, register, formState } = useForm<NewNote>({
    resolver: zodResolver(newNoteSchema),
    defaultValues: {
      kind: kind === 'erased' ? 'note' : kind,
      at: note?.at ?? dayjs().format('YYYY-MM-DDTHH:mm'),
      place: note?.place ?? (kind === 'camera' ? 'check' : kind === 'background' ? 'place' : 'log'),
      setupId: note ? note.setupId : kind === 'camera' ? first : null,
      words: note?.words ?? '',
      camera: note?.camera ?? (kind === 'note' ? null : kind === 'camera' ? known : noCameraNote),
    },
  });
  const { getInputProps, open: choose } = useDropzone({
    multiple: false,
    noDrag: true,
    onDrop: ([chosen]) => setPicture(chosen),
  });
  const setupId = useWatch({ control, name: 'setupId' });
  const ball = useStore(({ checks }) =>
    checks.some((round) => round.setupId === setupId && round.pictures.some(({ kind: of }) => of === 'ball')),
  );
  const keep = async (written: NewNote): Promise<void> => {
    const made = note
      ? await attempt(api.changeNote(note.id, written).then(() => note))
      : await attempt(api.addNote(log.shoot.id, written));
    if (!made) return;
    if (picture === 'ball') await attempt(api.takeBallPicture(made.id));
    else if (picture) await attempt(api.uploadNotePicture(made.id, picture));
    onEnd(true);
  };
  const camera = formState.defaultValues?.camera !== null;
  return (
    <Dialog open onClose={() => onEnd(false)} aria-labelledby="note" fullWidth maxWidth="sm">
      <Box component="form" onSubmit={(event) => void handleSubmit(keep)(event)}>
        <DialogTitle id="note">{titles[kind]}</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 1.5 }}>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 2, alignItems: 'end' }}>
            <Controller
              control={control}
              name="at"
              render={({ field }) => (
                <Dates>
                  <DateTimePicker
                    label="When"
                    ampm={false}
                    format="D MMM YYYY HH:mm"
                    slotProps={{ textField: { variant: 'standard', size: 'small' } }}
                    value={dayjs(field.value)}
                    onChange={(at) => at?.isValid() && field.onChange(at.format('YYYY-MM-DDTHH:mm'))}
                  />
                </Dates>
              )}
            />
            <Controller
              control={control}
              name="place"
              render={({ field }) => (
                <Choice
                  label="Station"
                  value={field.value}
                  options={(Object.keys(workPlaces) as WorkPlace[]).map((value) => ({
                    value,
                    title: workPlaces[value],
                  }))}
                  onChange={field.onChange}
                />
              )}
            />
            <Controller
              control={control}
              name="setupId"
              render={({ field }) => (
                <Choice
                  label="Setup"
                  value={String(field.value ?? '')}
                  options={[
                    { value: '', title: 'the whole shoot' },
                    ...log.setups.map(({ id, name }) => ({ value: String(id), title: name })),
                  ]}
                  onChange={(value) => field.onChange(value ? Number(value) : null)}
                />
              )}
            />
          </Box>
          {camera && (
            <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(4, 1fr)', gap: 1.5 }}>
              <TextField label="Camera" sx={{ gridColumn: 'span 2' }} {...register('camera.camera')} />
              <TextField label="Lens" sx={{ gridColumn: 'span 2' }} {...register('camera.lens')} />
              {numbers.map(({ name, label }) => {
                const error = formState.errors.camera?.[name];
                return (
                  <TextField
                    key={name}
                    label={label}
                    error={error !== undefined}
                    helperText={error?.message}
                    slotProps={{ htmlInput: { inputMode: 'decimal', className: 'figure' } }}
                    {...register(`camera.${name}`, {
                      setValueAs: (typed: string | number | null) =>
                        typed === '' || typed === null ? null : Number(String(typed).replace(',', '.')),
                    })}
                  />
                );
              })}
            </Box>
          )}
          <TextField
            label="Words"
            multiline
            minRows={camera ? 2 : 5}
            autoFocus={!camera}
            slotProps={{ htmlInput: { maxLength: 4000 } }}
            {...register('words')}
          />
          <Box sx={{ display: 'flex', gap: 1 }}>
            <Button onClick={choose}>
              {picture instanceof File
                ? `Picture: ${picture.name}`
                : picture || note?.picture
                  ? 'Another picture'
                  : 'Add a picture'}
            </Button>
            {ball && (
              <Button aria-pressed={picture === 'ball'} onClick={() => setPicture('ball')}>
                {picture === 'ball' ? 'Picture: the ball of the latest round' : 'Take the ball of the latest round'}
              </Button>
            )}
            <FileInput label="Picture of the note" props={getInputProps} />
          </Box>
        </DialogContent>
        <DialogActions>
          <Button onClick={() => onEnd(false)}>Leave it</Button>
          <Button type="submit" variant="contained">
            Keep
          </Button>
        </DialogActions>
      </Box>
    </Dialog>
  );
}
