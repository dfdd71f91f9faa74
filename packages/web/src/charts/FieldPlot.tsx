import { memo, useMemo } from 'react';
import { COLOURS, SCALE, TYPE } from '../tokens/tokens.ts';
import { ChartExport } from './ChartExport.tsx';
import { usePlotly } from './usePlotly.ts';
import css from './charts.module.css';

type Three = Record<'x' | 'y' | 'z', string>;

interface Props {
  x: number[];
  y: number[];
  /** by y, then by x */
  z: number[][];
  /** drawn over the field */
  line: readonly { x: number; y: number }[];
  units: Three;
  titles: Omit<Three, 'z'>;
  label: string;
  file: string;
}

const ROOM = { l: 52, r: 50, t: 8, b: 38 };
const STEPS: [number, string][] = [0, 1, 2, 3, 4].map((k) => [k / 4, SCALE[(k + 1) as 1]]);

/** A field of a value over two others, with one line on it. */
export const FieldPlot = memo(function FieldPlot({ x, y, z, line, units, titles, label, file }: Props) {
  const data = useMemo(
    () => [
      {
        type: 'heatmap',
        x,
        y,
        z,
        zsmooth: 'best',
        colorscale: STEPS,
        hovertemplate: `%{x:.0f}${units.x}, %{y:.0f}${units.y}: %{z:.1f}${units.z}<extra></extra>`,
        colorbar: {
          thickness: 7,
          len: 1,
          outlinewidth: 0,
          ticksuffix: units.z,
          nticks: 5,
          x: 1.01,
          tickfont: { size: TYPE.tiny },
        },
      },
      {
        type: 'scatter',
        mode: 'lines',
        hoverinfo: 'skip',
        x: line.map((p) => p.x),
        y: line.map((p) => p.y),
        line: { color: COLOURS.madder, width: 2, dash: 'dash' },
        showlegend: false,
      },
    ],
    [x, y, z, line, units],
  );
  const layout = useMemo(() => {
    const axis = { showgrid: false, zeroline: false, fixedrange: true, nticks: 5 };
    const title = (text: string) => ({ text, font: { size: TYPE.small }, standoff: 4 });
    return {
      margin: ROOM,
      xaxis: { ...axis, ticksuffix: units.x, title: title(titles.x) },
      yaxis: { ...axis, ticksuffix: units.y, title: title(titles.y) },
    };
  }, [units, titles]);
  const holder = usePlotly(data, layout);
  return (
    <div className={css.linesHolder}>
      <div ref={holder} className={css.linesPlot} role="figure" aria-label={label} />
      <ChartExport of={holder} name={file} />
    </div>
  );
});
