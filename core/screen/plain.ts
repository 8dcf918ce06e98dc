import type { CheckReport } from './check.ts';

/** Values by place from the top left; null where no screen is seen. */
export interface PlainMap {
  columns: number;
  rows: number;
  stops: (number | null)[];
}

/** A report as plain JSON, with what only the computation needs left out. */
export type PlainReport = Omit<CheckReport, 'lawn' | 'difference'> & {
  lawn?: PlainMap;
  difference?: PlainMap & { most: number; lamps: { name: string; share: number }[] };
};

const map = ({ columns, rows, stops }: { columns: number; rows: number; stops: Float64Array }): PlainMap => ({
  columns,
  rows,
  stops: Array.from(stops, (v) => (Number.isNaN(v) ? null : Math.round(v * 1000) / 1000)),
});

export function plainReport({ lawn, difference, ...rest }: CheckReport): PlainReport {
  return {
    ...rest,
    lawn: lawn && map(lawn),
    difference: difference && {
      ...map(difference),
      most: difference.most,
      lamps: difference.lamps.map(({ name, share }) => ({ name, share })),
    },
  };
}
