import { memo, useEffect, useRef } from 'react';
import { COLOURS, SANS } from '../tokens/tokens.ts';
import './charts.css';

interface Props {
  /** x of every line, in `xUnit` */
  x: number[];
  xUnit: string;
  yUnit: string;
  lines: { name: string; y: number[]; colour: string; dash?: boolean }[];
  logX?: boolean;
  /** whether the y axis begins at zero; it does where not said */
  fromZero?: boolean;
  label: string;
}

/** A small chart of a few named lines; names stand at their right ends. */
export const LinesPlot = memo(function LinesPlot({
  x,
  xUnit,
  yUnit,
  lines,
  logX,
  fromZero = true,
  label,
}: Props) {
  const holder = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = holder.current!;
    let gone = false;
    void import('./plotly.ts').then(({ default: Plotly }) => {
      if (gone) return;
      const data = lines.map(({ name, y, colour, dash }) => ({
        type: 'scatter' as const,
        mode: 'lines' as const,
        name,
        x,
        y,
        hovertemplate: `${name}: %{y:.3~s}${yUnit}<extra></extra>`,
        line: { color: colour, width: 2, ...(dash ? { dash: 'dash' as const } : {}) },
      }));
      const axis = { showgrid: false, zeroline: false, fixedrange: true };
      void Plotly.react(
        element,
        data,
        {
          margin: { l: 52, r: 10, t: 22, b: 34 },
          showlegend: true,
          legend: { orientation: 'h', x: 0, y: 1.02, yanchor: 'bottom', font: { size: 11.5 } },
          dragmode: false,
          hovermode: 'x unified',
          paper_bgcolor: 'rgba(0,0,0,0)',
          plot_bgcolor: 'rgba(0,0,0,0)',
          font: { family: SANS, size: 11.5, color: COLOURS.inkFaint },
          xaxis: {
            ...axis,
            ticksuffix: xUnit,
            nticks: 6,
            ...(logX ? { type: 'log', exponentformat: 'SI', dtick: 1 } : {}),
          },
          yaxis: {
            ...axis,
            ticksuffix: yUnit,
            exponentformat: 'SI',
            rangemode: fromZero ? 'tozero' : 'normal',
            gridcolor: COLOURS.lineSoft,
            showgrid: true,
            nticks: 5,
          },
        },
        { displayModeBar: false, responsive: true },
      );
    });
    return () => {
      gone = true;
    };
  }, [x, xUnit, yUnit, lines, logX, fromZero]);
  useEffect(() => {
    const element = holder.current!;
    return () => {
      void import('./plotly.ts').then(({ default: Plotly }) => Plotly.purge(element));
    };
  }, []);
  return <div ref={holder} className="lines-plot" role="figure" aria-label={label} />;
});
