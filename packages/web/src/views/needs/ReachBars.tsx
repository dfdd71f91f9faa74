import type { ThreadDocument } from '@mile-thread/core/model';
import clsx from 'clsx';
import type { NamedRail } from './model.ts';
import { namesApart, voltScale } from './reachScale.ts';
import css from './reach.module.css';

interface Props {
  doc: ThreadDocument;
  rails: readonly NamedRail[];
  /** cells in series of each column */
  counts: readonly number[];
}

const volts = (v: number) => Number(v.toPrecision(3));

/** Every pack from its end to full as a bar, against the volts each rail stands, on one scale. The table says the same. */
export function ReachBars({ doc, rails, counts }: Props) {
  const { cell, series } = doc.pack;
  const ends = counts.map((s) => [s * cell.endVolts, s * cell.fullVolts] as const);
  const bands = rails.map(({ min, max }) => [min, max] as const);
  const { height, ticks, y } = voltScale([...ends, ...bands]);
  const names = namesApart(
    bands.map(([min, max]) => (y(min) + y(max)) / 2),
    height,
  );
  return (
    <tr aria-hidden="true" className={css.row}>
      <th style={{ height }}>
        <div className={css.names} style={{ height }}>
          {rails.map((rail, k) => (
            <span key={rail.id} style={{ top: names[k] }}>
              {rail.name}
            </span>
          ))}
        </div>
      </th>
      <td colSpan={counts.length}>
        <div className={css.plot} style={{ height }}>
          {counts.includes(series) && (
            <b
              style={{
                left: `${(100 * counts.indexOf(series)) / counts.length}%`,
                width: `${100 / counts.length}%`,
              }}
            />
          )}
          {bands.map(([min, max], k) => (
            <i key={k} style={{ top: y(max), height: Math.max(3, y(min) - y(max)) }} />
          ))}
          {ticks.map((v) => (
            <u key={v} style={{ top: y(v) }}>
              <span>{v} V</span>
            </u>
          ))}
          {ends.map(([empty, full], k) => (
            <div
              key={counts[k]}
              className={clsx(css.pack, counts[k] === series && css.taken)}
              style={{
                left: `${(100 * (k + 0.5)) / counts.length}%`,
                top: y(full),
                height: y(empty) - y(full),
              }}
            >
              <span>{volts(full)}</span>
              <span>{volts(empty)}</span>
            </div>
          ))}
        </div>
      </td>
    </tr>
  );
}
