import type { Fact } from './facts.ts';

export type Units = 'metric' | 'imperial';

const INCH = 0.0254;

/** A length in words: 2.35 m, 85 mm; or 7′ 8½″ to the half inch, 3.35″ below a foot. */
export function lengthWords(metres: number, units: Units): string {
  if (units === 'metric') return Math.abs(metres) < 0.1 ? `${round(metres * 1000, 1)} mm` : `${metres.toFixed(2)} m`;
  const inches = Math.abs(metres) / INCH;
  const sign = metres < 0 ? '−' : '';
  if (inches < 12) return `${sign}${round(inches, 2)}″`;
  const halves = Math.round(inches * 2);
  const rest = (halves % 24) / 2;
  return `${sign}${Math.floor(halves / 24)}′ ${Math.floor(rest)}${rest % 1 ? '½' : ''}″`;
}

/** What a number field shows and takes: metres, millimetres for what is small, or inches and feet. */
export function fieldUnit(fact: Fact, units: Units): { unit: string; factor: number; digits: number } {
  if (fact.unit !== 'm')
    return { unit: fact.unit, factor: 1, digits: fact.step < 0.01 ? 5 : fact.step < 0.1 ? 3 : fact.step < 1 ? 2 : 0 };
  const small = fact.max <= 2 && fact.step <= 0.01 && fact.max < 1.3;
  if (units === 'metric') return small ? { unit: 'mm', factor: 1000, digits: 1 } : { unit: 'm', factor: 1, digits: 2 };
  return small ? { unit: 'in', factor: 1 / INCH, digits: 2 } : { unit: 'ft', factor: 1 / (12 * INCH), digits: 2 };
}

function round(value: number, digits: number): number {
  return Number(value.toFixed(digits));
}
