import { describe, expect, test } from 'vitest';
import type { Matte } from './coverage.ts';
import { shapeMatte } from './shape.ts';

const none = { edge: 0, softness: 0, specks: 0, holes: 0 };

/** Rows of digits: tenths of full coverage, x for full. */
function matteOf(...rows: string[]): Matte {
  const alpha = Uint16Array.from(rows.join(''), (c) => (c === 'x' ? 65535 : Math.round((Number(c) / 10) * 65535)));
  const empty = new Float64Array();
  return {
    width: rows[0].length,
    height: rows.length,
    alpha,
    fringePixels: 0,
    unexplained: 0,
    tiles: { across: 0, down: 0, fringe: empty, unexplained: empty, apart: empty },
  };
}

function rowsOf({ width, height, alpha }: Matte): string[] {
  return Array.from({ length: height }, (_, y) =>
    Array.from(alpha.subarray(y * width, (y + 1) * width), (a) =>
      a === 65535 ? 'x' : String(Math.round((a / 65535) * 10)),
    ).join(''),
  );
}

describe('shapeMatte', () => {
  const bar = matteOf('000xxxx000', '000xxxx000', '000xxxx000');

  test('asked for nothing it gives the same matte; asked for something it leaves the given one alone', () => {
    expect(shapeMatte(bar, none, [])).toBe(bar);
    const before = bar.alpha.slice();
    shapeMatte(bar, { ...none, edge: 1, softness: 1, specks: 3, holes: 3 }, []);
    expect(bar.alpha).toEqual(before);
  });

  test('the edge goes out and in by whole pixels and by parts of one', () => {
    expect(rowsOf(shapeMatte(bar, { ...none, edge: 1 }, []))[1]).toBe('00xxxxxx00');
    expect(rowsOf(shapeMatte(bar, { ...none, edge: -1 }, []))[1]).toBe('0000xx0000');
    expect(rowsOf(shapeMatte(bar, { ...none, edge: 0.5 }, []))[1]).toBe('005xxxx500');
    expect(rowsOf(shapeMatte(bar, { ...none, edge: -1.5 }, []))[1]).toBe('0000550000');
  });

  test('softness keeps the sum and the middle, and makes the edge gradual', () => {
    const wide = matteOf(...Array.from({ length: 31 }, () => `${'0'.repeat(20)}${'x'.repeat(20)}${'0'.repeat(20)}`));
    const soft = shapeMatte(wide, { ...none, softness: 2.5 }, []);
    const row = soft.alpha.subarray(15 * 60, 16 * 60);
    const sum = (of: Uint16Array): number => of.reduce((a, b) => a + b, 0);
    expect(Math.abs(sum(row) / (20 * 65535) - 1)).toBeLessThan(1e-3);
    expect(row[30]).toBe(65535);
    for (let x = 1; x <= 30; x++) expect(row[x]).toBeGreaterThanOrEqual(row[x - 1]);
    expect(row[19]).toBeGreaterThan(15000);
    expect(row[20]).toBeLessThan(50000);
  });

  test('pieces and openings smaller than the given side go, larger ones and those at the border stay', () => {
    const dotted = matteOf('0000000000', '0x0000xxx0', '000000xxx0', '000000xxx0', 'x000000000');
    expect(rowsOf(shapeMatte(dotted, { ...none, specks: 2 }, []))).toEqual([
      '0000000000',
      '000000xxx0',
      '000000xxx0',
      '000000xxx0',
      'x000000000',
    ]);
    const holed = matteOf('xxxxxxxx', 'x5xxx00x', 'xxxxx00x', '0xxxxxxx');
    expect(rowsOf(shapeMatte(holed, { ...none, holes: 2 }, []))).toEqual([
      'xxxxxxxx',
      'xxxxx00x',
      'xxxxx00x',
      '0xxxxxxx',
    ]);
    expect(rowsOf(shapeMatte(holed, { ...none, holes: 3 }, []))[1]).toBe('xxxxxxxx');
  });

  test('masks come last: what the settings did to the place does not count', () => {
    const polygon = [
      { x: 0, y: 0 },
      { x: 0.5, y: 0 },
      { x: 0.5, y: 1 },
      { x: 0, y: 1 },
    ];
    expect(rowsOf(shapeMatte(bar, { ...none, edge: 2 }, [{ effect: 'clear', polygon }]))[1]).toBe('00000xxxx0');
    expect(rowsOf(shapeMatte(bar, { ...none, edge: -1 }, [{ effect: 'solid', polygon }]))[1]).toBe('xxxxxx0000');
  });
});
