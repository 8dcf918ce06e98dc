import Plotly from 'plotly.js-basic-dist-min';
import { useEffect, useRef } from 'react';
import { figures, tones } from '../../theme.ts';

export interface ChartPoint {
  x: number | string;
  y: number;
  name: string;
  /** A filled mark; an open one without. */
  full: boolean;
}

/** Marks against two scales, in ink on paper. */
export default function LogChart({
  label,
  points,
  across,
  down,
  dates = false,
}: {
  label: string;
  points: readonly ChartPoint[];
  across: string;
  down: string;
  /** What lies across are days; they are joined by a line. */
  dates?: boolean;
}) {
  const element = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const target = element.current;
    if (!target) return;
    const data = [
      {
        type: 'scatter' as const,
        mode: dates ? ('lines+markers' as const) : ('markers' as const),
        x: points.map(({ x }) => x),
        y: points.map(({ y }) => y),
        text: points.map(({ name }) => name),
        line: { color: tones.rule, width: 1 },
        marker: {
          size: 9,
          color: points.map(({ full }) => (full ? tones.ink : tones.sheet)),
          line: { color: tones.ink, width: 1.5 },
        },
        hovertemplate: '%{text}<br>%{x}: %{y:.2f}<extra></extra>',
      },
    ];
    const layout = {
      height: 260,
      margin: { l: 52, r: 12, t: 8, b: 44 },
      paper_bgcolor: tones.sheet,
      plot_bgcolor: tones.sheet,
      font: { family: figures, size: 11, color: tones.ink },
      showlegend: false,
      xaxis: { title: { text: across }, gridcolor: tones.hairline, type: dates ? ('date' as const) : undefined },
      yaxis: { title: { text: down }, gridcolor: tones.hairline, rangemode: 'tozero' as const },
      autosize: true,
    };
    void Plotly.react(target, data, layout as never, { displayModeBar: false, responsive: true });
  }, [points, across, down, dates]);
  useEffect(() => {
    const target = element.current;
    return () => {
      if (target) Plotly.purge(target);
    };
  }, []);
  return <div ref={element} role="img" aria-label={label} />;
}
