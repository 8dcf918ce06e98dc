import { fireEvent, render, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { NumberField } from './NumberField.tsx';

const facts = { label: 'Aperture', unit: 'f-number', min: 0.9, max: 64, step: 0.1, value: 5.6 };

function field(
  onChange: (value: number) => void,
  part: Partial<Parameters<typeof NumberField>[0]> = {},
): HTMLInputElement {
  render(<NumberField {...facts} {...part} onChange={onChange} />);
  return screen.getByRole('spinbutton');
}

function type(input: HTMLInputElement, text: string): void {
  fireEvent.focus(input);
  fireEvent.change(input, { target: { value: text } });
  fireEvent.blur(input);
}

test('a comma is a point; the value is given once, on leaving', () => {
  const changed = vi.fn();
  const input = field(changed);
  fireEvent.change(input, { target: { value: '2,8' } });
  expect(changed).not.toHaveBeenCalled();
  fireEvent.blur(input);
  expect(changed.mock.calls).toEqual([[2.8]]);
});

test('out of range is held at its end, and the field says the range', () => {
  const changed = vi.fn();
  type(field(changed), '200');
  expect(changed).toHaveBeenCalledWith(64);
  expect(screen.getByRole('status').textContent).toContain('from 0.9 to 64');
});

test('what is no number changes nothing, and is said', () => {
  const changed = vi.fn();
  type(field(changed), 'wide');
  expect(changed).not.toHaveBeenCalled();
  expect(screen.getByRole('status').textContent).toContain('no number');
});

test('arrow keys step, with Shift a fifth of it, and stop at the ends', () => {
  const changed = vi.fn();
  const input = field(changed);
  fireEvent.keyDown(input, { key: 'ArrowUp' });
  fireEvent.keyDown(input, { key: 'ArrowDown', shiftKey: true });
  expect(changed.mock.calls).toEqual([[5.7], [5.58]]);
});

test('a share is shown in percent and given as a share', () => {
  const changed = vi.fn();
  const input = field(changed, { value: 0.5, min: 0, max: 4, factor: 100, digits: 1, fixed: true });
  expect(input.value).toBe('50.0');
  type(input, '60');
  expect(changed).toHaveBeenCalledWith(0.6);
});
