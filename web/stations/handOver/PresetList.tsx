import AddIcon from '@mui/icons-material/AddOutlined';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import TuneIcon from '@mui/icons-material/TuneOutlined';
import {
  Button,
  Checkbox,
  FormControlLabel,
  FormGroup,
  IconButton,
  ListItemText,
  Menu,
  MenuItem,
  styled,
} from '@mui/material';
import { useRef, useState } from 'react';
import {
  MOST_PRESETS,
  presetKinds,
  shippedPresets,
  type Preset,
  type PresetKind,
} from '../../../core/handOver/index.ts';
import { ask } from '../../shared/ask.tsx';
import { PresetDialog } from './PresetDialog.tsx';
import { presetWords } from './presetWords.ts';
import type { KnownPreset, Presets } from './usePresets.ts';

const Row = styled('div')`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  align-items: start;
  border-top: 1px solid var(--hairline);
  padding: 3px 0;
`;

const kinds = Object.keys(presetKinds) as PresetKind[];
const startOf = (kind: PresetKind): Preset => ({
  ...(shippedPresets.find((preset) => preset.kind === kind) as Preset),
  name: '',
});

/** The presets of the library; those that are ticked are used together. */
export function PresetList({
  known,
  used,
  onUse,
}: {
  known: Presets;
  used: readonly string[];
  onUse: (names: string[]) => void;
}) {
  const [edited, setEdited] = useState<Preset>();
  const [adding, setAdding] = useState(false);
  const add = useRef<HTMLButtonElement>(null);
  const remove = async ({ preset: { name }, id, shipped }: KnownPreset): Promise<void> => {
    const yes =
      id !== null &&
      (await ask({
        title: shipped ? `Take “${name}” back to how it shipped?` : `Remove “${name}”?`,
        text: 'Hand-overs that were made with it stay as they are.',
        action: shipped ? 'Take back' : 'Remove',
      }));
    if (!yes || id === null) return;
    await known.remove(id);
    if (!shipped) onUse(used.filter((one) => one !== name));
  };
  const keep = async (preset: Preset): Promise<void> => {
    await known.keep(preset);
    if (!used.includes(preset.name)) onUse([...used, preset.name].slice(-MOST_PRESETS));
    setEdited(undefined);
  };
  return (
    <section aria-label="Presets">
      <FormGroup>
        {known.presets.map((one) => {
          const { preset } = one;
          const on = used.includes(preset.name);
          return (
            <Row key={preset.name}>
              <FormControlLabel
                sx={{ alignItems: 'start', mr: 1 }}
                control={
                  <Checkbox
                    checked={on}
                    disabled={!on && used.length >= MOST_PRESETS}
                    onChange={() => onUse(on ? used.filter((name) => name !== preset.name) : [...used, preset.name])}
                  />
                }
                label={
                  <ListItemText
                    sx={{ m: 0 }}
                    primary={preset.name}
                    secondary={presetWords(preset)}
                    slotProps={{ secondary: { className: 'quiet' } }}
                  />
                }
              />
              <IconButton aria-label={`Change ${preset.name}`} onClick={() => setEdited(preset)}>
                <TuneIcon />
              </IconButton>
              <IconButton
                aria-label={one.shipped ? `Take ${preset.name} back` : `Remove ${preset.name}`}
                sx={{ visibility: one.id === null ? 'hidden' : undefined }}
                onClick={() => void remove(one)}
              >
                <DeleteIcon />
              </IconButton>
            </Row>
          );
        })}
      </FormGroup>
      <Button ref={add} startIcon={<AddIcon />} sx={{ mt: 1 }} onClick={() => setAdding(true)}>
        A preset of your own
      </Button>
      <Menu open={adding} anchorEl={add.current} onClose={() => setAdding(false)}>
        {kinds.map((kind) => (
          <MenuItem
            key={kind}
            onClick={() => {
              setAdding(false);
              setEdited(startOf(kind));
            }}
          >
            <ListItemText primary={presetKinds[kind].title} secondary={presetKinds[kind].note} />
          </MenuItem>
        ))}
      </Menu>
      {edited && <PresetDialog preset={edited} known={known} onKeep={keep} onClose={() => setEdited(undefined)} />}
    </section>
  );
}
