import { Box, Button, Checkbox, FormControlLabel, Link } from '@mui/material';
import { useMemo } from 'react';
import type { ComparedFrame } from '../../../contract/index.ts';
import { labelOf, type Recipe } from '../../../core/cut/recipe.ts';
import { counted, span } from '../../shared/format.ts';
import { Changes } from '../../shared/Changes.tsx';
import { JobFailed, JobLine } from '../../shared/JobLine.tsx';
import { Actions } from '../../shared/layout.tsx';
import { useStore } from '../../state/store.ts';
import { settingInWords } from './settings.ts';
import type { FrameBench } from './useFrameBench.ts';

/** Minutes by hand that make a frame better or worse. */
const FELT = 0.05;

/** Settings that are tried before they are kept: what they are, and what they make better or worse on every frame. */
export function TrialPanel({ bench }: { bench: Pick<FrameBench, 'setup' | 'setupFrames' | 'trial' | 'lookAtChange'> }) {
  const { setup, setupFrames, trial } = bench;
  const names = Object.keys(trial.to) as (keyof Recipe)[];
  const people = setupFrames.filter(({ plate }) => !plate);
  return (
    <Box>
      <FormControlLabel
        control={<Checkbox checked={trial.on} onChange={(_, on) => trial.setOn(on)} />}
        label="Try before keeping"
      />
      {trial.on && (
        <Box sx={{ borderLeft: '5px solid', borderColor: 'primary.main', pl: 1.25, mb: 1, display: 'grid', gap: 0.75 }}>
          {names.length === 0 ? (
            <p className="quiet">Change a setting, or take a recipe; nothing is kept yet.</p>
          ) : (
            <>
              <Changes aria-label="Tried">
                {names.map((name) => (
                  <li key={name}>
                    <span>{labelOf(name)}</span>
                    <span className="figure">
                      {settingInWords(name, setup.recipe[name])} → {settingInWords(name, trial.recipe[name])}
                    </span>
                  </li>
                ))}
              </Changes>
              <Actions>
                <Button variant="contained" color="primary" onClick={trial.keep}>
                  Keep
                </Button>
                <Button onClick={trial.drop}>Drop</Button>
                {!trial.comparing && !trial.compared && (
                  <Button onClick={trial.compare}>Compare on {counted(people.length, 'frame')}</Button>
                )}
              </Actions>
              {trial.comparing && <JobLine job={trial.comparing} label="Comparing" words="Comparing" />}
              <JobFailed job={trial.failed} />
              {trial.compared && <Outcome compared={trial.compared} of={people.length} onLook={bench.lookAtChange} />}
            </>
          )}
        </Box>
      )}
    </Box>
  );
}

/** Every frame that looks different, what became worse first. */
function Outcome({
  compared,
  of,
  onLook,
}: {
  compared: ComparedFrame[];
  /** Frames that were to be compared. */
  of: number;
  onLook: (frameId: number) => void;
}) {
  const frames = useStore((state) => state.frames);
  const sorted = useMemo(
    () =>
      compared
        .filter(({ changed, before, after }) => changed > 0 || before !== after)
        .sort((a, b) => b.after - b.before - (a.after - a.before) || b.changed - a.changed),
    [compared],
  );
  const total = (of: 'before' | 'after'): number => compared.reduce((sum, one) => sum + one[of], 0);
  const count = (test: (gain: number) => boolean): number =>
    compared.filter(({ before, after }) => test(before - after)).length;
  return (
    <>
      <p>
        By hand <span className="figure">{span(total('before'))}</span> →{' '}
        <strong className="figure">{span(total('after'))}</strong>
        <span className="quiet">
          {' '}
          · better <span className="figure">{count((gain) => gain > FELT)}</span>, worse{' '}
          <span className="figure">{count((gain) => gain < -FELT)}</span>, look the same{' '}
          <span className="figure">{compared.length - sorted.length}</span>
        </span>
      </p>
      <Changes aria-label="What changes, worst first" sx={{ maxHeight: 230, overflow: 'auto' }}>
        {sorted.map(({ frameId, before, after, changed }) => (
          <li key={frameId}>
            <Link component="button" onClick={() => onLook(frameId)} sx={{ textAlign: 'left' }}>
              {frames.find(({ id }) => id === frameId)?.name}
            </Link>
            <span className="figure quiet">{(100 * changed).toFixed(1)} %</span>
            <span className="figure">
              {before.toFixed(1)} → {after.toFixed(1)}
            </span>
          </li>
        ))}
      </Changes>
      {compared.length < of && (
        <p>
          <strong>{counted(of - compared.length, 'frame')} could not be compared.</strong> Extract them to be told why.
        </p>
      )}
      <p className="quiet">Share of the person that looks different; minutes by hand, on small copies.</p>
    </>
  );
}
