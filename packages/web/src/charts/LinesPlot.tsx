import { memo, useMemo, type ReactNode } from 'react';
import { COLOURS, TYPE } from '../tokens/tokens.ts';
import { ChartExport } from './ChartExport.tsx';
import { usePlotly } from './usePlotly.ts';
import css from './charts.module.css';

interface Props {
  /** x of every line that has none of its own, in `xUnit` */
  x: number[];
  xUnit: string;
  yUnit: string;
  lines: { name: string; y: number[]; colour: string; dash?: boolean; x?: number[]; width?: number }[];
  /** right and upper end of the axes, which then begin at nothing; as far as the lines reach where not given */
  range?: { x: number; y: number };
  logX?: boolean;
  /** ticks of x where they are not its own values */
  ticks?: { at: number[]; words: string[] };
  logY?: boolean;
  /** name of the file an export gets */
  file?: string;
  /** whether its lines are named above it; they are where not said, and there are several */
  legend?: boolean;
  /** whether the y axis begins at zero; it does where not said */
  fromZero?: boolean;
  label: string;
  /** lies over the plotted area */
  children?: ReactNode;
}

const ROOM = { l: 52, r: 10, t: 22, b: 34 };

/** A small chart of a few named lines; names stand at their right ends. */
export const LinesPlot = memo(function LinesPlot({
  x,
  xUnit,
  yUnit,
  lines,
  logX,
  ticks,
  logY,
  file,
  fromZero = true,
  legend = true,
  label,
  range,
  children,
}: Props) {
  const data = useMemo(
    () =>
      lines.map(({ name, y, colour, dash, x: own, width = 2 }) => ({
        type: 'scatter',
        mode: 'lines',
        name,
        x: own ?? x,
        y,
        hovertemplate: `${name}: %{y:.3~s}${yUnit}<extra></extra>`,
        showlegend: name !== '',
        line: { color: colour, width, dash: dash ? 'dash' : 'solid' },
      })),
    [x, lines, yUnit],
  );
  const layout = useMemo(() => {
    const axis = { showgrid: false, zeroline: false, fixedrange: true };
    return {
      margin: legend ? ROOM : { ...ROOM, t: 8 },
      showlegend: legend && lines.length > 1,
      legend: { orientation: 'h', x: 0, y: 1.02, yanchor: 'bottom', font: { size: TYPE.small } },
      hovermode: 'x unified',
      xaxis: {
        ...axis,
        ticksuffix: xUnit,
        nticks: 6,
        tickangle: 0,
        ...(range ? { range: [0, range.x] } : {}),
        ...(logX ? { type: 'log', exponentformat: 'SI', dtick: 1 } : {}),
        ...(ticks ? { tickmode: 'array', tickvals: ticks.at, ticktext: ticks.words, ticksuffix: '' } : {}),
      },
      yaxis: {
        ...axis,
        ticksuffix: yUnit,
        exponentformat: 'SI',
        ...(logY ? { type: 'log', dtick: 1 } : {}),
        rangemode: fromZero ? 'tozero' : 'normal',
        gridcolor: COLOURS.lineSoft,
        showgrid: true,
        nticks: 5,
        ...(range ? { range: [0, range.y] } : {}),
      },
    };
  }, [xUnit, yUnit, logX, logY, ticks, fromZero, legend, range, lines.length]);
  const holder = usePlotly(data, layout);
  return (
    <div className={css.linesHolder}>
      <div ref={holder} className={css.linesPlot} role="figure" aria-label={label} />
      <ChartExport of={holder} name={file ?? label} />
      {children && (
        <div className={css.overLines} style={{ left: ROOM.l, right: ROOM.r, top: ROOM.t, bottom: ROOM.b }}>
          {children}
        </div>
      )}
    </div>
  );
});
