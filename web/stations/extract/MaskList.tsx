import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import { IconButton, List, ListItem, Tooltip } from '@mui/material';
import type { Frame, Setup } from '../../../contract/index.ts';
import type { HandMask } from '../../../core/cut/guidance.ts';
import type { Recipe } from '../../../core/cut/recipe.ts';
import { changeFrame, changeSetup } from '../../state/changes.ts';
import { effects, scopes } from './maskFacts.ts';
import { RegionSettings } from './RegionSettings.tsx';

interface Props {
  setup: Setup;
  frame: Frame;
  /** Frames of the setup. */
  frames: Frame[];
}

/** The masks that hold for a frame: its setup’s, its own, and those drawn on others of its subject. */
export function MaskList({ setup, frame, frames }: Props) {
  const alike = frame.subject ? frames.filter(({ id, subject }) => id !== frame.id && subject === frame.subject) : [];
  return (
    <List aria-label="Masks">
      {setup.masks.map((mask, n) => (
        <MaskRow
          key={`s${n}`}
          mask={mask}
          height={frame.height}
          holds={scopes.setup}
          around={setup.recipe}
          onChange={(to) => void changeSetup(setup, { masks: changed(setup.masks, n, to) }, 'mask')}
        />
      ))}
      {[frame, ...alike].flatMap((from) =>
        from.guidance.masks.map(
          (mask, n) =>
            (from === frame || mask.wholeSubject) && (
              <MaskRow
                key={`${from.id} ${n}`}
                mask={mask}
                height={frame.height}
                holds={`${mask.wholeSubject ? scopes.subject : scopes.frame}${from === frame ? '' : `, drawn on ${from.name}`}`}
                around={setup.recipe}
                onChange={(to) =>
                  void changeFrame(
                    from,
                    ({ guidance }) => ({ guidance: { ...guidance, masks: changed(guidance.masks, n, to) } }),
                    'mask',
                  )
                }
              />
            ),
        ),
      )}
    </List>
  );
}

/** Masks with the nth as it is to be, or without it. */
function changed(masks: readonly HandMask[], n: number, to: HandMask | undefined): HandMask[] {
  return masks.flatMap((mask, k) => (k !== n ? [mask] : to ? [to] : []));
}

function MaskRow({
  mask,
  height,
  holds,
  around,
  onChange,
}: {
  mask: HandMask;
  /** Of the frame, pixels. */
  height: number;
  holds: string;
  /** What is cut with beside it. */
  around: Recipe;
  /** As it is to be; undefined: gone. */
  onChange: (to: HandMask | undefined) => void;
}) {
  return (
    <ListItem disableGutters divider sx={{ justifyContent: 'space-between', flexWrap: 'wrap', py: 0.25 }}>
      <span>
        {effects[mask.effect].title}, <span className="figure">{mask.polygon.length}</span> corners
        {mask.soft && (
          <>
            , soft over <span className="figure">{Math.round(mask.soft * height)} px</span>
          </>
        )}
        <div className="quiet">{holds}</div>
      </span>
      <Tooltip title="Remove">
        <IconButton aria-label="Remove" onClick={() => onChange(undefined)}>
          <DeleteIcon />
        </IconButton>
      </Tooltip>
      {mask.effect === 'own' && (
        <RegionSettings
          settings={mask.settings ?? {}}
          around={around}
          onChange={(settings) => onChange({ ...mask, settings })}
        />
      )}
    </ListItem>
  );
}
