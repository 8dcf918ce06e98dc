import { fireEvent, render, screen, within } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { RosterDialog } from './RosterDialog.tsx';

const roster = [
  { name: 'Heron crew', colours: ['204b38'], people: 8 },
  { name: 'Families', colours: [], people: 30 },
];

test('colours are added, changed and taken away for whom they belong to; the others stay', () => {
  const changed = vi.fn();
  render(<RosterDialog open roster={roster} onChange={changed} onClose={() => undefined} />);
  const table = within(screen.getByRole('grid'));
  fireEvent.click(table.getByRole('button', { name: 'Add a colour to Heron crew' }));
  expect(changed.mock.lastCall?.[0][0].colours).toEqual(['204b38', '808080']);
  fireEvent.change(table.getByLabelText('Colour 1 of Heron crew'), { target: { value: '#ff0000' } });
  expect(changed.mock.lastCall?.[0]).toEqual([{ ...roster[0], colours: ['ff0000'] }, roster[1]]);
  fireEvent.click(table.getByRole('button', { name: 'Remove colour 1 of Heron crew' }));
  expect(changed.mock.lastCall?.[0][0].colours).toEqual([]);
  fireEvent.click(screen.getByRole('button', { name: 'Add guests' }));
  expect(changed.mock.lastCall?.[0]).toHaveLength(3);
});
