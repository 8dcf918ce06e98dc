import { expect, test } from 'vitest';
import { deliveredName, safeName } from './naming.ts';

test('names keep the frame’s name, take a number when taken, whatever the case', () => {
  expect(deliveredName('IMG_1.JPG', 'cutout', 'png', new Set())).toBe('cutouts/IMG_1.png');
  expect(deliveredName('img_1.jpg', 'cutout', 'png', new Set(['cutouts/IMG_1.png']))).toBe('cutouts/img_1-2.png');
  expect(deliveredName('IMG_1.JPG', 'finished', 'jpg', new Set(['cutouts/IMG_1.png']))).toBe('finished/IMG_1.jpg');
});

test.each([
  ['../../etc/passwd', '_.._etc_passwd'],
  ['a:b*c?.', 'a_b_c_'],
  ['\u0000\u001f', '__'],
  ['   ', 'frame'],
  ['CON', '_CON'],
  ['nul.tar', '_nul.tar'],
  ['console', 'console'],
  ['Zoë & Łukasz 东京', 'Zoë & Łukasz 东京'],
])('%j becomes a name that every file system takes', (name, safe) => {
  expect(safeName(name)).toBe(safe);
});
