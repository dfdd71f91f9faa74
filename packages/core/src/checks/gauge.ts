import { Gauge } from '../model/gauge.ts';
import { gaugeReading } from '../sizing/gauge.ts';
import { HOURS_PER_MONTH } from '../units/constants.ts';
import { formatDuration, formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Action, Said } from './finding.ts';
import { fits } from '../model/possible.ts';

/** By how much of the useful charge a level may move from rest to the heaviest draw. Common practice, no source. */
const MOVES = 0.2;

const A = (amps: number) => formatQuantity(amps, 'A', 2);
const V = (volts: number) => formatQuantity(volts, 'V', 3);
const mAh = (ah: number) => `${Number((1000 * ah).toPrecision(2))} mAh`;
const percent = (share: number) => `${Math.round(100 * share)} %`;

/** What a level gauge and its lights take, and how far they may be believed. */
export function gauge(c: CheckContext): Said[] {
  const own = c.doc.pack.gauge;
  if (!own || c.run.deadEnd.time === 0) return [];
  const told = gaugeReading(c.doc, c.run, own);
  return [...drains(c, own, told.amps), ...beyond(c, told.most), ...moves(told)];
}

function drains(c: CheckContext, own: Gauge, { itself, lights }: { itself: number; lights: number }): Said[] {
  const { cell, parallel } = c.doc.pack;
  const held = cell.capacityAh * parallel;
  const byItself = cell.selfDischargePerMonth * held;
  const month = (amps: number) => amps * HOURS_PER_MONTH;
  const months = (amps: number) => formatDuration(held / amps);
  const found: Said[] = [];
  if (lights > 0) {
    found.push({
      id: 'lights-drain:cells',
      severity: month(lights) > held ? 'fails' : month(lights) > byItself ? 'tight' : 'note',
      element: 'cells',
      title: `Its level lights take ${A(lights)} all the time: alone they empty it in ${months(lights)}`,
      reason: `${own.levels.length} lights of ${A(own.light!)}, half of them lit on the mean. Lit at a press they take next to nothing.`,
      action: { label: 'Light them at a press', edits: [{ op: 'remove', path: ['pack', 'gauge', 'lit'] }] },
    });
  }
  if (month(itself) > byItself) {
    found.push({
      id: 'gauge-drain:cells',
      severity: month(itself) > held / 3 ? 'tight' : 'note',
      element: 'cells',
      title: `Its level gauge takes ${A(itself)}, ${mAh(month(itself))} a month`,
      reason: `That is more than the ${mAh(byItself)} a month the cells lose by themselves; alone it empties them in ${months(itself)}.`,
      excess: month(itself) / Math.max(byItself, 1e-12),
      ...tenfold(own),
    });
  }
  return found;
}

/** Ten times the resistors, where they still may be: above some megaohms, leakage and damp read along. */
function tenfold({ upper, lower, string }: Gauge): { action: Action } | Record<string, never> {
  const to = {
    upper: 10 * upper,
    lower: 10 * lower,
    ...(string === undefined ? {} : { string: 10 * string }),
  };
  const all = Object.entries(to);
  if (upper + lower > MOST_OHMS || !all.every(([field, ohms]) => fits(Gauge, field, ohms))) return {};
  return {
    action: {
      label: 'Use ten times the resistors',
      edits: all.map(([field, value]) => ({ op: 'replace', path: ['pack', 'gauge', field], value })),
    },
  };
}

/** [Ω] of a divider above which it is not offered larger. Common practice, no source. */
const MOST_OHMS = 2e6;

function beyond({ doc }: CheckContext, most: number): Said[] {
  const full = doc.pack.series * doc.pack.cell.fullVolts;
  if (!(full > most)) return [];
  return [
    {
      id: 'gauge-range:cells',
      severity: 'fails',
      element: 'cells',
      title: `Its level gauge tells nothing above ${V(most)}; the full pack stands at ${V(full)}`,
      reason: `Behind its divider the pack is above the reference there, and what reads it may be harmed. A larger upper resistor, or a smaller lower one, brings it down.`,
      excess: full / most,
    },
  ];
}

function moves({ levels }: ReturnType<typeof gaugeReading>): Said[] {
  const worst = levels.reduce((most, l) => (l.heavy - l.rest > most.heavy - most.rest ? l : most));
  const by = worst.heavy - worst.rest;
  if (!(by > MOVES)) return [];
  return [
    {
      id: 'gauge-error:cells',
      severity: 'note',
      element: 'cells',
      title: `Its level gauge changes at ${percent(worst.level)} anywhere between ${percent(worst.rest)} and ${percent(worst.heavy)} left`,
      reason: `At rest the pack falls to ${V(worst.volts)} only with ${percent(worst.rest)} left, at its heaviest draw already with ${percent(worst.heavy)}. Read it at one known draw, or count the charge instead.`,
      excess: by / MOVES,
    },
  ];
}
