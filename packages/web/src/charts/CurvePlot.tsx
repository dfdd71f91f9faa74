import { memo, useMemo } from 'react';
import { COLOURS } from '../tokens/tokens.ts';
import { ChartExport } from './ChartExport.tsx';
import { timeTicks } from './timeAxis.ts';
import { usePlotly } from './usePlotly.ts';
import css from './charts.module.css';

/** A line over the hours of a run. [h] [V] */
export interface CurveLine {
  name: string;
  hours: readonly number[];
  volts: readonly number[];
}

interface Props {
  /** what was predicted, and what its tolerances allow */
  predicted: CurveLine & {
    low: readonly number[];
    high: readonly number[];
    /** shares of an hour's place at which the low and the high edge have it */
    sooner: number;
    later: number;
  };
  /** what was logged, and by how much it is off [V] */
  logged: readonly (CurveLine & { off: readonly number[]; end?: number })[];
  /** the run with what the readings say; absent while they say nothing */
  learnt?: CurveLine;
  /** what is being recorded */
  live?: CurveLine;
  /** [h] that are needed */
  need: number;
  label: string;
}

const ROOM = { l: 54, r: 14, t: 14, b: 28 };
/** Share of the height of the difference, and where the volts begin. */
const BELOW = 0.24;
const ABOVE = 0.34;
/** Share of the run before the knee: behind it a difference is one of time. */
const KNEE = 0.93;
/** [V] A difference is drawn at least so large. */
const LEAST_OFF = 0.05;

/** Logged volts over what was predicted with its range, and the difference beneath. */
export const CurvePlot = memo(function CurvePlot({ predicted, logged, learnt, live, need, label }: Props) {
  const data = useMemo(
    () => tracesOf({ predicted, logged, learnt, live }),
    [predicted, logged, learnt, live],
  );
  const layout = useMemo(() => layoutOf(predicted, logged, live, need), [predicted, logged, live, need]);
  const holder = usePlotly(data, layout);
  return (
    <div className={css.curveHolder}>
      <div ref={holder} className={css.curvePlot} role="figure" aria-label={label} />
      <ChartExport of={holder} name={label} />
    </div>
  );
});

function tracesOf({
  predicted,
  logged,
  learnt,
  live,
}: Pick<Props, 'predicted' | 'logged' | 'learnt' | 'live'>) {
  const line = { type: 'scatter', mode: 'lines' };
  const edge = (by: number) => ({
    ...line,
    x: predicted.hours.map((h) => h * by),
    hoverinfo: 'skip',
    line: { width: 0 },
  });
  const volts = (c: CurveLine, colour: string, more: object = {}) => ({
    ...line,
    name: c.name,
    x: [...c.hours],
    y: [...c.volts],
    hovertemplate: `${c.name}: %{y:.3f} V<extra></extra>`,
    line: { color: colour, width: 2, ...more },
  });
  return [
    { ...edge(predicted.sooner), y: [...predicted.low] },
    {
      ...edge(predicted.later),
      y: [...predicted.high],
      fill: 'tonexty',
      fillcolor: `${COLOURS.ribbonSoft}66`,
    },
    volts(predicted, COLOURS.pine, { width: 2.4 }),
    ...(learnt ? [volts(learnt, COLOURS.pine, { width: 1.6, dash: 'dot' })] : []),
    ...logged.map((c, k) => volts(c, COLOURS.violet, { width: k === 0 ? 2 : 1.3 })),
    ...(live ? [volts(live, COLOURS.violet)] : []),
    ...logged.map((c, k) => ({
      ...line,
      x: [...c.hours],
      y: c.off.map((v) => 1000 * v),
      yaxis: 'y2',
      hovertemplate: `off by %{y:.0f} mV<extra></extra>`,
      line: { color: COLOURS.violet, width: k === 0 ? 1.8 : 1.2 },
    })),
  ];
}

function layoutOf(
  predicted: Props['predicted'],
  logged: Props['logged'],
  live: CurveLine | undefined,
  need: number,
) {
  const ends = [
    predicted.hours.at(-1)!,
    ...logged.map((c) => c.end ?? c.hours.at(-1)!),
    live?.hours.at(-1) ?? 0,
  ];
  const end = 1.04 * Math.max(...ends);
  const lowest = Math.min(...predicted.volts);
  const highest = Math.max(...predicted.high, ...logged.flatMap((c) => [c.volts[0]!, c.volts[1]!]));
  const room = 0.08 * (highest - lowest);
  // What the board leaves when it opens is not a matter of the course.
  const near = KNEE * predicted.hours.at(-1)!;
  const off = logged.flatMap((c) =>
    c.off.filter((_, k) => c.hours[k]! <= Math.min(KNEE * (c.end ?? Infinity), near)),
  );
  const most = 1500 * Math.max(LEAST_OFF, ...off.map(Math.abs));
  const axis = { zeroline: false, fixedrange: true, nticks: 6, gridcolor: COLOURS.lineSoft };
  const word = (text: string, x: number, y: number, colour: string) => ({
    text,
    x,
    y,
    showarrow: false,
    xanchor: 'right',
    yanchor: 'bottom',
    yshift: 3,
    font: { color: colour },
  });
  const last = predicted.hours.length - 1;
  const at = Math.round(0.62 * last);
  const [first] = logged;
  const middle = first && Math.round(0.35 * (first.hours.length - 1));
  return {
    margin: ROOM,
    hovermode: 'x unified',
    xaxis: { ...axis, range: [0, end], gridcolor: 'rgba(0,0,0,0)', anchor: 'y2', ...timeTicks(end) },
    yaxis: {
      ...axis,
      domain: logged.length > 0 ? [ABOVE, 1] : [0, 1],
      range: [lowest - room, highest + room],
      ticksuffix: ' V',
    },
    yaxis2: {
      ...axis,
      domain: [0, BELOW],
      range: [-1.15 * most, 1.15 * most],
      ticksuffix: ' mV',
      nticks: 4,
      visible: logged.length > 0,
    },
    shapes: [
      {
        type: 'line',
        xref: 'x',
        yref: 'paper',
        x0: need,
        x1: need,
        y0: logged.length > 0 ? ABOVE : 0,
        y1: 1,
        line: { color: COLOURS.ink, width: 1.4, dash: 'dash' },
      },
      ...(logged.length > 0
        ? [
            {
              type: 'line',
              xref: 'paper',
              yref: 'y2',
              x0: 0,
              x1: 1,
              y0: 0,
              y1: 0,
              line: { color: COLOURS.ghost, width: 1 },
            },
          ]
        : []),
    ],
    annotations: [
      { ...word('need', need, highest, COLOURS.ink), xshift: -4, visible: need < end },
      { ...word('predicted', predicted.hours[at]!, predicted.high[at]!, COLOURS.pine), xanchor: 'left' },
      ...(first
        ? [
            {
              ...word('logged', first.hours[middle!]!, first.volts[middle!]!, COLOURS.violet),
              yanchor: 'top',
              yshift: -8,
            },
          ]
        : []),
    ],
  };
}
