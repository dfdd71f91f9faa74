import { memo, useEffect, useRef } from 'react';
import { COLOURS, SANS } from '../tokens/tokens.ts';
import './charts.css';

export interface Band {
  /** [h] */
  from: number;
  to: number;
  colour: string;
  /** what it says, the longest that fits */
  words: readonly string[];
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
export const MARGIN = { l: 54, r: 22, t: 19, b: 30 };

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
          line: { color: COLOURS.ghost, width: 1.2, dash: 'dash' as const },
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
  const annotations = bands.flatMap((b) => {
    const text = b.words.find((w) => b.to - b.from > (w.length * 0.0085 + 0.01) * end);
    if (text === undefined) return [];
    const x = (b.from + b.to) / 2;
    const font = { size: 11.5, color: COLOURS.inkSoft };
    return [{ x, y: 1, xref: 'x', yref: 'paper', yanchor: 'top', text, showarrow: false, font }];
  });
  return {
    margin: MARGIN,
    showlegend: false,
    paper_bgcolor: 'rgba(0,0,0,0)',
    plot_bgcolor: 'rgba(0,0,0,0)',
    font: { family: SANS, size: 11.5, color: COLOURS.inkFaint },
    xaxis: {
      range: [0, end],
      zeroline: false,
      gridcolor: 'rgba(0,0,0,0)',
      fixedrange: true,
      ...ticks(end),
    },
    yaxis: {
      range,
      ticksuffix: ' V',
      gridcolor: COLOURS.lineSoft,
      zeroline: false,
      nticks: 6,
      fixedrange: true,
    },
    shapes,
    annotations,
  };
}

/** [h] in the unit that suits the length of the run, longest first: from this length on, this many hours a unit. */
const UNITS: readonly [from: number, hours: number, unit: string][] = [
  [3 * 8766, 8766, 'years'],
  [96, 24, 'd'],
  [2, 1, 'h'],
  [2 / 60, 1 / 60, 'min'],
  [0, 1 / 3600, 's'],
];

/** Round ticks in seconds, minutes, hours, days or years; at most eight. */
function ticks(endHours: number): object {
  const [, scale, unit] = UNITS.find(([from]) => endHours >= from)!;
  const total = endHours / scale;
  const power = 10 ** Math.floor(Math.log10(Math.max(total, 1e-9) / 8));
  const step = [1, 2, 5, 10].map((m) => m * power).find((s) => total / s <= 8)!;
  const values = Array.from({ length: Math.floor(total / step + 1e-9) + 1 }, (_, k) => k * step);
  return {
    tickmode: 'array',
    tickvals: values.map((v) => v * scale),
    ticktext: values.map((v) => `${Number(v.toPrecision(6))} ${unit}`),
  };
}
