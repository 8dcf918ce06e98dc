import { FormHelperText, FormLabel, Input } from '@mui/material';
import { useId, useState, type KeyboardEvent } from 'react';
import { takeNumber, trimNumber } from './takeNumber.ts';

export interface NumberFieldProps {
  label: string;
  unit?: string;
  value: number;
  /** Inclusive, in the unit of `value`. */
  min: number;
  max: number;
  /** One press of an arrow key; a fifth of it with Shift. */
  step: number;
  /** Places after the point that are shown; fixed ones keep their noughts. */
  digits?: number;
  fixed?: boolean;
  /** Shown numbers to one of `value`: 100 shows a share in percent. */
  factor?: number;
  /** The label is only for those who hear the page. */
  hideLabel?: boolean;
  onChange: (value: number) => void;
}

/**
 * A number with its unit and range; taken on leaving or Enter, with point or comma, changed by the arrow keys. What is
 * out of range is held at the end of it, and the field says the range. Stands in a grid of two columns.
 */
export function NumberField(props: NumberFieldProps) {
  const { label, unit, value, min, max, step, digits = 3, fixed = false, factor = 1, hideLabel, onChange } = props;
  const id = useId();
  const show = (v: number): string => (fixed ? (v * factor).toFixed(digits) : trimNumber(v * factor, digits));
  const shown = show(value);
  const [said, setSaid] = useState<string>();
  const take = (text: string): void => {
    const taken = takeNumber(text, min * factor, max * factor);
    if (taken.problem === 'none' && text === shown) return setSaid(undefined);
    setSaid(
      taken.problem === 'none'
        ? undefined
        : taken.problem === 'range'
          ? `from ${show(min)} to ${show(max)}`
          : 'no number',
    );
    if (taken.value !== undefined && taken.value / factor !== value) onChange(taken.value / factor);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>): void => {
    if (event.key === 'Enter') event.currentTarget.blur();
    if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
    event.preventDefault();
    const by = (event.key === 'ArrowUp' ? 1 : -1) * step * (event.shiftKey ? 0.2 : 1);
    onChange(Math.max(min, Math.min(max, Math.round((value + by) * 1e6) / 1e6)));
  };
  return (
    <>
      {!hideLabel && (
        <FormLabel htmlFor={id}>
          {label}
          {unit && <span className="quiet"> {unit}</span>}
          {said && (
            <FormHelperText component="strong" role="status" sx={{ display: 'inline' }}>
              {' '}
              {said}
            </FormHelperText>
          )}
        </FormLabel>
      )}
      <Input
        key={shown}
        error={said !== undefined}
        defaultValue={shown}
        inputProps={{
          id,
          role: 'spinbutton',
          inputMode: 'decimal',
          'aria-label': hideLabel ? label : undefined,
          'aria-valuenow': Number(shown),
          'aria-valuemin': min * factor,
          'aria-valuemax': max * factor,
          style: { textAlign: 'right', fontFamily: 'var(--figures)' },
        }}
        sx={{ width: 78 }}
        onBlur={(event) => take(event.target.value)}
        onKeyDown={onKeyDown}
      />
      {hideLabel && said && (
        <FormHelperText role="status" sx={{ gridColumn: '1 / -1', textAlign: 'right' }}>
          {said}
        </FormHelperText>
      )}
    </>
  );
}
