import { Fragment } from 'react';
import type { PartId, Snapshot, Switching } from '@mile-thread/core';
import {
  isConverter,
  isRegulated,
  type Capacitor,
  type Edit,
  type Inductor,
  type Rectifier,
  type Stage,
  namedWays,
  switchingKind,
  kindOf,
} from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import clsx from 'clsx';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import type { Commit } from '../../document/session.ts';
import { coilPath, schematic, wayStates, type PartLabel, type PartSymbol } from '../../drawing/schematic.ts';
import css from './schematic.module.css';

interface Props {
  stage: Stage;
  /** of the stage in the document */
  path: Edit['path'];
  instant: Snapshot | undefined;
  /** names of what feeds it and what it feeds */
  from: string;
  to: string;
  selected: PartId | undefined;
  onSelect(part: PartId): void;
  commit: Commit;
}

/** The stage drawn with its parts: every value is typed over where it stands; a part opens its other figures. */
export function SchematicPanel(props: Props) {
  const { stage, instant, from, to, selected, onSelect } = props;
  const picture = schematic(kindOf(stage).picture, diodesOf(stage));
  const states = wayStates(instant?.period?.switching ?? restingWay(stage));
  const works = instant?.period !== undefined;
  const amps = instant?.period ? Math.max(0, meanAmps(instant)) : undefined;
  return (
    <div className={css.schematic} style={{ aspectRatio: `${picture.width} / ${picture.height}` }}>
      <svg viewBox={`0 0 ${picture.width} ${picture.height}`} aria-hidden="true">
        {picture.wires.map((w, k) => (
          <polyline key={k} className={css.wire} points={w.map((p) => p.join(',')).join(' ')} />
        ))}
        {picture.symbols.map((s) => (
          <Symbol
            key={s.part}
            symbol={s}
            state={s.way && works ? states[s.way] : undefined}
            selected={s.part === selected}
          />
        ))}
        <text className={css.endVolts} x="40" y="24">
          {instant ? formatQuantity(instant.vin, 'V') : ''}
        </text>
        <text className={css.endVolts} x="640" y="24" textAnchor="end">
          {instant ? formatQuantity(instant.vout, 'V') : ''}
        </text>
        <text className={css.endWords} x="40" y="194">
          {from}
        </text>
        <text className={css.endWords} x="640" y="194" textAnchor="end">
          {to}
        </text>
        {amps !== undefined && kindOf(stage).picture.shape === 'bridge' && (
          <text className={css.coilAmps} x="340" y="86" textAnchor="middle">
            {formatQuantity(amps, 'A')} →
          </text>
        )}
      </svg>
      {picture.symbols.map((s) =>
        s.part === 'pass' ? null : (
          <button
            key={s.part}
            type="button"
            className={css.partHit}
            style={spot(s.x, s.y, picture)}
            aria-label={`${PART_WORDS[s.part]}: all figures`}
            aria-pressed={s.part === selected}
            onClick={() => onSelect(s.part as PartId)}
          />
        ),
      )}
      {picture.labels.map((l) => (
        <div key={l.part} className={clsx(css.partLabel, css[l.align])} style={spot(l.x, l.y, picture)}>
          <Values {...props} label={l} />
        </div>
      ))}
    </div>
  );
}

export const PART_WORDS: Record<PartId | 'pass', string> = {
  inductor: 'Inductor',
  secondInductor: 'Second inductor',
  main: 'Switch',
  rectifier: 'Rectifier',
  buckHigh: 'S1',
  buckLow: 'S2',
  boostLow: 'S3',
  boostHigh: 'S4',
  inputCapacitor: 'Input capacitor',
  outputCapacitor: 'Output capacitor',
  couplingCapacitor: 'Coupling capacitor',
  controller: 'Controller',
  pass: 'Pass element',
};

const spot = (x: number, y: number, p: { width: number; height: number }) => ({
  left: `${(100 * x) / p.width}%`,
  top: `${(100 * y) / p.height}%`,
});

/** How it is drawn while it does not switch: from a high input, which a boost alone cannot step down. */
function restingWay(stage: Stage): Switching {
  return isConverter(stage) && isRegulated(stage)
    ? switchingKind(stage.kind).shapeAt(2 * stage.outputVolts, stage.outputVolts)
    : 'buck';
}

function diodesOf(stage: Stage): Partial<Record<PartId, boolean>> {
  if (!isConverter(stage)) return {};
  const drop = 'rectifierVolts' in stage && stage.rectifierVolts > 0;
  if (!stage.parts) return { rectifier: drop };
  return Object.fromEntries(namedWays(stage).map(({ id, part }) => [id, part.type === 'diode']));
}

/** [A] mean of the drawn period. */
function meanAmps({ period }: Snapshot): number {
  const { share, current } = period!;
  return share.reduce((sum, s, k) => sum + (s * (current[k]! + current[k + 1]!)) / 2, 0);
}

function Symbol({ symbol, state, selected }: { symbol: PartSymbol; state?: string; selected: boolean }) {
  const { x, y, shape, vertical, name } = symbol;
  const turn = vertical ? '' : `rotate(90 ${x} ${y})`;
  const mark = clsx(css.part, selected && css.selected, state && css[state]);
  switch (shape) {
    case 'inductor':
      return <path className={clsx(css.coil, selected && css.selected)} d={coilPath(x, y, vertical)} />;
    case 'capacitor':
      return (
        <g className={mark} transform={turn}>
          <path d={`M${x - 13} ${y - 4}h26M${x - 13} ${y + 4}h26`} />
        </g>
      );
    case 'diode': {
      // Conducts upwards on a leg, to the right on a rail.
      return (
        <g className={clsx(mark, css.diode)} transform={turn}>
          <path
            d={`M${x - 10} ${y + 9}h20l-10 -16zM${x - 10} ${y - 8}h20M${x} ${y + 9}V${y + 15}M${x} ${y - 8}V${y - 15}`}
          />
        </g>
      );
    }
    case 'pass':
      return (
        <g className={css.part}>
          <rect x={x - 50} y={y - 24} width="100" height="48" rx="5" />
          <path d={`M${x - 34} ${y + 8}h30M${x - 34} ${y - 6}c16 0 22 14 34 14h34`} />
        </g>
      );
    default:
      return (
        <g className={mark}>
          <rect x={x - 16} y={y - 13} width="32" height="26" rx="4" />
          <path d={vertical ? `M${x} ${y - 15}v2M${x} ${y + 13}v2` : `M${x - 15} ${y}h-1M${x + 15} ${y}h1`} />
          <text x={x} y={y + 4} textAnchor="middle">
            {name}
          </text>
        </g>
      );
  }
}

/** The values beside a part. */
function Values({ stage, path, label, commit }: Props & { label: PartLabel }) {
  const { part } = label;
  if (part === 'pass') return <PassValues {...{ stage, path, commit }} />;
  if (!isConverter(stage)) return null;
  const model = (stage.parts as unknown as Record<string, unknown> | undefined)?.[part];
  if (!model) return <span className={css.ghost}>{PART_WORDS[part]}</span>;
  const edit = (field: string, unit: string, value: number | undefined, shown?: string) => (
    <EditableQuantity
      label={`${PART_WORDS[part]}, ${field}`}
      value={value}
      unit={unit}
      {...(shown === undefined ? {} : { shown })}
      onCommit={(v) =>
        commit(`Change ${PART_WORDS[part].toLowerCase()} of ${stage.name}`, [
          { op: 'replace', path: [...path, 'parts', part, field], value: v },
        ])
      }
    />
  );
  if (part.toLowerCase().includes('inductor')) {
    const l = model as Inductor;
    return (
      <>
        <b>{edit('inductance', 'H', l.inductance)}</b>
        <span>
          {edit('resistance', 'Ω', l.resistance)}
          {l.saturationCurrent !== undefined && (
            <> · sat {edit('saturationCurrent', 'A', l.saturationCurrent)}</>
          )}
        </span>
      </>
    );
  }
  if (part.endsWith('Capacitor'))
    return <CapacitorValues c={model as Capacitor} stage={stage} part={part} edit={edit} />;
  const r = model as Rectifier;
  return r.type === 'diode' ? (
    <span>{edit('forwardVolts', 'V', r.forwardVolts)}</span>
  ) : (
    <span>{edit('resistance', 'Ω', r.resistance)}</span>
  );
}

type EditField = (field: string, unit: string, value: number | undefined, shown?: string) => React.ReactNode;

function CapacitorValues({
  c,
  stage,
  part,
  edit,
}: {
  c: Capacitor;
  stage: Stage;
  part: PartId;
  edit: EditField;
}) {
  const left = c.capacitance * c.count * c.biasShare;
  const at =
    part === 'outputCapacitor' && isRegulated(stage)
      ? ` at ${formatQuantity(stage.outputVolts, 'V', 2)}`
      : ' left';
  return (
    <>
      <b>
        {edit('count', '', c.count, String(c.count))} × {edit('capacitance', 'F', c.capacitance)}
      </b>
      {c.biasShare < 0.99 && (
        <span className={css.derated}>
          {edit('biasShare', '', c.biasShare, `${formatQuantity(left, 'F', 2)}${at}`)}
        </span>
      )}
    </>
  );
}

function PassValues({ stage, path, commit }: Pick<Props, 'stage' | 'path' | 'commit'>) {
  const edit = (field: string, unit: string, value: number, words: string) => (
    <span>
      <EditableQuantity
        label={words}
        value={value}
        unit={unit}
        onCommit={(v) =>
          commit(`Change ${stage.name}`, [{ op: 'replace', path: [...path, field], value: v }])
        }
      />{' '}
      {words}
    </span>
  );
  const values = stage as unknown as Record<string, unknown>;
  return (
    <>
      {PASS_FIGURES.map(([field, unit, words]) => {
        const value = values[field];
        return typeof value === 'number' ? (
          <Fragment key={field}>{edit(field, unit, value, words)}</Fragment>
        ) : null;
      })}
    </>
  );
}

/** What is written beside a pass element, where the stage has it. */
const PASS_FIGURES = [
  ['resistance', 'Ω', 'in series'],
  ['dropoutVolts', 'V', 'dropout, constant'],
  ['dropoutResistance', 'Ω', 'dropout per ampere'],
  ['quiescentCurrent', 'A', 'to ground'],
  ['thermalResistance', 'K/W', 'junction to air'],
] as const;
