import { useDropzone } from 'react-dropzone';
import { useEffect, useState } from 'react';
import AddIcon from '@mui/icons-material/AddOutlined';
import DownIcon from '@mui/icons-material/KeyboardArrowDownOutlined';
import RemoveIcon from '@mui/icons-material/CloseOutlined';
import { Accordion, AccordionDetails, AccordionSummary, Box, Button, IconButton, Link, Tooltip } from '@mui/material';
import type { ReactNode } from 'react';
import type { Background, Lut } from '../../../contract/index.ts';
import { layerPlaces, layerWays, MOST_LAYERS, type Layer } from '../../../core/place/extras.ts';
import { placementFacts, type Placement } from '../../../core/place/placement.ts';
import { Choice } from '../../shared/Choice.tsx';
import { FileInput } from '../../shared/FileInput.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { Actions, Fields } from '../../shared/layout.tsx';
import { api, pictures } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';
import { CardForm } from './CardForm.tsx';
import { CurvesPart } from './CurvesPart.tsx';
import { SettingField } from './LookSettings.tsx';
import type { LookBench } from './useLook.ts';

/** What all finished pictures on a background have beside it and the person: curves, a look-up table, layers, a card. */
export function ExtrasPanel({
  look,
  shootId,
  background,
  backgrounds,
}: {
  look: LookBench;
  shootId: number;
  background: Background;
  backgrounds: readonly Background[];
}) {
  const { curves, lut, layers, card } = look.extras;
  return (
    <>
      <Part title="Curves" note={curves ? 'drawn' : ''}>
        <CurvesPart
          key={background.id}
          curves={curves ?? null}
          onChange={(next) => look.keepExtras({ curves: next }, 'curves')}
        />
      </Part>
      <Part title="Look-up table" note={lut === null ? '' : 'one'}>
        <LutPart look={look} shootId={shootId} background={background} />
      </Part>
      <Part title="Layers" note={layers.length ? `${layers.length}` : ''}>
        <LayersPart look={look} backgrounds={backgrounds} />
      </Part>
      <Part title="Card" note={card ? `${card.lines.length}` : ''}>
        <CardForm card={card} onChange={(next) => look.keepExtras({ card: next }, 'card')} />
      </Part>
    </>
  );
}

function Part({ title, note, children }: { title: string; note: string; children: ReactNode }) {
  return (
    <Accordion slotProps={{ heading: { component: 'h3' }, transition: { unmountOnExit: true } }} sx={{ mt: 0.75 }}>
      <AccordionSummary id={`part-${title}`.replace(' ', '-')} aria-controls={`in-${title}`.replace(' ', '-')}>
        <span>
          {title} <span className="figure quiet">{note}</span>
        </span>
      </AccordionSummary>
      <AccordionDetails>{children}</AccordionDetails>
    </Accordion>
  );
}

/** A table in the .cube format over the whole picture. */
function LutPart({ look, shootId, background }: { look: LookBench; shootId: number; background: Background }) {
  const [luts, setLuts] = useState<Lut[]>([]);
  const [refused, setRefused] = useState<string>();
  const { lut } = look.extras;
  useEffect(() => {
    void attempt(api.luts()).then((read) => read && setLuts(read));
  }, [lut]);
  const onDrop = ([file]: File[]): void => {
    setRefused(undefined);
    if (!file) return;
    void attempt(api.uploadLut(file)).then((result) => {
      if (result?.outcome === 'refused') setRefused(`${result.name}: ${result.reason}. ${result.remedy}`);
      if (result?.outcome !== 'stored') return;
      setLuts((list) => [...list.filter(({ id }) => id !== result.lut.id), result.lut]);
      look.keepExtras({ lut: result.lut.id }, 'look-up table');
    });
  };
  const { getInputProps, open } = useDropzone({ onDrop, multiple: false, noClick: true, noKeyboard: true });
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Choice
        label="Table"
        value={`${lut ?? ''}`}
        options={[
          { value: '', title: 'none' },
          ...luts.map(({ id, name, size }) => ({ value: `${id}`, title: `${name} (${size}³)` })),
        ]}
        onChange={(value) => look.keepExtras({ lut: value ? Number(value) : null }, 'look-up table')}
      />
      {lut !== null && <SettingField name="lutStrength" look={look} />}
      <FileInput label="Look-up table file" props={getInputProps} />
      <Actions>
        <Button variant="text" startIcon={<AddIcon />} onClick={open}>
          Add a .cube file
        </Button>
      </Actions>
      {refused && <Problem>{refused}</Problem>}
      {look.style && (
        <p className="quiet">
          All tones of “Over all”, with this table, as one table for other programs:{' '}
          <Link href={pictures.grade(shootId, background.id)} download>
            {background.name}.cube
          </Link>
          . What depends on the place, as darker corners, is not in it.
        </p>
      )}
    </Box>
  );
}

function titles<T extends string>(table: Record<T, string>): { value: T; title: string }[] {
  return (Object.keys(table) as T[]).map((value) => ({ value, title: table[value] }));
}

/** Where a layer lies at first, once it is not to fill the picture. */
const firstPlace: Placement = { x: 0.5, y: 0.75, height: 0.5 };
const placeNames = Object.keys(placementFacts) as (keyof Placement)[];

/** Other pictures of the library before or behind the person. */
function LayersPart({ look, backgrounds }: { look: LookBench; backgrounds: readonly Background[] }) {
  const { layers } = look.extras;
  const keep = (next: Layer[]): void => look.keepExtras({ layers: next }, 'layers');
  const change = (id: string, part: Partial<Layer>): void =>
    keep(layers.map((layer) => (layer.id === id ? { ...layer, ...part } : layer)));
  const offered = backgrounds.filter(({ removed }) => !removed);
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {layers.map((layer, n) => {
        const name = backgrounds.find(({ id }) => id === layer.backgroundId)?.name ?? 'no longer in the library';
        return (
          <Box key={layer.id} role="group" aria-label={name} sx={{ borderBottom: 1, borderColor: 'divider', pb: 1 }}>
            <Actions sx={{ alignItems: 'center' }}>
              <strong>{name}</strong>
              <span style={{ marginLeft: 'auto' }}>
                {n > 0 && (
                  <Tooltip title="Farther away">
                    <IconButton
                      aria-label={`${name} farther away`}
                      onClick={() => keep(layers.toSpliced(n, 1).toSpliced(n - 1, 0, layer))}
                    >
                      <DownIcon fontSize="small" />
                    </IconButton>
                  </Tooltip>
                )}
                <Tooltip title="Take it off">
                  <IconButton
                    aria-label={`Take ${name} off`}
                    onClick={() => keep(layers.filter(({ id }) => id !== layer.id))}
                  >
                    <RemoveIcon fontSize="small" />
                  </IconButton>
                </Tooltip>
              </span>
            </Actions>
            <Choice
              label="Where"
              value={layer.where}
              options={titles(layerPlaces)}
              onChange={(where) => change(layer.id, { where: where as Layer['where'] })}
            />
            <Choice
              label="Size"
              value={layer.at ? 'placed' : 'fills'}
              options={[
                { value: 'fills', title: 'Fills the picture' },
                { value: 'placed', title: 'At a place' },
              ]}
              onChange={(size) => change(layer.id, { at: size === 'placed' ? firstPlace : null })}
            />
            <Choice
              label="How"
              value={layer.way}
              options={titles(layerWays)}
              onChange={(way) => change(layer.id, { way: way as Layer['way'] })}
            />
            <Fields as="div">
              <NumberField
                label="Strength"
                unit="%"
                value={layer.strength}
                min={0}
                max={1}
                step={0.05}
                factor={100}
                digits={0}
                onChange={(strength) => change(layer.id, { strength })}
              />
              {layer.at &&
                placeNames.map((name) => {
                  const { label, unit, min, max } = placementFacts[name];
                  return (
                    <NumberField
                      key={name}
                      label={name === 'height' ? 'Height' : label}
                      unit={unit}
                      value={layer.at?.[name] ?? 0}
                      min={min}
                      max={max}
                      step={0.005}
                      factor={100}
                      digits={1}
                      onChange={(value) => layer.at && change(layer.id, { at: { ...layer.at, [name]: value } })}
                    />
                  );
                })}
            </Fields>
          </Box>
        );
      })}
      {layers.length < MOST_LAYERS && offered.length > 0 && (
        <Choice
          label="Add"
          value=""
          options={[
            { value: '', title: 'a picture of the library' },
            ...offered.map(({ id, name }) => ({ value: `${id}`, title: name })),
          ]}
          onChange={(value) =>
            value &&
            keep([
              ...layers,
              { id: crypto.randomUUID(), backgroundId: Number(value), where: 'front', way: 'over', strength: 1 },
            ])
          }
        />
      )}
      <p className="quiet">
        Sparks, a fence, a window’s glass, a printed frame: pictures with transparency keep it, as PNG, TIFF or SVG. Add
        them under Stand.
      </p>
    </Box>
  );
}
