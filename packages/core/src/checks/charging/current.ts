import { RATE_ROOM } from '../../charging/current.ts';
import { cableOhms } from '../../charging/source.ts';
import type { ChargeResult } from '../../run/account/chargeResult.ts';
import { Reading } from '../../run/reading/reading.ts';
import { limitsOf } from '../../stages/limits.ts';
import type { Said } from '../finding.ts';
import { A, floor3, V, W, type ChargeContext } from './context.ts';

/** Rate at which cells that have served before are charged at most. Common practice, no source. */
const SALVAGED_RATE = 0.5;
/** Charge held, over the rated, below which a group has served before. Common practice, no source. */
const SALVAGED = 0.9;
/** Share of the source's volts a cable may lose. Common practice, no source. */
const MOST_DROP = 0.05;

/** Whether cells, source and cable stand the current. */
export function current(c: ChargeContext): Said[] {
  return [...rate(c), ...own(c), ...contract(c), ...source(c), ...cable(c), ...input(c)];
}

function rate({ doc, charging, result }: ChargeContext): Said[] {
  const { cell, groups, parallel } = doc.pack;
  const { amps, rate: c, time } = result.fastest;
  const served = groups?.some((g) => g.capacity < SALVAGED) ?? false;
  const most = served ? Math.min(SALVAGED_RATE, cell.chargeRate) : cell.chargeRate;
  if (c <= RATE_ROOM * most * (1 + 1e-6)) return [];
  const over = c > most * (1 + 1e-6);
  const takes = `${A(amps)}, ${c.toFixed(2)} C`;
  const rated = `${Number(most.toPrecision(3))} C`;
  const { control } = charging;
  // By what flowed, where other things hold it back; never more than the cells may have.
  const may = RATE_ROOM * most * cell.capacityAh * parallel;
  const wanted =
    control &&
    floor3(Math.min((control.current * RATE_ROOM * most) / c, control.sense === 'output' ? may : Infinity));
  const ends = control?.terminate !== undefined && wanted! <= control.terminate;
  return [
    {
      id: 'charge-rate:cells',
      severity: !over ? 'tight' : served && c <= cell.chargeRate ? 'tight' : 'danger',
      element: 'cells',
      title: over
        ? `Each cell takes ${takes}; ${served ? 'cells that have served should take' : 'it may take'} ${rated}`
        : `Each cell takes ${takes}, next to the ${rated} that ${served ? 'cells that have served should' : 'it may'}`,
      reason: `${over ? 'Charged faster than they are made for, cells' : 'Nothing is left for a charger that gives a little more: beyond it cells'} warm up, plate lithium and age.${parallel > 1 ? ` ${parallel} side by side share it.` : ''}`,
      from: over ? firstOver(result, (most * amps) / c) : time,
      excess: c / most,
      ...(wanted && !ends && over
        ? {
            action: {
              label: `Charge by ${A(wanted)}`,
              edits: [{ op: 'replace' as const, path: ['charging', 'control', 'current'], value: wanted }],
            },
          }
        : {}),
    },
  ];
}

/** [s] when a cell takes more than so much first. [A] */
function firstOver({ series }: ChargeResult, most: number): number {
  const rows = new Reading(series);
  for (let k = 0; k < rows.count; k++) if (-rows.at(k, 'cellAmps') > most) return rows.at(k, 'time');
  return 0;
}

/** More asked of the charger than it gives by its own limits. */
function own({ charging, result }: ChargeContext): Said[] {
  const { control, stage } = charging;
  if (!control) return [];
  const { output } = limitsOf(stage);
  const first = (limit: 'output' | 'ownInput') => result.phases.find((p) => p.limit === limit);
  const held = first('output') ?? (control.inputLimit === undefined ? first('ownInput') : undefined);
  const over = control.sense === 'output' && control.current > output * (1 + 1e-6);
  if (!held && !over) return [];
  const by =
    over || held!.limit === 'output' ? `the ${A(output)} it gives` : 'the limit of its input or switch';
  return [
    {
      id: 'charge-own-limit:charger',
      severity: 'tight',
      element: 'charger',
      title: `It is set to ${A(control.current)}, beyond ${by}`,
      reason: `Its own limit holds it there, as hot as it gets. A charger that is made for it, or a current within it.`,
      ...(held ? { from: held.from } : {}),
      ...(over
        ? {
            excess: control.current / output,
            action: {
              label: `Charge by ${A(floor3(output))}`,
              edits: [
                { op: 'replace' as const, path: ['charging', 'control', 'current'], value: floor3(output) },
              ],
            },
          }
        : {}),
    },
  ];
}

function contract({ charging, source }: ChargeContext): Said[] {
  if (charging.source.kind !== 'contracts' || Math.abs(source.open / charging.source.asks - 1) < 1e-3)
    return [];
  return [
    {
      id: 'contract:source',
      severity: 'fails',
      element: 'source',
      title: `It asks for ${V(charging.source.asks)}; the source offers none and gives ${V(source.open)}`,
      reason: `A trigger that is not met gets what is nearest below, as a rule.`,
      action: {
        label: `Ask for ${V(source.open)}`,
        edits: [{ op: 'replace', path: ['charging', 'source', 'asks'], value: source.open }],
      },
    },
  ];
}

/** Whether the source holds it back or lets go. */
function source({ result, source, charging }: ChargeContext): Said[] {
  const { control } = charging;
  const limited = result.phases.filter((p) => p.limit === 'source' || p.limit === 'letsGo');
  if (limited.length === 0) return [];
  const lets = limited.some((p) => p.limit === 'letsGo');
  const held = control?.inputLimit !== undefined || control?.inputVolts !== undefined;
  const less = floor3(0.95 * source.limit);
  return [
    {
      id: 'source-asked:source',
      severity: lets ? 'fails' : held ? 'note' : 'tight',
      element: 'source',
      title: lets
        ? `It asks more than the ${A(source.limit)} of the source, which lets go`
        : `All the source gives, ${A(source.limit)}, is less than it asks`,
      reason: lets
        ? `Beyond its limit this source switches off and tries again, so that nothing comes of it. A charger that holds its input current stays within.`
        : `It fills by ${W(source.limit * (source.open - source.droop * source.limit))} from there${held ? '' : '; nothing holds its input back, and another source may let go'}.`,
      from: limited[0]!.from,
      ...(control && !held
        ? {
            action: {
              label: `Hold its input at ${A(less)}`,
              edits: [{ op: 'add' as const, path: ['charging', 'control', 'inputLimit'], value: less }],
            },
          }
        : {}),
    },
  ];
}

function cable({ result, source, charging }: ChargeContext): Said[] {
  const { mostSource } = result;
  const drop = mostSource * cableOhms(charging);
  if (drop < MOST_DROP * source.open) return [];
  const length = charging.cable?.length;
  return [
    {
      id: 'charge-cable:cable',
      severity: drop > 2 * MOST_DROP * source.open ? 'fails' : 'tight',
      element: 'cable',
      title: `Its cable loses ${V(drop)} of ${V(source.open)} at ${A(mostSource)}`,
      reason: `${length ? `${length} m there and back` : 'Its contacts'} and all that flows through ${length ? 'it' : 'them'} count: a thicker or shorter one leaves more for the charger.`,
      excess: drop / (MOST_DROP * source.open),
    },
  ];
}

/** More volts than the charger stands. */
function input({ source, charging }: ChargeContext): Said[] {
  const { stage } = charging;
  if (source.open <= stage.maxInput) return [];
  return [
    {
      id: 'charge-input:charger',
      severity: 'danger',
      element: 'charger',
      title: `The source gives ${V(source.open)}; the charger stands ${V(stage.maxInput)}`,
      reason: `Open, before anything flows, all of it is at the input. What breaks through goes straight to the cells.`,
      excess: source.open / stage.maxInput,
    },
  ];
}
