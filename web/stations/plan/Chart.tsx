import Plotly from 'plotly.js-basic-dist-min';
import { useEffect, useRef } from 'react';
import { figures, tones } from '../../theme.ts';

interface Props {
  kind: 'causes' | 'sun';
  names: string[];
  values: number[];
  marks?: string[];
}

/** The charts of the Plan station, in ink on paper. */
export default function Chart({ kind, names, values, marks }: Props) {
  const element = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const target = element.current;
    if (!target) return;
    const font = { family: figures, size: 11, color: tones.ink };
    const base = {
      margin: { l: kind === 'causes' ? 170 : 34, r: 12, t: 6, b: 26 },
      paper_bgcolor: tones.sheet,
      plot_bgcolor: tones.sheet,
      font,
      showlegend: false,
      autosize: true,
    };
    const data =
      kind === 'causes'
        ? [
            {
              type: 'bar' as const,
              orientation: 'h' as const,
              y: [...names].reverse(),
              x: [...values].reverse(),
              marker: { color: tones.ink },
              width: 0.55,
              hovertemplate: '%{x:.1f} min<extra></extra>',
            },
          ]
        : [
            {
              type: 'scatter' as const,
              mode: 'lines' as const,
              x: names,
              y: values,
              line: { color: tones.ink, width: 1.5 },
              hovertemplate: '%{x}: %{y:.0f}°<extra></extra>',
            },
            {
              type: 'scatter' as const,
              mode: 'markers' as const,
              x: names.filter((_, n) => marks?.[n]),
              y: values.filter((_, n) => marks?.[n]),
              text: marks?.filter(Boolean),
              marker: { color: tones.accent, size: 5, symbol: 'square' as const },
              hovertemplate: '%{x}: %{text}<extra></extra>',
            },
          ];
    const layout =
      kind === 'causes'
        ? {
            ...base,
            height: 24 * names.length + 40,
            xaxis: { title: { text: 'minutes' }, gridcolor: tones.hairline, zeroline: false },
            yaxis: { automargin: false, ticks: '' as const },
          }
        : {
            ...base,
            height: 150,
            xaxis: { nticks: 6, gridcolor: tones.hairline, type: 'category' as const },
            yaxis: { range: [0, Math.max(10, ...values) * 1.1], ticksuffix: '°', gridcolor: tones.hairline },
          };
    void Plotly.react(target, data, layout, { displayModeBar: false, responsive: true, staticPlot: false });
  }, [kind, names, values, marks]);
  useEffect(() => {
    const target = element.current;
    return () => {
      if (target) Plotly.purge(target);
    };
  }, []);
  return (
    <div
      ref={element}
      role="img"
      aria-label={kind === 'causes' ? 'Minutes of repair by cause' : 'Height of the sun through the day'}
    />
  );
}
