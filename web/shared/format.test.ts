import { expect, test } from 'vitest';
import { counted, fileSize, longDate, megapixels, minutes, timeLeft } from './format.ts';

test.each([
  [minutes(0), '0 min by hand'],
  [counted(1, 'frame'), '1 frame'],
  [counted(0, 'frame'), '0 frames'],
  [counted(2, 'entry', 'entries'), '2 entries'],
  [minutes(0.4), 'under 1 min by hand'],
  [minutes(12.4), '12 min by hand'],
  [minutes(150), '2.5 h by hand'],
  [timeLeft(null), 'measuring …'],
  [timeLeft(0.2), '1 s left'],
  [timeLeft(125), '2 min 5 s left'],
  [timeLeft(119.6), '2 min 0 s left'],
  [fileSize(0), '0 kB'],
  [fileSize(12), '1 kB'],
  [fileSize(3_456_000), '3.5 MB'],
  [fileSize(2_340_000_000), '2.34 GB'],
  [megapixels(4000, 6000), '24.0 MP'],
  [longDate('2026-06-13'), '13 June 2026'],
])('%s', (written, expected) => {
  expect(written).toBe(expected);
});
