import { restSoc } from '@mile-thread/core';
import {
  againstFull,
  ALLOWED_OVER,
  asBought,
  setBy,
  setForWorst,
  stopVolts,
  type StopVolts,
} from '@mile-thread/core/charging';
import type { Edit, ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import clsx from 'clsx';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { useWidth } from '../../kit/useWidth.ts';
import { VoltsDivider } from './VoltsDivider.tsx';
import css from './gauge.module.css';
import chargeCss from './charge.module.css';

/** [V] a cell that the scale reaches below and above full. */
const BELOW = 0.2;
const ABOVE = 0.09;
const EDGE = 16;
/** [V] a cell one arrow key moves the set point. */
const STEP = 0.005;

const FIXED: Edit['path'] = ['charging', 'control', 'fixed'];

interface Props {
  doc: ThreadDocument;
  commit: Commit;
  /** [V] by which the fullest group stands above the mean */
  above: number;
}

/** Where the charge stops, as a gauge of safety: what it may be set to, and how far that may be off. */
export function StopGauge({ doc, commit, above }: Props) {
  const [holder, width] = useWidth<HTMLDivElement>(380);
  const { charging, pack } = doc;
  const { series, cell } = pack;
  const bought = asBought(charging!);
  const stop = stopVolts(charging!);
  const [dragged, setDragged] = useState<number | undefined>();
  const area = useRef<SVGSVGElement>(null);
  if (!bought || !stop) {
    return (
      <section className={chargeCss.tool} aria-label="Where the charge stops">
        <h4>Where the charge stops</h4>
        <p className="quiet">
          Nothing holds its volts: the source alone decides. Take a charger with a control.
        </p>
      </section>
    );
  }
  const full = cell.fullVolts;
  const [low, high] = [full - BELOW, full + ABOVE];
  const danger = full + ALLOWED_OVER;
  const x = (volts: number) => EDGE + ((volts - low) / (high - low)) * (width - 2 * EDGE);
  const set = dragged ?? stop.set / series;
  const scale = set / (stop.set / series);
  const spread = (s: StopVolts) => ({
    least: (scale * s.least) / series,
    most: (scale * s.most) / series,
    likelyLeast: (scale * s.likelyLeast) / series,
    likelyMost: (scale * s.likelyMost) / series,
  });
  const now = spread(stop);
  const { control } = charging!;
  const by = setBy(control!);
  const asked = (charging!.stage as { outputVolts: number }).outputVolts;
  // What its parts come to moves with them, not by hand.
  const moves = by === 'trimmed' || by === 'assumed';
  const write = (volts: number) => {
    setDragged(undefined);
    const value = Number((volts * series).toFixed(2));
    if (value !== stop.set)
      commit('Trim the charger', [{ op: 'replace', path: ['charging', 'stage', 'outputVolts'], value }]);
  };
  const voltsAt = (e: PointerEvent) => {
    const box = area.current!.getBoundingClientRect();
    const share = (e.clientX - box.left - EDGE) / (width - 2 * EDGE);
    return Math.min(high, Math.max(low, Number((low + share * (high - low)).toFixed(3))));
  };
  const onKey = (e: KeyboardEvent) => {
    const by = { ArrowLeft: -STEP, ArrowDown: -STEP, ArrowRight: STEP, ArrowUp: STEP }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    e.stopPropagation();
    write(set + by);
  };
  const room = Math.round(1000 * (full - now.most - above));
  const trimmed = by === 'trimmed' ? control!.trimmed : undefined;
  const ticks = Array.from({ length: 6 }, (_, k) => full - 0.2 + 0.05 * k);
  return (
    <section className={chargeCss.tool} aria-label="Where the charge stops" ref={holder}>
      <header>
        <h4>Where the charge stops, volts a cell</h4>
      </header>
      <svg ref={area} width={width} height={164} className={css.gauge}>
        <rect className={css.near} x={x(full)} y={18} width={x(danger) - x(full)} height={104} />
        <rect
          className={css.over}
          x={x(danger)}
          y={18}
          width={Math.max(0, width - EDGE - x(danger))}
          height={104}
        />
        <rect
          className={css.trimHere}
          x={x(full - 0.1)}
          y={18}
          width={x(full - 0.04) - x(full - 0.1)}
          height={104}
        />
        <text className={css.gaugeWord} x={x(full - 0.07)} y={32} textAnchor="middle">
          trim here
        </text>
        <text className={css.gaugeNear} x={x(full) + 5} y={32}>
          ! over
        </text>
        <text className={css.gaugeTrouble} x={x(danger) + 4} y={32}>
          ▲
        </text>
        {ticks.map((t) => (
          <text key={t} className={css.tick} x={x(t)} y={12} textAnchor="middle">
            {t.toFixed(2)}
          </text>
        ))}
        <line className={css.limit} x1={x(full)} x2={x(full)} y1={16} y2={124} />
        <Spread y={56} word="as bought" {...{ x, full }} {...spread(bought)} />
        {trimmed && <Spread y={90} word="trimmed" {...{ x, full }} {...now} />}
        {above > 5e-4 && (
          <g className={css.fullest}>
            <line x1={x(now.most)} x2={x(Math.min(high, now.most + above))} y1={106} y2={106} />
            <text x={Math.min(x(now.most + above), width - EDGE)} y={118} textAnchor="end">
              fullest group +{Math.round(1000 * above)} mV
            </text>
          </g>
        )}
        <text className={css.tick} x={EDGE} y={158}>
          filled to
        </text>
        {[0.9, 0.95, 0.98, 1].map((soc) => {
          const at = voltsFor(cell, soc);
          return at < low + 0.02 || at > high ? null : (
            <text key={soc} className={css.tick} x={x(at)} y={158} textAnchor="middle">
              {Math.round(100 * soc)} %
            </text>
          );
        })}
        <g
          role="slider"
          tabIndex={moves ? 0 : -1}
          aria-disabled={!moves}
          aria-label="Volts a cell it is set to"
          aria-valuemin={Number(low.toFixed(2))}
          aria-valuemax={Number(high.toFixed(2))}
          aria-valuenow={Number(set.toFixed(3))}
          aria-valuetext={`${set.toFixed(3)} V a cell`}
          className={clsx(css.trim, !moves && css.still)}
          onKeyDown={moves ? onKey : undefined}
          onPointerDown={(e) => {
            if (!moves) return;
            e.currentTarget.setPointerCapture(e.pointerId);
            setDragged(voltsAt(e));
          }}
          onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && setDragged(voltsAt(e))}
          onPointerUp={(e) => moves && write(voltsAt(e))}
        >
          <line x1={x(set)} x2={x(set)} y1={44} y2={126} />
          <path d={`M${x(set)},124l-9,15h18Z`} />
        </g>
      </svg>
      <p className={css.setTo}>
        {by === 'divider' ? 'wanted' : by === 'fixed' ? 'fixed at' : 'set to'}{' '}
        <EditableQuantity
          label="Volts it charges to"
          value={asked}
          unit="V"
          onCommit={(v) =>
            commit('Trim the charger', [
              { op: 'replace', path: ['charging', 'stage', 'outputVolts'], value: v },
            ])
          }
        />
        {by === 'divider' && (
          <>
            , its divider holds <b>{formatQuantity(stop.set, 'V', 4)}</b>
          </>
        )}{' '}
        · {formatQuantity(set, 'V', 4)} a cell · fills to {Math.round(100 * restSoc(cell, set))} % ·{' '}
        <b data-over={MARK[againstFull(now.most + above, full)].over}>
          {room < 0 ? `${-room} mV over at worst` : `${room} mV of room at worst`}
        </b>
      </p>
      <p className={css.setTo}>
        {by === 'fixed' ? (
          <>
            a chip that is fixed within{' '}
            <EditableQuantity
              label="Fixed within"
              value={100 * control!.fixed!}
              unit="%"
              onCommit={(v) =>
                commit('Change how exact the charger is', [{ op: 'replace', path: FIXED, value: v! / 100 }])
              }
            />{' '}
            ·{' '}
            <button
              type="button"
              className="link"
              onClick={() => commit('Its volts can be set', [{ op: 'remove', path: FIXED }])}
            >
              it can be set
            </button>
          </>
        ) : trimmed ? (
          <>
            trimmed by a{' '}
            <Percent label="Tolerance of the meter" value={trimmed.meter} field="meter" commit={commit} />{' '}
            meter, <Percent label="Drift afterwards" value={trimmed.drift} field="drift" commit={commit} />{' '}
            drift ·{' '}
            <button
              type="button"
              className="link"
              onClick={() =>
                commit('It is not trimmed', [{ op: 'remove', path: ['charging', 'control', 'trimmed'] }])
              }
            >
              not trimmed
            </button>
          </>
        ) : (
          <button
            type="button"
            className="link"
            onClick={() =>
              commit('Trim it by a meter', [
                {
                  op: 'add',
                  path: ['charging', 'control', 'trimmed'],
                  value: { meter: 0.005, drift: 0.0025 },
                },
              ])
            }
          >
            Trim it by a meter
          </button>
        )}
        {by === 'assumed' && (
          <>
            {' · '}
            <button
              type="button"
              className="link"
              onClick={() => commit('Its volts are fixed', [{ op: 'add', path: FIXED, value: 0.01 }])}
            >
              its chip is fixed
            </button>
          </>
        )}
        {now.most > full && moves && (
          <>
            {' · '}
            <button
              type="button"
              className="link strong"
              onClick={() => write(Math.floor(1000 * (setForWorst(stop, series * full) / series)) / 1000)}
            >
              Keep the worst at {formatQuantity(full, 'V', 3)}
            </button>
          </>
        )}
      </p>
      <p className="quiet">
        {moves && 'Trim with no pack on. '}The cell maker’s data sheet has the last word.
      </p>
      {by !== 'fixed' && <VoltsDivider {...{ doc, commit }} />}
    </section>
  );
}

function Percent({
  label,
  value,
  field,
  commit,
}: {
  label: string;
  value: number;
  field: 'meter' | 'drift';
  commit: Commit;
}) {
  return (
    <EditableQuantity
      label={label}
      value={100 * value}
      unit="%"
      onCommit={(v) =>
        commit('Change how it is trimmed', [
          { op: 'replace', path: ['charging', 'control', 'trimmed', field], value: v! / 100 },
        ])
      }
    />
  );
}

/** [V] a cell rests at with so much charge. */
function voltsFor(cell: ThreadDocument['pack']['cell'], soc: number): number {
  const { soc: s, volts } = cell.ocv;
  const k = Math.max(
    1,
    s.findIndex((x) => x >= soc),
  );
  const share = (soc - s[k - 1]!) / (s[k]! - s[k - 1]!);
  return volts[k - 1]! + share * (volts[k]! - volts[k - 1]!);
}

interface SpreadProps {
  y: number;
  word: string;
  x(volts: number): number;
  full: number;
  least: number;
  most: number;
  likelyLeast: number;
  likelyMost: number;
}

/** How it is marked, by the rule of the checks. */
const MARK = {
  within: { mark: '✓', over: undefined },
  tight: { mark: '!', over: 'tight' },
  danger: { mark: '▲', over: 'danger' },
} as const;

/** The worst case as an outline, the likely part filled; what is over full hatched. */
function Spread({ y, word, x, full, least, most, likelyLeast, likelyMost }: SpreadProps) {
  const is = againstFull(most, full);
  return (
    <g>
      <text className={css.tick} x={EDGE} y={y - 9}>
        {word} {least.toFixed(2)} to {most.toFixed(2)}
        {` ${MARK[is].mark}`}
      </text>
      <rect
        className={css.worst}
        x={x(least)}
        y={y - 5}
        width={Math.max(2, x(most) - x(least))}
        height={11}
      />
      <rect
        className={css.likely}
        x={x(likelyLeast)}
        y={y - 5}
        width={Math.max(2, x(likelyMost) - x(likelyLeast))}
        height={11}
      />
      {is !== 'within' && (
        <rect
          className={is === 'danger' ? css.overPart : css.nearPart}
          x={x(full)}
          y={y - 5}
          width={x(most) - x(full)}
          height={11}
        />
      )}
    </g>
  );
}
