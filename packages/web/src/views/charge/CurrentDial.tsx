import { leastFixed, ohmsAt, programmedRange, turnFor } from '@mile-thread/core/charging';
import type { Edit, Programming, ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import type { KeyboardEvent, PointerEvent } from 'react';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { ProgrammedLaw } from './ProgrammedLaw.tsx';
import css from './dial.module.css';
import chargeCss from './charge.module.css';
import gaugeCss from './gauge.module.css';

const A = (a: number) => formatQuantity(a, 'A', 3);
/** Of a whole turn, as a potentiometer has. Degrees */
const SWEEP = 270;
const CENTRE = 78;
const RADIUS = 54;

/** A fresh pair of resistors for the present current. K of a common chip: common practice, no source. */
function fresh(current: number): Programming {
  return {
    factor: 1200,
    factorTolerance: 0.08,
    fixed: Number((1200 / current).toPrecision(2)),
    fixedTolerance: 0.01,
  };
}

/** The charge current by its resistors: turned or typed, it writes the current. */
export function CurrentDial({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const { control } = doc.charging!;
  if (!control) return null;
  const own = control.programming;
  const at: Edit['path'] = ['charging', 'control'];
  const write = (label: string, next: Programming) =>
    commit(label, [
      { op: own ? 'replace' : 'add', path: [...at, 'programming'], value: next },
      { op: 'replace', path: [...at, 'current'], value: Number(programmedRange(next).set.toPrecision(4)) },
    ]);
  if (!own) {
    return (
      <section className={chargeCss.tool} aria-label="Charge current by its resistor">
        <header>
          <h4>Charge current: {A(control.current)}</h4>
        </header>
        <p className={gaugeCss.setTo}>
          <button
            type="button"
            className="link"
            onClick={() => write('Set it by a resistor', fresh(control.current))}
          >
            Set it by a resistor
          </button>
        </p>
      </section>
    );
  }
  const { set, worst, range, rangeWorst } = programmedRange(own);
  const { cell, parallel } = doc.pack;
  const limit = cell.chargeRate * cell.capacityAh * parallel;
  const rate = set / (cell.capacityAh * parallel);
  const smaller = rangeWorst.most > limit ? leastFixed(own, limit) : undefined;
  const turn = own.turn ?? 0;
  const change = (field: keyof Programming) => (v: number | undefined) =>
    write('Change the programming resistor', { ...own, [field]: v! });
  return (
    <section className={chargeCss.tool} aria-label="Charge current by its resistor">
      <header>
        <h4>Charge current: programming resistor</h4>
      </header>
      <div className={css.dialRow}>
        <Knob
          {...{ turn, set, rate }}
          pot={own.pot !== undefined}
          over={worst.most > limit}
          onTurn={(t) => write('Turn the pot', { ...own, turn: t })}
        />
        <div className={css.dialWords}>
          <ProgrammedLaw own={own} write={write} />
          <p>
            <EditableQuantity label="Fixed resistor" value={own.fixed} unit="Ω" onCommit={change('fixed')} />
            {own.pot === undefined ? (
              <>
                {' · '}
                <button
                  type="button"
                  className="link"
                  onClick={() =>
                    write('Add a potentiometer', {
                      ...own,
                      pot: Number((own.fixed / 2).toPrecision(1)),
                      potTolerance: 0.2,
                      turn: 0,
                    })
                  }
                >
                  add a pot
                </button>
              </>
            ) : (
              <>
                {' '}
                + <EditableQuantity
                  label="Potentiometer"
                  value={own.pot}
                  unit="Ω"
                  onCommit={change('pot')}
                />{' '}
                pot, turned {Math.round(100 * turn)} %
              </>
            )}
          </p>
          <p>
            wanted{' '}
            <EditableQuantity
              label="Current wanted"
              value={Number(set.toPrecision(4))}
              unit="A"
              onCommit={(v) => {
                const to = turnFor(own, v!);
                return write(
                  'Set the charge current',
                  to === undefined
                    ? {
                        ...own,
                        fixed: Number(ohmsAt(own, v!).toPrecision(3)),
                        ...(own.pot === undefined ? {} : { turn: 0 }),
                      }
                    : { ...own, turn: Number(to.toFixed(4)) },
                );
              }}
            />
            {own.pot !== undefined && ` · it reaches ${A(range.least)} to ${A(range.most)}`}
          </p>
          <p data-over={rangeWorst.most > limit || undefined}>
            {rangeWorst.most > limit ? (
              <>
                ✕ it may give {A(rangeWorst.most)}; the cells take {A(limit)}{' '}
                {smaller !== undefined && (
                  <button
                    type="button"
                    className="link strong"
                    onClick={() => write('Take a larger end resistor', { ...own, fixed: smaller })}
                  >
                    Fit {formatQuantity(smaller, 'Ω', 3)}
                  </button>
                )}
              </>
            ) : (
              `✓ no turn passes ${A(limit)}, which the cells take`
            )}
          </p>
          <p className="quiet">
            chip ±{+(100 * own.factorTolerance).toFixed(1)} %, parts ±{+(100 * own.fixedTolerance).toFixed(1)}{' '}
            %: {A(worst.least)} to {A(worst.most)}
          </p>
        </div>
      </div>
    </section>
  );
}

interface KnobProps {
  turn: number;
  set: number;
  rate: number;
  pot: boolean;
  over: boolean;
  onTurn(turn: number): void;
}

/** A knob: its arc is the reach of the potentiometer, more current to the right. */
function Knob({ turn, set, rate, pot, over, onTurn }: KnobProps) {
  const degrees = (t: number) => -SWEEP / 2 + SWEEP * (1 - t);
  const point = (t: number, r: number) => {
    const a = ((degrees(t) - 90) * Math.PI) / 180;
    return `${(CENTRE + r * Math.cos(a)).toFixed(1)},${(CENTRE + r * Math.sin(a)).toFixed(1)}`;
  };
  const turnAt = (e: PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const angle =
      (Math.atan2(e.clientX - box.left - CENTRE, -(e.clientY - box.top - CENTRE)) * 180) / Math.PI;
    return Number((1 - (Math.max(-SWEEP / 2, Math.min(SWEEP / 2, angle)) + SWEEP / 2) / SWEEP).toFixed(2));
  };
  const onKey = (e: KeyboardEvent) => {
    const by = { ArrowLeft: 0.02, ArrowDown: 0.02, ArrowRight: -0.02, ArrowUp: -0.02 }[e.key];
    if (by === undefined || !pot) return;
    e.preventDefault();
    e.stopPropagation();
    onTurn(Math.min(1, Math.max(0, Number((turn + by).toFixed(2)))));
  };
  return (
    <svg
      width={2 * CENTRE}
      height={2 * CENTRE - 14}
      className={css.knob}
      role={pot ? 'slider' : 'img'}
      tabIndex={pot ? 0 : undefined}
      aria-label={pot ? 'Turn of the potentiometer' : `Charge current ${A(set)}`}
      {...(pot
        ? {
            'aria-valuemin': 0,
            'aria-valuemax': 100,
            'aria-valuenow': Math.round(100 * turn),
            'aria-valuetext': A(set),
          }
        : {})}
      onKeyDown={onKey}
      onPointerUp={(e) => pot && onTurn(turnAt(e))}
    >
      <path className={css.arc} d={`M${point(1, RADIUS)}A${RADIUS},${RADIUS} 0 1 1 ${point(0, RADIUS)}`} />
      {pot && (
        <path
          className={css.arcNow}
          d={`M${point(1, RADIUS)}A${RADIUS},${RADIUS} 0 ${(1 - turn) * SWEEP > 180 ? 1 : 0} 1 ${point(turn, RADIUS)}`}
        />
      )}
      <circle cx={CENTRE} cy={CENTRE} r={40} data-over={over || undefined} />
      {pot && (
        <line
          x1={point(turn, 42).split(',')[0]}
          y1={point(turn, 42).split(',')[1]}
          x2={point(turn, 64).split(',')[0]}
          y2={point(turn, 64).split(',')[1]}
        />
      )}
      <text x={CENTRE} y={CENTRE + 2} textAnchor="middle" className={css.knobAmps}>
        {A(set)}
      </text>
      <text x={CENTRE} y={CENTRE + 18} textAnchor="middle" className={gaugeCss.tick}>
        {rate.toFixed(2)} C
      </text>
    </svg>
  );
}
