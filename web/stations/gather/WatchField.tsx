import { Alert, Box, Button, Checkbox, FormControlLabel, TextField } from '@mui/material';
import type { Setup } from '../../../contract/index.ts';
import type { SubjectName } from '../../../core/studio/cast.ts';
import { counted } from '../../shared/format.ts';
import { api } from '../../state/api.ts';
import { changeSetup } from '../../state/changes.ts';
import { attempt, useStore } from '../../state/store.ts';

/** Frames that the stand-in camera takes at one press. */
const AT_ONCE = 10;

/** The folder from which a setup's frames are taken as they come, and what became of its files. */
export function WatchField({ setup }: { setup: Setup }) {
  const { watch, follow, watched } = setup;
  const plans = useStore((state) => state.plans);
  const plan = plans.find(({ setupId }) => setupId === setup.id) ?? plans[0];
  const shoot = async (): Promise<void> => {
    const { demoPeople } = await import('../../../core/studio/cast.ts');
    const names = Object.keys(demoPeople) as SubjectName[];
    for (let n = 0; n < AT_ONCE; n++) {
      const seed = watched.taken + n + 1;
      const people = [names[seed % names.length]];
      if (!(await attempt(api.takeFrame(plan.id, { kind: 'people', people, seed, setupId: setup.id })))) return;
    }
  };
  const put = (typed: string): void => {
    const next = typed.trim() || null;
    if (next !== watch) void changeSetup(setup, { watch: next }, 'watched folder');
  };
  return (
    <Box sx={{ display: 'grid', gap: 0.5 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap' }}>
        <TextField
          key={watch ?? ''}
          variant="standard"
          defaultValue={watch ?? ''}
          placeholder="Watched folder on this machine, such as /home/studio/incoming"
          slotProps={{ htmlInput: { 'aria-label': `Watched folder of ${setup.name}`, size: 52, maxLength: 400 } }}
          onBlur={(event) => put(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && event.target instanceof HTMLInputElement) event.target.blur();
          }}
        />
        {watch && (
          <>
            <FormControlLabel
              control={
                <Checkbox
                  checked={follow}
                  onChange={(_, next) => void changeSetup(setup, { follow: next }, 'extracting as they come')}
                />
              }
              label="extract as they come"
            />
            {plan && (
              <Button variant="text" onClick={() => void shoot()}>
                Have the stand-in camera take {AT_ONCE}
              </Button>
            )}
            <span className="quiet" role="status">
              {counted(watched.taken, 'file')} taken from there
              {watched.refused.length > 0 && `, ${watched.refused.length} refused`}
            </span>
          </>
        )}
      </Box>
      {watch &&
        watched.refused.map(({ name, reason, remedy }) => (
          <Alert key={name} severity="warning">
            <strong>{name}:</strong> {reason}. {remedy}
          </Alert>
        ))}
    </Box>
  );
}
