import { useId, useState } from 'react';
import { fieldUnit, type Fact, type Units } from '../../../core/plan/index.ts';

/** One number of a plan with its unit and range; saved on leaving or Enter, changed by arrow keys. A value out of range is held at the end of it, and the field says so. */
export function NumberField({
  fact,
  value,
  units,
  onChange,
}: {
  fact: Fact;
  value: number;
  units: Units;
  onChange: (value: number) => void;
}) {
  const id = useId();
  const { unit, factor, digits } = fieldUnit(fact, units);
  const shown = trim(value * factor, digits);
  const [held, setHeld] = useState<string>();
  const take = (text: string): void => {
    const typed = Number(text.replace(',', '.'));
    if (text.trim() === '' || !Number.isFinite(typed) || text === shown) return setHeld(undefined);
    const wanted = typed / factor;
    const kept = Math.max(fact.min, Math.min(fact.max, wanted));
    setHeld(
      kept !== wanted ? `from ${trim(fact.min * factor, digits)} to ${trim(fact.max * factor, digits)}` : undefined,
    );
    onChange(kept);
  };
  return (
    <>
      <label htmlFor={id}>
        {fact.label}
        <span className="quiet"> {unit}</span>
        {held && <strong role="status"> {held}</strong>}
      </label>
      <input
        id={id}
        key={shown}
        inputMode="decimal"
        defaultValue={shown}
        onBlur={(event) => take(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
          if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
          event.preventDefault();
          const step = (event.key === 'ArrowUp' ? 1 : -1) * fact.step * (event.shiftKey ? 0.2 : 1);
          onChange(Math.max(fact.min, Math.min(fact.max, Math.round((value + step) * 1e6) / 1e6)));
        }}
      />
    </>
  );
}

function trim(value: number, digits: number): string {
  return String(Number(value.toFixed(digits)));
}
