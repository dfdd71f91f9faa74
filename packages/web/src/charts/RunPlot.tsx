import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { COLOURS } from '../tokens/tokens.ts';
import type { Plain } from './changes.ts';
import { ChartExport } from './ChartExport.tsx';
import { timeTicks } from './timeAxis.ts';
import { usePlotly } from './usePlotly.ts';
import css from './charts.module.css';

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
  /** of a programme of many cycles: what they move in, in the place of the loaded volts. [h] [V] */
  band?: {
    hours: readonly number[];
    least: readonly number[];
    most: readonly number[];
    mean: readonly number[];
  };
  /** [h] right end */
  end: number;
  /** [V] bottom and top */
  range: [number, number];
  bands: Band[];
  label: string;
}

/** Room around the plotted area; the needle above it uses the same numbers. */
export const MARGIN = { l: 54, r: 22, t: 19, b: 30 };

/** Pack voltage over the run. Drawn only when the run or the stage in focus changes, never by the needle. */
export const RunPlot = memo(function RunPlot({ hours, loaded, rest, band, end, range, bands, label }: Props) {
  const data = useMemo(() => {
    const line = { type: 'scatter', mode: 'lines', hoverinfo: 'skip', x: Array.from(hours) };
    const atRest = { ...line, y: Array.from(rest), line: { color: COLOURS.ghost, width: 1.2, dash: 'dash' } };
    if (band) {
      const of = { ...line, x: [...band.hours] };
      const edge = { color: COLOURS.ribbon, width: 1 };
      return [
        atRest,
        { ...of, y: [...band.least], line: edge },
        { ...of, y: [...band.most], line: edge, fill: 'tonexty', fillcolor: `${COLOURS.ribbon}88` },
        { ...of, y: [...band.mean], line: { color: COLOURS.pine, width: 2.4 } },
      ];
    }
    return [
      atRest,
      { ...line, y: Array.from(loaded), line: { color: COLOURS.pine, width: 2.4, dash: 'solid' } },
    ];
  }, [hours, loaded, rest, band]);
  const layout = useMemo(() => plotLayout(end, range, bands), [end, range, bands]);
  const holder = usePlotly(data, layout, true);
  return (
    <>
      <div ref={holder} className={css.runPlot} role="figure" aria-label={label} />
      <ChartExport of={holder} name={label} />
      <BandNames bands={bands} end={end} />
    </>
  );
});

/** [px] of a letter on average, and beside the words. */
const LETTER = 6.2;
const BESIDE = 10;

/** What the bands say, above the chart as elements of the page: names are words there, whatever is in them. */
function BandNames({ bands, end }: { bands: readonly Band[]; end: number }) {
  const area = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(entry!.contentRect.width));
    watch.observe(area.current!);
    return () => watch.disconnect();
  }, []);
  const { l: left, r: right, t: top } = MARGIN;
  return (
    <div ref={area} className={css.bandNames} style={{ left, right, top }}>
      {bands.map((b) => {
        const room = ((b.to - b.from) / end) * width;
        const text = b.words.find((w) => w.length * LETTER + BESIDE < room);
        if (text === undefined) return null;
        return (
          <span key={b.from} style={{ left: (b.from / end) * width, width: room }} title={b.words[0]}>
            {text}
          </span>
        );
      })}
    </div>
  );
}

function plotLayout(end: number, range: [number, number], bands: readonly Band[]): Plain {
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
  return {
    margin: MARGIN,
    xaxis: {
      range: [0, end],
      zeroline: false,
      gridcolor: 'rgba(0,0,0,0)',
      fixedrange: true,
      ...timeTicks(end),
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
  };
}
