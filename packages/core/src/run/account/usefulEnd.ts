import type { Load } from '../../model/load.ts';
import type { Plant } from '../../plant/compile.ts';
import { loadAt, LOAD_COLUMN } from '../../plant/layout.ts';
import { RANGE } from '../../plant/railState.ts';
import { FAILS, MODES } from '../../stages/modes.ts';
import type { UsefulEnd } from './result.ts';

/**
 * Whether a run is of use at an instant: the first essential load that is out of its range, and the stage that made it
 * leave. Where no load is essential every one of them counts; one that is switched off never does, and none
 * that merely dims. The path is read at the instant.
 * @returns undefined while it is of use
 */
export function usefulEnd(plant: Plant, time: number): UsefulEnd | undefined {
  const { path } = plant;
  const { loads, columns } = path;
  const out = loads.findIndex(
    (l, k) =>
      counts(loads, k) && path.rangeOf(k) !== RANGE.in && !path.network.isOff(k) && !dims(l, plant, k),
  );
  if (out < 0) return undefined;
  const side = path.rangeOf(out) === RANGE.high ? 'high' : 'low';
  const volts = columns[loadAt(path.stages.length, out) + LOAD_COLUMN.volts]!;
  const stage = culprit(plant, path.network.rails.ofLoad[out]!);
  return { time, load: { id: loads[out]!.id, side, volts }, ...(stage ? { stage } : {}) };
}

/** The end where a load has given way since the pack could not carry it. */
export function givenWay(plant: Plant, load: number, time: number): UsefulEnd | undefined {
  if (!counts(plant.path.loads, load)) return undefined;
  return { time, load: { id: plant.path.loads[load]!.id, side: 'low', volts: 0 } };
}

/** Whether a run is of no use without a load: an essential one, or any where none is. */
export function counts(loads: readonly Load[], load: number): boolean {
  return loads[load]!.essential || !loads.some((l) => l.essential);
}

/** Whether a load merely glows less where it is. */
function dims({ below }: Load, { path }: Plant, load: number): boolean {
  const watts = path.columns[loadAt(path.stages.length, load) + LOAD_COLUMN.watts]!;
  return below === 'dims' && path.rangeOf(load) === RANGE.low && watts > 0;
}

/** The stage on the way from the pack to a rail that stopped holding its output first, seen from the pack. */
function culprit({ path }: Plant, rail: number): UsefulEnd['stage'] {
  let found: UsefulEnd['stage'];
  for (let at = rail; at > 0; at = path.network.rails.ofStage[at - 1]!) {
    const mode = path.modeOf(at - 1);
    if (FAILS[mode]) found = { id: path.stages[at - 1]!.id, mode: MODES[mode]! };
  }
  return found;
}
