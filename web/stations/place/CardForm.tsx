import AddIcon from '@mui/icons-material/AddOutlined';
import RemoveIcon from '@mui/icons-material/CloseOutlined';
import { Box, Button, FormControlLabel, IconButton, Switch, TextField, Tooltip } from '@mui/material';
import {
  cardFields,
  cardFonts,
  cardPlaces,
  cardRanges,
  LONGEST_LINE,
  MOST_LINES,
  unknownFields,
  type Card,
  type CardLine,
} from '../../../core/place/card.ts';
import { Choice } from '../../shared/Choice.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { Actions, Fields } from '../../shared/layout.tsx';

const line = (text: string, size: number, font: CardLine['font']): CardLine => ({
  id: crypto.randomUUID(),
  text,
  at: 'bottom',
  size,
  font,
  tone: '#ffffff',
  edge: true,
});
const proposed = (): Card => ({
  lines: [line('{name}', 44, 'bold'), line('{shoot}, {date}', 22, 'plain')],
  margin: cardRanges.margin.default,
  border: cardRanges.border.default,
  tone: '#ffffff',
});

function titles(table: Record<string, string>): { value: string; title: string }[] {
  return Object.entries(table).map(([value, title]) => ({ value, title }));
}

/** The words and the border of a card. */
export function CardForm({ card, onChange }: { card: Card | null; onChange: (card: Card | null) => void }) {
  if (!card)
    return (
      <>
        <p className="quiet">Words with names and dates filled in, and a border, over each finished picture.</p>
        <Button onClick={() => onChange(proposed())}>Add a card</Button>
      </>
    );
  const keep = (part: Partial<Card>): void => onChange({ ...card, ...part });
  const change = (id: string, part: Partial<CardLine>): void =>
    keep({ lines: card.lines.map((one) => (one.id === id ? { ...one, ...part } : one)) });
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {card.lines.map((one, n) => (
        <Line
          key={one.id}
          line={one}
          title={`Line ${n + 1}`}
          onChange={(part) => change(one.id, part)}
          onRemove={() => keep({ lines: card.lines.filter(({ id }) => id !== one.id) })}
        />
      ))}
      {card.lines.length < MOST_LINES && (
        <Actions>
          <Button
            variant="text"
            startIcon={<AddIcon />}
            onClick={() => keep({ lines: [...card.lines, line('', 24, 'plain')] })}
          >
            Add a line
          </Button>
        </Actions>
      )}
      <Fields as="div">
        {(['margin', 'border'] as const).map((name) => {
          const { label, unit, min, max, step } = cardRanges[name];
          return (
            <NumberField
              key={name}
              label={label}
              unit={unit}
              value={card[name]}
              min={min}
              max={max}
              step={step}
              onChange={(value) => keep({ [name]: value })}
            />
          );
        })}
        {card.border > 0 && <Tone label="Border’s tone" value={card.tone} onChange={(tone) => keep({ tone })} />}
      </Fields>
      <p className="quiet">
        {Object.entries(cardFields).map(([field, words], n) => (
          <span key={field}>
            {n > 0 && ', '}
            <code>{`{${field}}`}</code> {words}
          </span>
        ))}
        . A line that is too long is made smaller; what a printer may cut off is the margin.
      </p>
      <Actions>
        <Button variant="text" onClick={() => onChange(null)}>
          Take the card off
        </Button>
      </Actions>
    </Box>
  );
}

function Line({
  line: { text, at, size, font, tone, edge },
  title,
  onChange,
  onRemove,
}: {
  line: CardLine;
  title: string;
  onChange: (part: Partial<CardLine>) => void;
  onRemove: () => void;
}) {
  const unknown = unknownFields(text);
  return (
    <Box role="group" aria-label={title} sx={{ borderBottom: 1, borderColor: 'divider', pb: 1 }}>
      <Actions sx={{ alignItems: 'center', flexWrap: 'nowrap' }}>
        <TextField
          key={text}
          label={title}
          fullWidth
          size="small"
          defaultValue={text}
          slotProps={{ htmlInput: { maxLength: LONGEST_LINE } }}
          onBlur={(event) => event.target.value !== text && onChange({ text: event.target.value })}
          onKeyDown={(event) => event.key === 'Enter' && (event.target as HTMLInputElement).blur()}
        />
        <Tooltip title="Remove the line">
          <IconButton aria-label={`Remove ${title.toLowerCase()}`} onClick={onRemove}>
            <RemoveIcon fontSize="small" />
          </IconButton>
        </Tooltip>
      </Actions>
      {unknown.length > 0 && (
        <Problem role="status" lead={`{${unknown[0]}}`}>
          is no field and stands as it is written.
        </Problem>
      )}
      <Choice
        label="Where"
        value={at}
        options={titles(cardPlaces)}
        onChange={(place) => onChange({ at: place as CardLine['at'] })}
      />
      <Choice
        label="Letters"
        value={font}
        options={titles(cardFonts)}
        onChange={(next) => onChange({ font: next as CardLine['font'] })}
      />
      <Fields as="div">
        <NumberField
          label={cardRanges.size.label}
          unit={cardRanges.size.unit}
          value={size}
          min={cardRanges.size.min}
          max={cardRanges.size.max}
          step={cardRanges.size.step}
          onChange={(next) => onChange({ size: next })}
        />
        <Tone label="Tone" value={tone} onChange={(next) => onChange({ tone: next })} />
      </Fields>
      <FormControlLabel
        control={<Switch size="small" checked={edge} onChange={(_, on) => onChange({ edge: on })} />}
        label="Soft edge, to be read on anything"
      />
    </Box>
  );
}

/** A tone to choose; taken when the choice is closed. */
function Tone({ label, value, onChange }: { label: string; value: string; onChange: (tone: string) => void }) {
  return (
    <>
      <span>{label}</span>
      <TextField
        key={value}
        type="color"
        size="small"
        variant="standard"
        sx={{ width: 78 }}
        defaultValue={value}
        slotProps={{ htmlInput: { 'aria-label': label } }}
        onBlur={(event) => event.target.value !== value && onChange(event.target.value)}
      />
    </>
  );
}
