import Plotly from 'plotly.js-basic-dist-min';
import { useEffect, useRef } from 'react';
import { figures, tones } from '../../theme.ts';

/** One setup's light through the day. */
export interface DayLine {
  name: string;
  /** When each frame was taken, local time. */
  times: string[];
  /** Light of the screen, less what the camera's settings explain, against the setup's first frames; steps. */
  levels: number[];
  /** Where something changed unasked. */
  marked: boolean[];
}

/** Steps up and down that are shown at least. */
const LEAST_REACH = 0.5;

const dashes = ['solid', 'dot', 'dash', 'longdash', 'dashdot'] as const;

/** The light on the screen from frame to frame, a line for each setup. */
export default function DayChart({ lines }: { lines: readonly DayLine[] }) {
  const element = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const target = element.current;
    if (!target) return;
    const data = lines.map(({ name, times, levels, marked }, n) => ({
      type: 'scatter' as const,
      mode: 'lines+markers' as const,
      name,
      x: times,
      y: levels,
      line: { color: tones.ink, width: 1.5, dash: dashes[n % dashes.length] },
      marker: {
        size: marked.map((one) => (one ? 9 : 3)),
        color: marked.map((one) => (one ? tones.accent : tones.ink)),
      },
      hovertemplate: `${name}, %{x|%H:%M}: %{y:.2f} steps<extra></extra>`,
    }));
    // What is even looks even.
    const reach = 1.1 * Math.max(LEAST_REACH, ...lines.flatMap(({ levels }) => levels.map(Math.abs)));
    const layout = {
      height: 200,
      margin: { l: 44, r: 12, t: 8, b: 28 },
      paper_bgcolor: tones.sheet,
      plot_bgcolor: tones.sheet,
      font: { family: figures, size: 11, color: tones.ink },
      showlegend: lines.length > 1,
      legend: { orientation: 'h' as const, x: 0, y: 1.2 },
      xaxis: { type: 'date' as const, tickformat: '%H:%M', gridcolor: tones.hairline },
      yaxis: { title: { text: 'steps' }, gridcolor: tones.hairline, zeroline: true, range: [-reach, reach] },
      autosize: true,
    };
    void Plotly.react(target, data, layout, { displayModeBar: false, responsive: true });
  }, [lines]);
  useEffect(() => {
    const target = element.current;
    return () => {
      if (target) Plotly.purge(target);
    };
  }, []);
  return <div ref={element} role="img" aria-label="Light on the screen through the day" />;
}
