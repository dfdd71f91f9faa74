import { DRAWS } from '../model/draw.ts';
import { isRegulated } from '../model/kinds/registry.ts';
import { HELD, type Network } from './network.ts';

/** [V] inputs at which what hangs on a rail bends: hints, may be incomplete. Rising, none twice. */
export function bendsOn(network: Network, rail: number): number[] {
  const found: number[] = [];
  findBends(network, rail, found);
  found.sort((a, b) => a - b);
  return found.filter((v, k) => v !== found[k - 1]);
}

function findBends(network: Network, rail: number, found: number[]): void {
  const { stages, loads, rails, draws, held } = network;
  const note = (v: number) => {
    if (v > 0 && v < Infinity) found.push(v);
  };
  for (const l of rails.loadsOn[rail]!) {
    const { min, max } = loads[l]!.range;
    note(min);
    note(max);
    // The knee of a string.
    if (DRAWS[draws.laws[l]!] === 'string') note(draws.values[l]!);
  }
  for (const k of rails.stagesOn[rail]!) {
    const stage = stages[k]!;
    const { minInput, maxInput } = rails.limits[k]!;
    if (held[k] === HELD.lockedOut) note(rails.bounds.release[k]!);
    if (held[k] !== HELD.on) continue;
    note(minInput);
    note(maxInput);
    if (isRegulated(stage)) network.stageBends(k, stage.outputVolts).forEach(note);
    else if ('resistance' in stage && stage.resistance === 0) findBends(network, k + 1, found);
  }
}
