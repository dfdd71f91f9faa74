import { isConverter, type Stage } from '../model/kinds/registry.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { compile } from '../plant/compile.ts';
import { answersOf } from '../run/rundown.ts';
import { usesParts } from '../stages/switching.ts';

/** What a better part would add to the run. */
export interface Worth {
  /** what is changed, and to what */
  change: 'winding' | 'resistance' | 'edges' | 'frequency' | 'efficiency' | 'quiescent';
  /** the new value, in the unit of what is changed; a factor for `resistance` and `edges` */
  value: number;
  /** [s] more (or less) to the useful end */
  seconds: number;
}

/**
 * The single change of a stage that adds most to the run, of the usual ones: half the winding's resistance, half
 * the switches', half as long edges, two thirds of the frequency with half as much inductance again; without parts
 * two points of efficiency. Each is run down in full.
 * @param useful [s] the run as it is
 */
export function bestImprovement(doc: ThreadDocument, id: string, useful: number): Worth | undefined {
  const k = doc.stages.findIndex((s) => s.id === id);
  const stage = doc.stages[k];
  if (!stage || useful <= 0) return undefined;
  let best: Worth | undefined;
  for (const { change, value, tried } of changes(stage)) {
    const stages = doc.stages.map((s, n) => (n === k ? tried : s));
    const seconds = answersOf(compile({ ...doc, stages })).usefulEnd.time - useful;
    if (!best || seconds > best.seconds) best = { change, value, seconds };
  }
  return best;
}

interface Try {
  change: Worth['change'];
  value: number;
  tried: Stage;
}

function changes(stage: Stage): Try[] {
  if (!isConverter(stage)) {
    if (!('quiescentCurrent' in stage)) return [];
    const value = stage.quiescentCurrent / 2;
    return [{ change: 'quiescent', value, tried: { ...stage, quiescentCurrent: value } }];
  }
  if (!usesParts(stage)) {
    if (stage.loss.basis !== 'efficiency') return [];
    const efficiency = Math.min(0.99, stage.loss.efficiency + 0.02);
    return [
      {
        change: 'efficiency',
        value: efficiency,
        tried: { ...stage, loss: { ...stage.loss, efficiency } },
      },
    ];
  }
  const parts = stage.parts!;
  const { inductor, frequency } = parts;
  const winding = inductor.resistance / 2;
  const slower = (2 / 3) * frequency;
  const switches = (edit: (name: string, value: number) => number) =>
    ({
      ...stage,
      parts: JSON.parse(JSON.stringify(parts), (name, v: unknown) =>
        typeof v === 'number' ? edit(name, v) : v,
      ),
    }) as Stage;
  const halves =
    (...names: string[]) =>
    (name: string, v: number) =>
      names.includes(name) ? v / 2 : v;
  const withWinding = (value: number) =>
    ({ ...stage, parts: { ...parts, inductor: { ...inductor, resistance: value } } }) as Stage;
  const softer = switches(halves('resistance'));
  const kept = inductor.resistance;
  const onlySwitches = isConverter(softer)
    ? ({ ...softer, parts: { ...softer.parts!, inductor: { ...inductor, resistance: kept } } } as Stage)
    : softer;
  return [
    { change: 'winding', value: winding, tried: withWinding(winding) },
    { change: 'resistance', value: 0.5, tried: onlySwitches },
    { change: 'edges', value: 0.5, tried: switches(halves('turnOnTime', 'turnOffTime')) },
    {
      change: 'frequency',
      value: slower,
      tried: {
        ...stage,
        parts: {
          ...parts,
          frequency: slower,
          inductor: { ...inductor, inductance: 1.5 * inductor.inductance },
        },
      } as Stage,
    },
  ];
}
