import { CHEMISTRIES, chemistryOf } from '../../model/chemistries/registry.ts';
import { settingTo } from '../../charging/setting.ts';
import {
  againstFull,
  asBought,
  beginsAnew,
  mostVolts,
  setForWorst,
  setVolts,
  TRIMMED,
  type StopVolts,
} from '../../charging/volts.ts';
import type { Charging } from '../../model/charging.ts';
import type { Said } from '../finding.ts';
import { ceil3, floor3, V, type ChargeContext } from './context.ts';

/** [V] of a full cell of each chemistry, to say whose a wrong one is. Common practice, no source. */
const FULL_OF: readonly (readonly [string, number])[] = [
  ['a 4.35 V cell', 4.35],
  ['a 4.2 V cell', 4.2],
  ...CHEMISTRIES.flatMap((name) => {
    const { known } = chemistryOf(name);
    return known ? [[known.as, known.full] as const] : [];
  }),
];
/** Share by which set volts may differ from a count of cells or a chemistry to be taken for it. */
const ALIKE = 0.02;
/** Share of full below which a pack is far from filled. Common practice, no source. */
const UNDER = 0.96;

/** Whether the volts it charges to suit the cells. */
export function volts(c: ChargeContext): Said[] {
  if (!c.charging.control) return uncontrolled(c);
  return [...stops(c), ...anew(c)];
}

/** A charge that would begin anew above where it ends. */
function anew({ charging, doc }: ChargeContext): Said[] {
  const { series } = doc.pack;
  const from = beginsAnew(charging, series);
  if (!from?.told) return [];
  const { recharge } = charging.control!;
  const most = V(setVolts(charging)! / series);
  const value = floor3(from.volts);
  return [
    {
      id: 'begins-anew:charger',
      severity: 'tight',
      element: 'charger',
      title: `It begins anew below ${V(recharge!)} a cell, and charges to no more than ${most}`,
      reason: `Each charge would begin as the last one ends, for ever. It is reckoned with ${V(from.volts)} a cell instead.`,
      action: {
        label: `Begin anew below ${V(value)}`,
        edits: [{ op: 'replace', path: ['charging', 'control', 'recharge'], value }],
      },
    },
  ];
}

/** Where it stops, against what the cells want. A diode behind it spares them nothing: its drop goes as the current does. */
function stops(c: ChargeContext): Said[] {
  const { series, cell } = c.doc.pack;
  const full = series * cell.fullVolts;
  const { stop, reached } = c;
  if (!stop || reached === undefined) return [];
  const isOver = (volts: number) => againstFull(volts / series, cell.fullVolts);
  const low = reached < UNDER * full ? [neverFull(c, reached, full)] : [];
  if (isOver(stop.set) === 'danger') return [setTooHigh(c, stop.set, full), ...low];
  return isOver(stop.most) === 'within' ? low : [mayBeHigh(c, full), ...low];
}

/** A way to bring it to volts, to be taken; none where nothing sets them. */
function set(charging: Charging, volts: number, verb = 'Set it'): Pick<Said, 'action'> {
  const found = settingTo(charging, volts);
  if (!found) return {};
  const by = found.by === undefined ? '' : ` by ${found.by}`;
  return { action: { label: `${verb} to ${V(found.volts)}${by}`, edits: found.edits } };
}

function setTooHigh({ doc, charging }: ChargeContext, now: number, full: number): Said {
  const { series, cell } = doc.pack;
  const meant = Array.from({ length: 30 }, (_, k) => k + 1).find(
    (n) => n !== series && Math.abs(now / (n * cell.fullVolts) - 1) < ALIKE,
  );
  const other = FULL_OF.find(
    ([, v]) => Math.abs(now / series / v - 1) < ALIKE && Math.abs(v / cell.fullVolts - 1) > ALIKE,
  );
  const as = meant
    ? `It is set for ${meant} in series; there are ${series}.`
    : other
      ? `It is set for ${other[0]}; this one is full at ${V(cell.fullVolts)}.`
      : '';
  const behind = charging.diode ? ' A diode behind it keeps nothing back once little current flows.' : '';
  return {
    id: 'charge-volts:charger',
    severity: 'danger',
    element: 'charger',
    title: `It charges to ${V(now / series)} a cell, full is ${V(cell.fullVolts)}`,
    reason: `${as}${behind} Above their full volts cells age fast, swell, and may catch fire.`.trim(),
    excess: now / full,
    ...set(charging, floor3(full)),
  };
}

/** What its volts may be off by. */
const OFF_BY: Record<StopVolts['from'], string> = {
  trimmed: 'by meter and drift',
  divider: 'by its parts',
  fixed: 'as its chip is fixed',
  assumed: 'by 1 %, as usual',
};

function mayBeHigh({ doc, charging, stop }: ChargeContext, full: number): Said {
  const { series, cell } = doc.pack;
  const { most, set: now, from } = stop!;
  const byMeter = floor3(full * TRIMMED);
  const trims = from !== 'fixed' && from !== 'divider';
  const isTrimmed = from === 'trimmed' || asBought(charging)!.most <= full;
  return {
    id: 'charge-volts:charger',
    severity: againstFull(most / series, cell.fullVolts) === 'danger' ? 'danger' : 'tight',
    element: 'charger',
    title: `It may charge to ${V(most / series)} a cell; full is ${V(cell.fullVolts)}`,
    reason: `Set to ${V(now)} it may be off ${OFF_BY[from]}: ${Math.round((1000 * (most - full)) / series)} mV a cell over at worst.${trims ? ' Trim it with no pack on.' : ''}`,
    excess: most / full,
    ...(!trims || isTrimmed
      ? set(charging, floor3(setForWorst(stop!, full)), trims ? 'Trim' : 'Set it')
      : {
          action: {
            label: `Trim to ${V(byMeter)} by a meter`,
            edits: [
              ...settingTo(charging, byMeter)!.edits,
              { op: 'add', path: ['charging', 'control', 'trimmed'], value: { meter: 0.005, drift: 0.0025 } },
            ],
          },
        }),
  };
}

function neverFull({ doc, charging, result, stop }: ChargeContext, reached: number, full: number): Said {
  const { series } = doc.pack;
  const { diode } = charging;
  const lost = diode && diode.volts > 0.01 * full;
  return {
    id: 'charge-low:charger',
    severity: reached < 0.9 * full ? 'fails' : 'tight',
    element: 'charger',
    title: `It stops at ${V(reached / series)} a cell, ${Math.round(100 * result.end.soc)} % full`,
    reason: lost
      ? `Set to ${V(stop!.set)}, the diode behind it keeps ${V(diode.volts)} of that from the pack.`
      : `Full is ${V(full / series)} a cell; set volts below it fill less, though cells last longer.`,
    excess: full / reached,
    // Behind a diode none is right: its drop falls with the current, and the cells come to the more.
    ...(diode ? {} : set(charging, ceil3(full * TRIMMED))),
  };
}

/** Nothing looks at the cells: a wire, a resistor, a diode. */
function uncontrolled({ doc, charging, result }: ChargeContext): Said[] {
  const { series, cell } = doc.pack;
  const full = series * cell.fullVolts;
  const end = mostVolts(charging);
  const by = charging.diode || charging.inputDiode ? 'a bare diode' : 'nothing but a wire or a resistor';
  const over = againstFull(end / series, cell.fullVolts) === 'danger';
  return [
    {
      id: 'no-charger:charger',
      severity: over ? 'danger' : 'tight',
      element: 'charger',
      title: over
        ? `With ${by} the cells go on to ${V(end / series)}; full is ${V(cell.fullVolts)}`
        : `With ${by} nothing ends the charge`,
      reason: over
        ? `Nothing holds volts or current: up to ${A1(result.fastest.amps)} a cell, and past full the cells may catch fire. Use a charger made for them.`
        : `The source's own ${V(end)} hold it; it floats there for as long as it is connected, and what fails in the source goes straight to the cells.`,
      excess: end / full,
    },
  ];
}

const A1 = (amps: number) => `${Number(amps.toPrecision(2))} A`;
