/** What can be handed over, as it is chosen. */
export const cutoutChoices = [
  { value: 'png', title: 'PNG, 8 bit', note: 'for most uses' },
  {
    value: 'png16',
    title: 'PNG, 16 bit',
    note: 'finer steps in hair and soft edges; larger, and cut once more from the photograph if that has 8 bit',
  },
  { value: 'none', title: 'No cutouts', note: '' },
] as const;
export const finishedChoices = [
  { value: 'jpeg', title: 'JPEG', note: 'for prints and the web' },
  { value: 'png', title: 'PNG', note: 'without loss; larger' },
  { value: 'none', title: 'No finished pictures', note: '' },
] as const;
