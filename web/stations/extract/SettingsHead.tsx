import BackIcon from '@mui/icons-material/UndoOutlined';
import { Box, Button, IconButton, ToggleButton, ToggleButtonGroup, Tooltip } from '@mui/material';
import { useState } from 'react';
import { labelOf } from '../../../core/cut/recipe.ts';
import { Changes } from '../../shared/Changes.tsx';
import { RecipesDialog } from './RecipesDialog.tsx';
import { departuresOf, settingInWords, takeBack, type Scope } from './settings.ts';
import { TrialPanel } from './TrialPanel.tsx';
import type { FrameBench } from './useFrameBench.ts';

type Shown = Pick<
  FrameBench,
  'frame' | 'setup' | 'setupFrames' | 'recipe' | 'scope' | 'setScope' | 'keep' | 'trial' | 'lookAtChange'
>;

/** What the settings hold for, in which of them the frame differs from its setup, and the recipes that were kept. */
export function SettingsHead({ bench }: { bench: Shown }) {
  const { frame, setup, scope, setScope } = bench;
  const [listed, list] = useState(false);
  const held = departuresOf(bench);
  return (
    <Box sx={{ mb: 1 }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
        <h2>A change holds for</h2>
        <Button variant="text" onClick={() => list(true)}>
          Recipes
        </Button>
      </Box>
      <ToggleButtonGroup
        exclusive
        value={scope === 'subject' && !frame.subject ? 'frame' : scope}
        onChange={(_, next: Scope | null) => next && setScope(next)}
        aria-label="A change holds for"
        sx={{ ml: -0.75, '& .MuiToggleButton-root': { px: 0.75, py: 0.25 } }}
      >
        <ToggleButton value="setup">“{setup.name}”</ToggleButton>
        <ToggleButton value="subject" disabled={!frame.subject}>
          <Tooltip describeChild title={frame.subject ? '' : 'Say at Masks who is on this frame.'}>
            <span>{frame.subject || 'the subject'}</span>
          </Tooltip>
        </ToggleButton>
        <ToggleButton value="frame">this frame</ToggleButton>
      </ToggleButtonGroup>
      {scope === 'setup' && <TrialPanel bench={bench} />}
      {held.length > 0 && (
        <Changes aria-label="Differs from the setup">
          {held.map((one) => {
            const { id, to } = one.departure;
            const label = labelOf(id);
            return (
              <li key={id}>
                <span>
                  {label} <span className="figure">{settingInWords(id, to)}</span>
                  <div className="quiet">
                    “{setup.name}”: <span className="figure">{settingInWords(id, setup.recipe[id])}</span> ·{' '}
                    {one.departure.wholeSubject ? `for ${frame.subject}` : 'this frame'}
                  </div>
                </span>
                <Tooltip title={`As “${setup.name}”`}>
                  <IconButton
                    aria-label={`${label} as the setup`}
                    onClick={() => takeBack(one, `${label.toLowerCase()} as the setup`)}
                  >
                    <BackIcon fontSize="small" />
                  </IconButton>
                </Tooltip>
              </li>
            );
          })}
        </Changes>
      )}
      <RecipesDialog open={listed} recipe={bench.recipe} onTake={bench.keep} onClose={() => list(false)} />
    </Box>
  );
}
