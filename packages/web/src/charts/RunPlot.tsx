import { memo, useEffect, useRef } from 'react';
import { COLOURS, FONT } from '../app/theme.ts';

export interface Band {
  /** [h] */
  from: number;
  to: number;
  colour: string;
  words: string;
}

interface Props {
  /** [h] */
  hours: Float64Array;
  /** [V] */
  loaded: Float64Array;
  /** [V] */
  rest: Float64Array;
  /** [h] right end */
  end: number;
  /** [V] bottom and top */
  range: [number, number];
  bands: Band[];
  label: string;
}

/** Room around the plotted area; the needle above it uses the same numbers. */
export const MARGIN = { l: 54, r: 22, t: 8, b: 30 };

/** Pack voltage over the run. Drawn anew only when the run or the stage in focus changes, never by the needle. */
export const RunPlot = memo(function RunPlot({ hours, loaded, rest, end, range, bands, label }: Props) {
  const holder = useRef<HTMLDivElement>(null);

  useEffect(() => {
    const element = holder.current!;
    let gone = false;
    void import('./plotly.ts').then(({ default: Plotly }) => {
      if (gone) return;
      const line = { type: 'scatter', mode: 'lines', hoverinfo: 'skip', x: Array.from(hours) } as const;
      const data = [
        {
          ...line,
          y: Array.from(rest),
          line: { color: '#8A929C', width: 1.2, dash: 'dash' as const },
          name: 'at rest',
        },
        { ...line, y: Array.from(loaded), line: { color: COLOURS.pine, width: 2.4 }, name: 'loaded' },
      ];
      void Plotly.react(element, data, plotLayout(end, range, bands), {
        displayModeBar: false,
        staticPlot: true,
        responsive: true,
      });
    });
    return () => {
      gone = true;
    };
  }, [hours, loaded, rest, end, range, bands]);

  useEffect(() => {
    const element = holder.current!;
    return () => {
      void import('./plotly.ts').then(({ default: Plotly }) => Plotly.purge(element));
    };
  }, []);

  return <div ref={holder} className="run-plot" role="figure" aria-label={label} />;
});

function plotLayout(end: number, range: [number, number], bands: Band[]): object {
  const shapes = bands.map((b) => ({
    type: 'rect',
    xref: 'x',
    yref: 'paper',
    x0: b.from,
    x1: b.to,
    y0: 0,
    y1: 1,
    fillcolor: b.colour,
    opacity: 0.17,
    line: { width: 0 },
    layer: 'below',
  }));
  const annotations = bands
    .filter((b) => b.to - b.from > (b.words.length * 0.0085 + 0.01) * end)
    .map((b) => ({
      x: (b.from + b.to) / 2,
      y: 1,
      xref: 'x',
      yref: 'paper',
      yanchor: 'top',
      text: b.words,
      showarrow: false,
      font: { size: 11.5, color: COLOURS.inkSoft },
    }));
  const short = end < 2;
  return {
    margin: MARGIN,
    showlegend: false,
    paper_bgcolor: 'rgba(0,0,0,0)',
    plot_bgcolor: 'rgba(0,0,0,0)',
    font: { family: FONT, size: 11.5, color: COLOURS.inkFaint },
    xaxis: {
      range: [0, end],
      zeroline: false,
      gridcolor: 'rgba(0,0,0,0)',
      fixedrange: true,
      ...(short ? minuteTicks(end) : { ticksuffix: ' h', nticks: 8 }),
    },
    yaxis: { range, ticksuffix: ' V', gridcolor: '#E4DDCC', zeroline: false, nticks: 6, fixedrange: true },
    shapes,
    annotations,
  };
}

/** Ticks in minutes or seconds for runs shorter than two hours. */
function minuteTicks(endHours: number): object {
  const minutes = endHours * 60;
  const [unit, total, scale] = minutes >= 2 ? ['min', minutes, 60] : ['s', minutes * 60, 3600];
  const steps = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 30, 60];
  const step = steps.find((s) => total / s <= 8) ?? 60;
  const values = Array.from({ length: Math.floor(total / step) + 1 }, (_, k) => k * step);
  return {
    tickmode: 'array',
    tickvals: values.map((v) => v / (scale as number)),
    ticktext: values.map((v) => `${Number(v.toFixed(1))} ${unit}`),
  };
}
