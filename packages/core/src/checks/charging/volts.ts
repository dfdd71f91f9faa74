import { CHEMISTRIES, chemistryOf } from '../../model/chemistries/registry.ts';
import { againstFull, asBought, beginsAnew, mostVolts, setForWorst, TRIMMED } from '../../charging/volts.ts';
import type { Edit } from '../../model/edit.ts';
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
  const set = V('outputVolts' in charging.stage ? charging.stage.outputVolts / series : 0);
  const value = floor3(from.volts);
  return [
    {
      id: 'begins-anew:charger',
      severity: 'tight',
      element: 'charger',
      title: `It begins anew below ${V(recharge!)} a cell, and charges to no more than ${set}`,
      reason: `Each charge would begin as the last one ends, for ever. It is reckoned with ${V(from.volts)} a cell instead.`,
      action: {
        label: `Begin anew below ${V(value)}`,
        edits: [{ op: 'replace', path: ['charging', 'control', 'recharge'], value }],
      },
    },
  ];
}

/** Where it stops, against what the cells want. */
function stops(c: ChargeContext): Said[] {
  const { series, cell } = c.doc.pack;
  const full = series * cell.fullVolts;
  const { stop, reached } = c;
  if (!stop || reached === undefined) return [];
  const isOver = (volts: number) => againstFull(volts / series, cell.fullVolts);
  if (isOver(reached) === 'danger') return [setTooHigh(c, stop.set, full)];
  if (isOver(stop.most + reached - stop.set) !== 'within') return [mayBeHigh(c, full)];
  return reached < UNDER * full ? [neverFull(c, reached, full)] : [];
}

const setVolts = (value: number): Edit[] => [
  { op: 'replace', path: ['charging', 'stage', 'outputVolts'], value },
];

function setTooHigh({ doc }: ChargeContext, set: number, full: number): Said {
  const { series, cell } = doc.pack;
  const meant = Array.from({ length: 30 }, (_, k) => k + 1).find(
    (n) => n !== series && Math.abs(set / (n * cell.fullVolts) - 1) < ALIKE,
  );
  const other = FULL_OF.find(
    ([, v]) => Math.abs(set / series / v - 1) < ALIKE && Math.abs(v / cell.fullVolts - 1) > ALIKE,
  );
  const as = meant
    ? `It is set for ${meant} in series; there are ${series}.`
    : other
      ? `It is set for ${other[0]}; this one is full at ${V(cell.fullVolts)}.`
      : '';
  return {
    id: 'charge-volts:charger',
    severity: 'danger',
    element: 'charger',
    title: `It charges to ${V(set / series)} a cell, full is ${V(cell.fullVolts)}`,
    reason: `${as} Above their full volts cells age fast, swell, and may catch fire.`.trim(),
    excess: set / full,
    action: { label: `Set it to ${V(floor3(full))}`, edits: setVolts(floor3(full)) },
  };
}

function mayBeHigh({ doc, charging, stop }: ChargeContext, full: number): Said {
  const { series, cell } = doc.pack;
  const { most, set, from } = stop!;
  const to = floor3(setForWorst(stop!, full));
  const byMeter = floor3(full * TRIMMED);
  const why =
    from === 'trimmed' ? 'by meter and drift' : from === 'divider' ? 'by its parts' : 'by 1 %, as usual';
  return {
    id: 'charge-volts:charger',
    severity: againstFull(most / series, cell.fullVolts) === 'danger' ? 'danger' : 'tight',
    element: 'charger',
    title: `It may charge to ${V(most / series)} a cell; full is ${V(cell.fullVolts)}`,
    reason: `Set to ${V(set)} it may be off ${why}: ${Math.round((1000 * (most - full)) / series)} mV a cell over at worst. Trim it with no pack on.`,
    excess: most / full,
    action:
      from === 'trimmed' || asBought(charging)!.most <= full
        ? { label: `Trim to ${V(to)}`, edits: setVolts(to) }
        : {
            label: `Trim to ${V(byMeter)} by a meter`,
            edits: [
              ...setVolts(byMeter),
              {
                op: charging.control!.trimmed ? 'replace' : 'add',
                path: ['charging', 'control', 'trimmed'],
                value: { meter: 0.005, drift: 0.0025 },
              },
            ],
          },
  };
}

function neverFull({ doc, charging, result }: ChargeContext, reached: number, full: number): Said {
  const { series } = doc.pack;
  const { diode, stage } = charging;
  const lost = diode && diode.volts > 0.01 * full;
  const wanted = ceil3(full * TRIMMED);
  return {
    id: 'charge-low:charger',
    severity: reached < 0.9 * full ? 'fails' : 'tight',
    element: 'charger',
    title: `It stops at ${V(reached / series)} a cell, ${Math.round(100 * result.end.soc)} % full`,
    reason: lost
      ? `Set to ${V('outputVolts' in stage ? stage.outputVolts : reached)}, the diode behind it keeps ${V(diode.volts)} of that from the pack.`
      : `Full is ${V(full / series)} a cell; set volts below it fill less, though cells last longer.`,
    excess: full / reached,
    // Behind a diode none is right: its drop falls with the current, and the cells come to the more.
    ...(diode ? {} : { action: { label: `Set it to ${V(wanted)}`, edits: setVolts(wanted) } }),
  };
}

/** Nothing looks at the cells: a wire, a resistor, a diode. */
function uncontrolled({ doc, charging, result }: ChargeContext): Said[] {
  const { series, cell } = doc.pack;
  const full = series * cell.fullVolts;
  const end = mostVolts(charging);
  const by = charging.diode ? 'a bare diode' : 'nothing but a wire or a resistor';
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
