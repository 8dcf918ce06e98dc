import RemoveIcon from '@mui/icons-material/CloseOutlined';
import { Box, Button, IconButton, Radio, Tooltip } from '@mui/material';
import type { Frame, Subject } from '../../../contract/index.ts';
import { MOST_OTHERS, otherPlaces, type Other } from '../../../core/place/people.ts';
import type { Placement } from '../../../core/place/placement.ts';
import { Choice } from '../../shared/Choice.tsx';
import { counted } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { useStore } from '../../state/store.ts';

/** Who else is in the picture: from other frames, behind or in front; and who is moved by the hand. */
export function OthersPanel({
  frame,
  cut,
  others,
  held,
  placement,
  onHold,
  onChange,
  onGather,
}: {
  frame: Frame;
  /** All that are extracted. */
  cut: readonly Frame[];
  others: readonly Other[];
  /** Which of the others is moved; undefined for the frame's own person. */
  held: number | undefined;
  placement: Placement;
  onHold: (n: number | undefined) => void;
  onChange: (others: Other[], what: string) => void;
  /** Puts people of these frames beside the frame’s own. */
  onGather: (frames: readonly Frame[]) => void;
}) {
  const nameOf = (id: number): string => {
    const found = cut.find((one) => one.id === id);
    return found ? [found.subject, found.name].filter(Boolean).join(', ') : 'a frame that is no longer there';
  };
  const subjects = useStore((state) => state.subjects);
  const company = companyOf(frame, cut, subjects, others);
  const offered = cut.filter(({ id }) => id !== frame.id && !others.some(({ frameId }) => frameId === id));
  const change = (n: number, part: Partial<Other>, what: string): void =>
    onChange(
      others.map((other, at) => (at === n ? { ...other, ...part } : other)),
      what,
    );
  return (
    <Box
      component="section"
      aria-label="Others in the picture"
      sx={{ borderTop: 1, borderColor: 'divider', mt: 1.25, pt: 1 }}
    >
      <h2>Others in the picture</h2>
      {others.length > 0 && (
        <Actions sx={{ alignItems: 'center', flexWrap: 'nowrap' }}>
          <Radio
            size="small"
            checked={held === undefined}
            onChange={() => onHold(undefined)}
            slotProps={{ input: { 'aria-label': `Move ${frame.name}` } }}
          />
          <span>{nameOf(frame.id)}</span>
        </Actions>
      )}
      {others.map((other, n) => (
        <Box key={other.frameId} role="group" aria-label={nameOf(other.frameId)}>
          <Actions sx={{ alignItems: 'center', flexWrap: 'nowrap' }}>
            <Radio
              size="small"
              checked={held === n}
              onChange={() => onHold(n)}
              slotProps={{ input: { 'aria-label': `Move ${nameOf(other.frameId)}` } }}
            />
            <span style={{ flex: 1, minWidth: 0 }}>{nameOf(other.frameId)}</span>
            <Tooltip title="Take them out of the picture">
              <IconButton
                aria-label={`Take ${nameOf(other.frameId)} out`}
                onClick={() => {
                  onHold(undefined);
                  onChange(others.toSpliced(n, 1), 'one person less');
                }}
              >
                <RemoveIcon fontSize="small" />
              </IconButton>
            </Tooltip>
          </Actions>
          <Choice
            label="Stands"
            value={other.where}
            options={Object.entries(otherPlaces).map(([value, title]) => ({ value, title }))}
            onChange={(where) => change(n, { where: where as Other['where'] }, 'who stands behind')}
          />
          <Choice
            label="Mirrored"
            value={other.mirrored ? 'yes' : ''}
            options={[
              { value: '', title: 'no' },
              { value: 'yes', title: 'yes' },
            ]}
            onChange={(value) => change(n, { mirrored: value === 'yes' }, 'mirroring')}
          />
        </Box>
      ))}
      {company && (
        <Button sx={{ my: 0.5 }} onClick={() => onGather(company.frames)}>
          Add {counted(company.frames.length, 'other', 'others')} of “{company.group}”
        </Button>
      )}
      {others.length < MOST_OTHERS && offered.length > 0 && (
        <Choice
          label="Add"
          value=""
          options={[
            { value: '', title: 'somebody extracted' },
            ...offered.map(({ id }) => ({ value: `${id}`, title: nameOf(id) })),
          ]}
          onChange={(value) => {
            if (!value) return;
            const { height, y } = placement;
            // Beside the frame's own person, on the side with more room.
            const x = placement.x + (placement.x > 0.5 ? -BESIDE : BESIDE);
            onHold(others.length);
            onChange(
              [...others, { frameId: Number(value), x, y, height, mirrored: false, where: 'behind' }],
              'one person more',
            );
          }}
        />
      )}
    </Box>
  );
}

/** A frame of each who is in the same group of the roster and not yet in the picture; undefined where there is nobody. */
function companyOf(
  frame: Frame,
  cut: readonly Frame[],
  subjects: readonly Subject[],
  others: readonly Other[],
): { group: string; frames: Frame[] } | undefined {
  const group = subjects.find(({ name }) => name === frame.subject)?.group;
  if (!group) return undefined;
  const here = new Set([
    frame.subject,
    ...cut.filter(({ id }) => others.some((one) => one.frameId === id)).map(({ subject }) => subject),
  ]);
  const frames = subjects
    .filter((one) => one.group === group && one.consent !== 'no' && !here.has(one.name))
    .flatMap(({ name }) => {
      const own = cut.filter(({ subject }) => subject === name);
      // What was picked comes first.
      return own.find(({ pick }) => pick === 'keep') ?? own[0] ?? [];
    })
    .slice(0, MOST_OTHERS - others.length);
  return frames.length ? { group, frames } : undefined;
}

/** How far beside the frame's own person somebody new stands, as a share of the width. */
const BESIDE = 0.28;
