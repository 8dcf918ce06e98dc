import {
  Box,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  IconButton,
  TextField,
} from '@mui/material';
import AddIcon from '@mui/icons-material/AddOutlined';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { presetSchema } from '../../../contract/index.ts';
import {
  forInks,
  intents,
  MOST_ON_SHEET,
  papers,
  presetKinds,
  presetRanges,
  showsWords,
  type PaperSheet,
  type Preset,
  type Print,
  type Profile,
  type SheetPicture,
} from '../../../core/handOver/index.ts';
import { Choice } from '../../shared/Choice.tsx';
import { FileInput } from '../../shared/FileInput.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { presetWords } from './presetWords.ts';
import type { Presets } from './usePresets.ts';

const options = (titles: Record<string, string>): { value: string; title: string }[] =>
  Object.entries(titles).map(([value, title]) => ({ value, title }));
const paperOptions = options(Object.fromEntries(Object.entries(papers).map(([id, { title }]) => [id, title])));
const two = { display: 'grid', gridTemplateColumns: '1fr auto', gap: '6px 12px', alignItems: 'baseline' } as const;

/** One preset: its name and what its kind can be set to. */
export function PresetDialog({
  preset: before,
  known,
  onKeep,
  onClose,
}: {
  preset: Preset;
  known: Presets;
  onKeep: (preset: Preset) => Promise<void>;
  onClose: () => void;
}) {
  const [preset, setPreset] = useState(before);
  const [said, setSaid] = useState<string>();
  const set = (part: object): void => setPreset((now) => ({ ...now, ...part }) as Preset);
  const keep = async (): Promise<void> => {
    const read = presetSchema.safeParse(preset);
    setSaid(read.success ? undefined : read.error.issues[0].message);
    if (read.success) await onKeep(read.data);
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="preset" fullWidth maxWidth="xs">
      <DialogTitle id="preset">{presetKinds[preset.kind].title}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5 }}>
        <TextField
          label="Name"
          value={preset.name}
          autoFocus={!before.name}
          error={said !== undefined && !preset.name.trim()}
          onChange={(event) => set({ name: event.target.value })}
        />
        {preset.kind === 'print' && <PrintFields print={preset} known={known} set={set} />}
        {preset.kind === 'screen' && (
          <Box sx={two}>
            <NumberField
              {...presetRanges.longest}
              step={10}
              value={preset.longest}
              onChange={(longest) => set({ longest })}
            />
            <NumberField {...presetRanges.most} step={50} value={preset.most} onChange={(most) => set({ most })} />
            <NumberField
              {...presetRanges.quality}
              step={1}
              value={preset.quality}
              onChange={(quality) => set({ quality })}
            />
          </Box>
        )}
        {preset.kind === 'screen' && (
          <>
            <p className="quiet">0 kB is no bound. Within a bound the quality gives way first, then the size.</p>
            <Format value={preset.format} titles={{ jpeg: 'JPEG', webp: 'WebP', avif: 'AVIF', png: 'PNG' }} set={set} />
          </>
        )}
        {preset.kind === 'cutout' && (
          <>
            <Format
              value={preset.format}
              titles={{ png: 'PNG, 8 bit', png16: 'PNG, 16 bit', tiff16: 'TIFF, 16 bit' }}
              set={set}
            />
            <FormControlLabel
              control={<Checkbox checked={preset.trimmed} onChange={(_, trimmed) => set({ trimmed })} />}
              label="Trimmed to the person"
            />
          </>
        )}
        {preset.kind === 'matte' && (
          <Format value={preset.format} titles={{ png: 'PNG, 8 bit', png16: 'PNG, 16 bit' }} set={set} />
        )}
        {preset.kind === 'sheet' && <SheetFields sheet={preset} set={set} />}
        {presetKinds[preset.kind].placed && (
          <FormControlLabel
            control={<Checkbox checked={showsWords(preset)} onChange={(_, shown) => set({ plain: !shown })} />}
            label="With the words and the border of its style"
          />
        )}
        <p className="quiet">{presetWords(preset)}</p>
        {said && <Problem>{said}</Problem>}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="contained" onClick={() => void keep()}>
          Keep the preset
        </Button>
      </DialogActions>
    </Dialog>
  );
}

type Set = (part: object) => void;

function Format({ value, titles, set }: { value: string; titles: Record<string, string>; set: Set }) {
  return <Choice label="File" value={value} options={options(titles)} onChange={(format) => set({ format })} />;
}

const tiff = { tiff16: 'TIFF, 16 bit' };

function PrintFields({ print, known, set }: { print: Print; known: Presets; set: Set }) {
  // Only a TIFF holds inks.
  const choose = (profile: Profile): void => set({ profile, ...(forInks({ profile }) ? { format: 'tiff16' } : {}) });
  const { getInputProps, open } = useDropzone({
    multiple: false,
    noDrag: true,
    onDrop: ([file]) => void (file && known.addProfile(file).then((profile) => profile && choose(profile))),
  });
  const idOf = (profile: Profile): string => (typeof profile === 'string' ? profile : profile.file);
  const own = [...known.profiles, print.profile].filter((profile) => typeof profile !== 'string');
  const profiles = new Map<string, Profile>(own.map((profile) => [profile.file, profile]));
  return (
    <>
      <Box sx={two}>
        <NumberField
          {...presetRanges.side}
          label="Width"
          step={5}
          value={print.width}
          onChange={(width) => set({ width })}
        />
        <NumberField
          {...presetRanges.side}
          label="Height"
          step={5}
          value={print.height}
          onChange={(height) => set({ height })}
        />
        <NumberField {...presetRanges.bleed} step={1} value={print.bleed} onChange={(bleed) => set({ bleed })} />
        <NumberField {...presetRanges.safe} step={1} value={print.safe} onChange={(safe) => set({ safe })} />
        <NumberField
          {...presetRanges.resolution}
          step={10}
          value={print.resolution}
          onChange={(resolution) => set({ resolution: Math.round(resolution) })}
        />
      </Box>
      <Choice label="Paper" value={print.paper} options={paperOptions} onChange={(paper) => set({ paper })} />
      <Choice
        label="Colours"
        value={idOf(print.profile)}
        options={[
          { value: 'srgb', title: 'sRGB' },
          { value: 'p3', title: 'P3, wide gamut' },
          ...[...profiles.values()].map((profile) => ({
            value: idOf(profile),
            title: typeof profile === 'string' ? profile : `${profile.name}${profile.inks ? ' (CMYK)' : ''}`,
          })),
        ]}
        onChange={(value) => choose(profiles.get(value) ?? (value as 'srgb' | 'p3'))}
      />
      <Box>
        <Button variant="text" onClick={open}>
          Bring in a profile of the print service
        </Button>
        <FileInput label="Colour profile" props={getInputProps} />
      </Box>
      {print.profile !== 'srgb' && (
        <Choice
          label="Colours beyond it"
          value={print.intent}
          options={options(intents)}
          onChange={(intent) => set({ intent })}
        />
      )}
      <Format value={print.format} titles={forInks(print) ? tiff : { jpeg: 'JPEG', ...tiff }} set={set} />
      {print.format === 'jpeg' && (
        <Box sx={two}>
          <NumberField
            {...presetRanges.quality}
            step={1}
            value={print.quality}
            onChange={(quality) => set({ quality })}
          />
        </Box>
      )}
    </>
  );
}

function SheetFields({ sheet, set }: { sheet: PaperSheet; set: Set }) {
  const change = (n: number, part: Partial<SheetPicture>): void =>
    set({ pictures: sheet.pictures.map((one, k) => (k === n ? { ...one, ...part } : one)) });
  return (
    <>
      <Box sx={two}>
        <NumberField
          {...presetRanges.side}
          label="Paper’s width"
          step={5}
          value={sheet.width}
          onChange={(width) => set({ width })}
        />
        <NumberField
          {...presetRanges.side}
          label="Paper’s height"
          step={5}
          value={sheet.height}
          onChange={(height) => set({ height })}
        />
        <NumberField
          {...presetRanges.safe}
          label="Margin"
          step={1}
          value={sheet.margin}
          onChange={(margin) => set({ margin })}
        />
        <NumberField {...presetRanges.gap} step={1} value={sheet.gap} onChange={(gap) => set({ gap })} />
        <NumberField
          {...presetRanges.resolution}
          step={10}
          value={sheet.resolution}
          onChange={(resolution) => set({ resolution: Math.round(resolution) })}
        />
      </Box>
      {sheet.pictures.map(({ width, height, count }, n) => (
        <Box key={n} component="fieldset" sx={{ border: 0, borderTop: '1px solid var(--hairline)', p: 0, pt: 0.5 }}>
          <Box component="legend" sx={{ float: 'left' }}>
            Picture {n + 1}
          </Box>
          <IconButton
            aria-label={`Take picture ${n + 1} off the sheet`}
            disabled={sheet.pictures.length < 2}
            sx={{ float: 'right' }}
            onClick={() => set({ pictures: sheet.pictures.filter((_, k) => k !== n) })}
          >
            <DeleteIcon />
          </IconButton>
          <Box sx={{ ...two, clear: 'both' }}>
            <NumberField
              {...presetRanges.side}
              label="Width"
              step={5}
              value={width}
              onChange={(to) => change(n, { width: to })}
            />
            <NumberField
              {...presetRanges.side}
              label="Height"
              step={5}
              value={height}
              onChange={(to) => change(n, { height: to })}
            />
            <NumberField
              {...presetRanges.count}
              step={1}
              value={count}
              onChange={(to) => change(n, { count: Math.round(to) })}
            />
          </Box>
        </Box>
      ))}
      <Box>
        <Button
          variant="text"
          startIcon={<AddIcon />}
          disabled={sheet.pictures.length >= MOST_ON_SHEET}
          onClick={() => set({ pictures: [...sheet.pictures, { width: 90, height: 130, count: 1 }] })}
        >
          Another size
        </Button>
      </Box>
      <Choice label="Paper" value={sheet.paper} options={paperOptions} onChange={(paper) => set({ paper })} />
      <FormControlLabel
        control={<Checkbox checked={sheet.marks} onChange={(_, marks) => set({ marks })} />}
        label="Cut marks"
      />
    </>
  );
}
