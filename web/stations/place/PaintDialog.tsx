import { zodResolver } from '@hookform/resolvers/zod';
import { Button, Dialog, DialogActions, DialogContent, DialogTitle, MenuItem, TextField } from '@mui/material';
import { Controller, useForm } from 'react-hook-form';
import { paintRequestSchema, type PaintRequest } from '../../../contract/index.ts';
import { paintWayNames, paintWays } from '../../../core/place/paint.ts';

const proposed: PaintRequest = {
  name: 'Plain grey',
  paint: { from: '#b9b7b2', to: '#6d6b68', way: 'round' },
  width: 2400,
  height: 3200,
};

/** A background of one tone, or from one to the other. */
export function PaintDialog({ onDone, onClose }: { onDone: (wanted: PaintRequest) => unknown; onClose: () => void }) {
  const { register, control, handleSubmit, watch, formState } = useForm({
    resolver: zodResolver(paintRequestSchema),
    defaultValues: proposed,
  });
  const { errors, isSubmitting } = formState;
  const plain = watch('paint.way') === 'plain';
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="paint-dialog">
      <form noValidate onSubmit={(event) => void handleSubmit((values) => onDone(values))(event)}>
        <DialogTitle id="paint-dialog">Paint a background</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, gridTemplateColumns: '1fr 1fr' }}>
          <TextField
            label="Name"
            autoFocus
            sx={{ gridColumn: '1 / -1' }}
            error={!!errors.name}
            helperText={errors.name?.message}
            {...register('name')}
          />
          <Controller
            control={control}
            name="paint.way"
            render={({ field }) => (
              <TextField select label="Tones" sx={{ gridColumn: '1 / -1' }} {...field}>
                {paintWays.map((way) => (
                  <MenuItem key={way} value={way}>
                    {paintWayNames[way]}
                  </MenuItem>
                ))}
              </TextField>
            )}
          />
          <TextField type="color" label={plain ? 'Tone' : 'First tone'} {...register('paint.from')} />
          <TextField type="color" label="Last tone" disabled={plain} {...register('paint.to')} />
          {(['width', 'height'] as const).map((side) => (
            <TextField
              key={side}
              label={side === 'width' ? 'Width, pixels' : 'Height, pixels'}
              error={!!errors[side]}
              helperText={errors[side] && 'from 100 to 12 000'}
              slotProps={{ htmlInput: { inputMode: 'numeric' } }}
              {...register(side, { valueAsNumber: true })}
            />
          ))}
        </DialogContent>
        <DialogActions>
          <Button type="submit" variant="contained" color="primary" disabled={isSubmitting}>
            Paint it
          </Button>
          <Button variant="text" onClick={onClose}>
            Leave it
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
