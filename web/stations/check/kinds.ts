import type { PictureKind } from '../../../contract/index.ts';

/** The photographs of a round, in the order they are taken beside a set. */
export const kinds: { kind: PictureKind; title: string; hint: string; takes: boolean }[] = [
  { kind: 'plate', title: 'Empty screen', hint: 'lit as for the shoot, nobody there', takes: true },
  { kind: 'people', title: 'Test frame', hint: 'somebody where the guests will stand', takes: true },
  { kind: 'grey card', title: 'Grey card', hint: 'at the face, towards the camera', takes: true },
  { kind: 'ball', title: 'Matt ball', hint: 'at the face', takes: true },
  { kind: 'colour chart', title: 'Colour chart', hint: 'at the face', takes: true },
  { kind: 'background', title: 'Ball of a background', hint: 'photographed where the background was', takes: false },
];

export const titleOf = (kind: PictureKind): string => kinds.find((one) => one.kind === kind)?.title ?? kind;
