import type { Snapshot } from '@mile-thread/core';
import { formatQuantity } from '@mile-thread/core/units';
import clsx from 'clsx';
import { tracePath, waveforms } from '../../drawing/waveform.ts';
import css from './stage.module.css';

const AREA = { x: 66, width: 596 };
const CURRENT = { ...AREA, y: 14, height: 70 };
/** between two nodes' lanes */
const LANE = 22;
const NODE = { ...AREA, y: 104, height: 34 };

/** Inductor current and switch nodes, two periods at the needle, to scale. */
export function WaveformPanel({ instant }: { instant: Snapshot | undefined }) {
  const p = instant?.period;
  if (!instant || !p) return null;
  const { current, nodes } = waveforms(p, instant.vin, instant.vout);
  const high = Math.max(...current.value);
  const low = Math.min(...current.value);
  // Zero is in the picture where the ripple reaches near it: then how far from zero it stays is the point.
  const floor = low < 0.3 * high ? Math.min(0, low) : low - 0.15 * (high - low);
  const top = high + 0.08 * (high - floor);
  const most = Math.max(...nodes.flatMap((n) => n.trace.value));
  const y = (v: number) => CURRENT.y + CURRENT.height * (1 - (v - floor) / (top - floor || 1));
  const height = NODE.y + nodes.length * (NODE.height + LANE) + 16;
  const levels = [...new Set([high, low])];
  return (
    <figure className={css.waveforms}>
      <figcaption>
        {instant.period?.switching === 'sepic' ? 'Both inductors’ current' : 'Inductor current'} and switch
        node, two periods at the needle
      </figcaption>
      <svg viewBox={`0 0 680 ${height}`} role="img" aria-label={words(instant)}>
        <path className={css.axis} d={`M${AREA.x} 8V${height - 16}H${AREA.x + AREA.width}`} />
        {levels.map((v) => (
          <text key={v} className={css.tick} x={AREA.x - 8} y={y(v) + 4} textAnchor="end">
            {formatQuantity(v, 'A', 2)}
          </text>
        ))}
        {floor <= 0 && low > 0.01 * high && (
          <text className={css.tick} x={AREA.x - 8} y={y(0) + 4} textAnchor="end">
            0
          </text>
        )}
        {floor <= 0 && <path className={css.zero} d={`M${AREA.x} ${y(0)}h${AREA.width}`} />}
        <path className={clsx(css.trace, css.current)} d={tracePath(current, CURRENT, floor, top)} />
        {nodes.map((n, k) => {
          const box = { ...NODE, y: NODE.y + k * (NODE.height + LANE) };
          return (
            <g key={n.name}>
              <text className={clsx(css.tick, css.voltage)} x={AREA.x - 8} y={box.y + 5} textAnchor="end">
                {formatQuantity(Math.max(...n.trace.value), 'V', 3)}
              </text>
              <text
                className={clsx(css.tick, css.voltage)}
                x={AREA.x - 8}
                y={box.y + box.height + 3}
                textAnchor="end"
              >
                0 V
              </text>
              <path className={clsx(css.trace, css.voltage)} d={tracePath(n.trace, box, 0, most)} />
              {nodes.length > 1 && (
                <text
                  className={clsx(css.tick, css.voltage)}
                  x={AREA.x + AREA.width}
                  y={box.y - 3}
                  textAnchor="end"
                >
                  {n.name}
                </text>
              )}
            </g>
          );
        })}
        <text className={css.tick} x={AREA.x + AREA.width / 2} y={height - 3} textAnchor="middle">
          {formatQuantity(1 / p.frequency, 's', 3)}
        </text>
      </svg>
    </figure>
  );
}

function words({ period, vin, vout }: Snapshot): string {
  const p = period!;
  const high = formatQuantity(Math.max(...p.current), 'A');
  const low = formatQuantity(Math.min(...p.current), 'A');
  return `Current between ${low} and ${high}, ${p.discontinuous ? 'discontinuous' : 'continuous'}, duty ${(100 * p.duty).toFixed(0)} %, from ${formatQuantity(vin, 'V')} to ${formatQuantity(vout, 'V')}`;
}
