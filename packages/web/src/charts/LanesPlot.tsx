import { memo, useMemo } from 'react';
import { COLOURS, TYPE } from '../tokens/tokens.ts';
import type { Plain } from './changes.ts';
import { ChartExport } from './ChartExport.tsx';
import { MARGIN } from './RunPlot.tsx';
import { usePlotly } from './usePlotly.ts';
import css from './charts.module.css';

/** A line of a lane. Plain numbers. */
export interface LaneLine {
  y: readonly number[];
  /** its own places, where they are not those all share */
  x?: readonly number[];
  colour: string;
  width?: number;
  dash?: boolean;
  /** filled down to the lane's floor, to the line before it, or stacked on it */
  fill?: 'floor' | 'last' | 'stack';
}

/** One of the lanes that share an axis. */
export interface LaneOfPlot {
  /** on the plot itself: words of ours, never a name */
  title: string;
  unit: string;
  /** share of the height */
  share: number;
  range: [number, number];
  lines: readonly LaneLine[];
}

interface Props {
  x: readonly number[];
  end: number;
  /** Plotly's ticks of the shared axis */
  ticks: object;
  /** upright lines, at x */
  marks: readonly { x: number; colour: string }[];
  lanes: readonly LaneOfPlot[];
  label: string;
  /** name of the file an export gets */
  file: string;
}

/** Share of the height between two lanes. */
const GAP = 0.07;

/** Lanes above each other on one axis. Drawn when the run changes, never by the needle above it. */
export const LanesPlot = memo(function LanesPlot({ x, end, ticks, marks, lanes, label, file }: Props) {
  const data = useMemo(() => traces(x, lanes), [x, lanes]);
  const layout = useMemo(() => plan(end, ticks, marks, lanes), [end, ticks, marks, lanes]);
  const holder = usePlotly(data, layout, true);
  return (
    <>
      <div ref={holder} className={css.runPlot} role="figure" aria-label={label} />
      <ChartExport of={holder} name={file} />
    </>
  );
});

function traces(x: readonly number[], lanes: readonly LaneOfPlot[]): Plain[] {
  return lanes.flatMap(({ lines }, lane) =>
    lines.map(({ y, x: own, colour, width = 1.6, dash, fill }) => ({
      type: 'scatter',
      mode: 'lines',
      hoverinfo: 'skip',
      x: [...(own ?? x)],
      y: [...y],
      yaxis: axisName(lane, 'y'),
      line: { color: colour, width, dash: dash ? 'dash' : 'solid' },
      ...(fill === 'floor' ? { fill: 'tozeroy' } : fill === 'last' ? { fill: 'tonexty' } : {}),
      ...(fill === 'stack' ? { stackgroup: `lane-${lane}` } : {}),
      ...(fill ? { fillcolor: soft(colour) } : {}),
    })),
  );
}

function axisName(lane: number, of: string): string {
  return lane === 0 ? of : `${of}${lane + 1}`;
}

/** A colour that lets the lines show. */
function soft(colour: string): string {
  return `${colour}66`;
}

function plan(end: number, ticks: object, marks: Props['marks'], lanes: readonly LaneOfPlot[]): Plain {
  const room = 1 - GAP * (lanes.length - 1);
  const whole = lanes.reduce((sum, l) => sum + l.share, 0);
  let top = 1;
  const axes: Plain = {};
  const annotations: object[] = [];
  lanes.forEach(({ title, unit, share, range }, k) => {
    const bottom = top - (room * share) / whole;
    axes[axisName(k, 'yaxis')] = {
      domain: [Math.max(0, bottom), top],
      range,
      ticksuffix: unit,
      exponentformat: 'SI',
      gridcolor: COLOURS.lineSoft,
      zeroline: false,
      nticks: 4,
      fixedrange: true,
    };
    annotations.push({
      text: title,
      xref: 'paper',
      yref: 'paper',
      x: 0,
      y: top,
      xanchor: 'left',
      yanchor: 'bottom',
      showarrow: false,
      font: { size: TYPE.small, color: COLOURS.inkSoft },
    });
    top = bottom - GAP;
  });
  return {
    margin: MARGIN,
    xaxis: {
      range: [0, end],
      zeroline: false,
      gridcolor: 'rgba(0,0,0,0)',
      fixedrange: true,
      anchor: axisName(lanes.length - 1, 'y'),
      ...ticks,
    },
    ...axes,
    annotations,
    shapes: marks.map(({ x, colour }) => ({
      type: 'line',
      xref: 'x',
      yref: 'paper',
      x0: x,
      x1: x,
      y0: 0,
      y1: 1,
      line: { color: colour, width: 1.6, dash: 'dot' },
    })),
  };
}
