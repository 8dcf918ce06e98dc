import { zodResolver } from '@hookform/resolvers/zod';
import { Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { DatePicker } from '@mui/x-date-pickers/DatePicker';
import dayjs from 'dayjs';
import { Controller, useForm } from 'react-hook-form';
import { newShootSchema, type NewShoot } from '../../../contract/index.ts';
import { Dates } from '../../shared/Dates.tsx';

/** Name, date and place of a shoot, new or changed. */
export function ShootDialog({
  title,
  action,
  shoot,
  onDone,
  onClose,
}: {
  title: string;
  action: string;
  shoot: NewShoot;
  onDone: (shoot: NewShoot) => unknown;
  onClose: () => void;
}) {
  const { register, control, handleSubmit, formState } = useForm({
    resolver: zodResolver(newShootSchema),
    defaultValues: shoot,
  });
  const { errors, isSubmitting } = formState;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="shoot-dialog">
      <form noValidate onSubmit={(event) => void handleSubmit((values) => onDone(values))(event)}>
        <DialogTitle id="shoot-dialog">{title}</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2 }}>
          <TextField
            label="Name"
            autoFocus
            error={!!errors.name}
            helperText={errors.name?.message}
            slotProps={{ htmlInput: { maxLength: 120 } }}
            {...register('name')}
          />
          <Dates>
            <Controller
              control={control}
              name="date"
              render={({ field: { onChange, ref } }) => (
                <DatePicker
                  label="Date"
                  defaultValue={dayjs(shoot.date)}
                  onChange={(day) => onChange(day?.isValid() ? day.format('YYYY-MM-DD') : '')}
                  inputRef={ref}
                  slotProps={{
                    textField: {
                      size: 'small',
                      variant: 'standard',
                      error: !!errors.date,
                      helperText: errors.date?.message,
                    },
                  }}
                />
              )}
            />
          </Dates>
          <TextField
            label="Place"
            error={!!errors.place}
            helperText={errors.place?.message}
            slotProps={{ htmlInput: { maxLength: 120 } }}
            {...register('place')}
          />
        </DialogContent>
        <DialogActions>
          <Button type="submit" variant="contained" color="primary" disabled={isSubmitting}>
            {action}
          </Button>
          <Button variant="text" onClick={onClose}>
            Leave it
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
