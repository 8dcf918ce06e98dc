import Plotly from 'plotly.js-basic-dist-min';
import { useEffect, useRef } from 'react';
import type { Histograms } from '../../../core/place/histograms.ts';
import { figures, tones } from '../../theme.ts';

/** Brightness of the person and of the background behind each other. */
export default function HistogramChart({ histograms }: { histograms: Histograms }) {
  const element = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const target = element.current;
    if (!target) return;
    const { person, scene } = histograms;
    const x = person.map((_, n) => (100 * (n + 0.5)) / person.length);
    const line = (name: string, y: number[], dash: 'solid' | 'dot', color: string) => ({
      type: 'scatter' as const,
      mode: 'lines' as const,
      name,
      x,
      y: y.map((v) => 100 * v),
      line: { color, width: 1.5, dash, shape: 'spline' as const },
      hovertemplate: `${name}: %{y:.1f} %<extra></extra>`,
    });
    void Plotly.react(
      target,
      [line('person', person, 'solid', tones.accent), line('background', scene, 'dot', tones.ink)],
      {
        height: 170,
        margin: { l: 30, r: 6, t: 4, b: 30 },
        paper_bgcolor: tones.sheet,
        plot_bgcolor: tones.sheet,
        font: { family: figures, size: 11, color: tones.ink },
        showlegend: true,
        legend: { orientation: 'h', x: 0, y: 1.15 },
        xaxis: { title: { text: 'brightness %' }, gridcolor: tones.hairline, range: [0, 100] },
        yaxis: { gridcolor: tones.hairline, rangemode: 'tozero', nticks: 4 },
        autosize: true,
      },
      { displayModeBar: false, responsive: true },
    );
  }, [histograms]);
  useEffect(() => {
    const target = element.current;
    return () => {
      if (target) Plotly.purge(target);
    };
  }, []);
  return <div ref={element} role="img" aria-label="Brightness of person and background" />;
}
