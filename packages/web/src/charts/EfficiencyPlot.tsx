import { memo, useEffect, useMemo, useState } from 'react';
import clsx from 'clsx';
import { COLOURS, SCALE, TYPE } from '../tokens/tokens.ts';
import type { Plain } from './changes.ts';
import { ChartExport } from './ChartExport.tsx';
import { usePlotly } from './usePlotly.ts';
import css from './charts.module.css';

/** Efficiency over input and load, with what lies on it. Plain numbers. */
export interface EfficiencyPicture {
  /** [V] rising, [A] rising */
  volts: number[];
  amps: number[];
  /** [amps][volts], NaN where the stage does not hold its output */
  efficiency: number[][];
  /** [A] most at each input */
  most: number[];
  /** where the run lives: [V] [A] */
  run?: { volts: number[]; amps: number[] };
  /** readings: [V] [A], `odd` ones marked */
  readings?: { volts: number; amps: number; odd: boolean; words: string }[];
}

interface Props extends EfficiencyPicture {
  label: string;
  /** [V] [A] under the needle */
  needle?: { volts: number; amps: number };
}

const ROOM = { l: 52, r: 54, t: 8, b: 38 };

/** Map of efficiency. Drawn anew when the map changes; the needle is an overlay above it. */
export const EfficiencyPlot = memo(function EfficiencyPlot({ label, needle, ...picture }: Props) {
  const [size, setSize] = useState({ width: 0, height: 0 });
  const { volts, amps, efficiency, most, run, readings } = picture;
  const data = useMemo(
    () => traces({ volts, amps, efficiency, most, run, readings }),
    [volts, amps, efficiency, most, run, readings],
  );
  const plan = useMemo(() => layout(volts, amps), [volts, amps]);
  const holder = usePlotly(data, plan);
  useEffect(() => {
    const watch = new ResizeObserver(([e]) =>
      setSize({ width: e!.contentRect.width, height: e!.contentRect.height }),
    );
    watch.observe(holder.current!);
    return () => watch.disconnect();
  }, [holder]);
  const at = needle && place(needle, volts, amps, size);
  return (
    <div className={css.mapHolder}>
      <div ref={holder} className={css.mapPlot} role="figure" aria-label={label} />
      <ChartExport of={holder} name={label} />
      {at && (
        <span
          className={clsx(css.mapNeedle, at.x > 0.6 * size.width && css.left)}
          style={{ transform: `translate(${at.x}px, ${at.y}px)` }}
        >
          <i />
          <b>needle</b>
        </span>
      )}
    </div>
  );
});

function place(
  needle: { volts: number; amps: number },
  volts: number[],
  amps: number[],
  { width, height }: { width: number; height: number },
) {
  if (width === 0 || volts.length < 2) return undefined;
  const [v0, v1, a0, a1] = [volts[0]!, volts.at(-1)!, amps[0]!, amps.at(-1)!];
  const x = (needle.volts - v0) / (v1 - v0);
  const y = Math.log(needle.amps / a0) / Math.log(a1 / a0);
  if (!(x >= 0 && x <= 1 && y >= 0 && y <= 1)) return undefined;
  return {
    x: ROOM.l + x * (width - ROOM.l - ROOM.r),
    y: ROOM.t + (1 - y) * (height - ROOM.t - ROOM.b),
  };
}

/** From dry straw to pine: the greener the less is lost. */
const STEPS: [number, string][] = [
  [0, SCALE[1]],
  [0.35, SCALE[2]],
  [0.65, SCALE[3]],
  [0.85, SCALE[4]],
  [1, SCALE[5]],
];

function traces({ volts, amps, efficiency, most, run, readings }: EfficiencyPicture): Plain[] {
  const seen = efficiency.flat().filter((e) => !Number.isNaN(e));
  const top = seen.length > 0 ? Math.max(...seen) : 1;
  const sorted = [...seen].sort((a, b) => a - b);
  const low = sorted[Math.floor(sorted.length * 0.03)] ?? 0;
  const line = { type: 'scatter', mode: 'lines', hoverinfo: 'skip' } as const;
  return [
    {
      type: 'heatmap',
      x: volts,
      y: amps,
      z: efficiency.map((row) => row.map((e) => (Number.isNaN(e) ? null : 100 * e))),
      zmin: 100 * Math.min(low, top - 0.04),
      zmax: 100 * top,
      colorscale: STEPS,
      hovertemplate: '%{x:.2f} V, %{y:.3~s}A: %{z:.1f} %<extra></extra>',
      hoverongaps: false,
      colorbar: {
        thickness: 7,
        len: 1,
        outlinewidth: 0,
        ticksuffix: ' %',
        nticks: 6,
        x: 1.01,
        tickfont: { size: TYPE.tiny },
      },
    },
    {
      ...line,
      x: volts,
      y: most.map((m) => (Number.isNaN(m) || m >= amps.at(-1)! * 0.999 ? null : m)),
      line: { color: COLOURS.madder, width: 1.6, dash: 'dash' },
    },
    ...(run ? [{ ...line, x: run.volts, y: run.amps, line: { color: COLOURS.ink, width: 3.2 } }] : []),
    ...(readings
      ? [
          {
            type: 'scatter',
            mode: 'markers',
            x: readings.map((r) => r.volts),
            y: readings.map((r) => r.amps),
            text: readings.map((r) => r.words),
            hovertemplate: '%{text}<extra></extra>',
            marker: {
              size: 8,
              color: readings.map((r) => (r.odd ? COLOURS.madder : COLOURS.sheet)),
              symbol: readings.map((r) => (r.odd ? 'x' : 'circle')),
              line: { color: COLOURS.ink, width: 1.2 },
            },
          },
        ]
      : []),
  ];
}

function layout(volts: number[], amps: number[]): Plain {
  const decades = [1, 2, 5].flatMap((m) => [-4, -3, -2, -1, 0, 1, 2].map((e) => m * 10 ** e));
  const ticks = decades.filter((a) => a >= amps[0]! && a <= amps.at(-1)!).sort((a, b) => a - b);
  return {
    margin: ROOM,
    plot_bgcolor: SCALE[0],
    xaxis: {
      range: [volts[0], volts.at(-1)],
      ticksuffix: ' V',
      nticks: 8,
      showgrid: false,
      zeroline: false,
      fixedrange: true,
      title: { text: 'input', font: { size: TYPE.small }, standoff: 4 },
    },
    yaxis: {
      type: 'log',
      range: [Math.log10(amps[0]!), Math.log10(amps.at(-1)!)],
      tickmode: 'array',
      tickvals: ticks,
      ticktext: ticks.map((a) => (a >= 1 ? `${a} A` : `${Number((a * 1000).toPrecision(3))} mA`)),
      showgrid: false,
      zeroline: false,
      fixedrange: true,
    },
  };
}
