import { LOOK } from '../plant/cellTable.ts';
import type { Plant } from '../plant/compile.ts';
import type { LedgerSum } from './account/ledger.ts';
import { heldCharge, fullerAt, lookAt, resistanceAt, type CellState } from './step/state.ts';

/** Parts of a rest in which unlike cells come level. */
const PARTS = 200;

/**
 * Cells that nothing is drawn from: branches fall back, they come to the air's temperature, unlike ones side by side come
 * level. All of it is booked. What drains away by itself stays out: the board is open and nobody looks.
 * @param seconds how long; the state's time moves with it
 */
export function restInTheDark(plant: Plant, state: CellState, ledger: LedgerSum, seconds: number): void {
  const { pack } = plant;
  const { cell, warmth, sharing } = pack;
  const slow = state.slow.slice();
  const looked = cell.room();
  lookAt(pack, state.soc, slow, looked);
  for (let k = 0; k < cell.branches; k++) {
    const ohms = looked[LOOK.branches + k]!;
    const farads = looked[LOOK.branches + cell.branches + k]!;
    const tau = ohms * farads;
    const left = tau > 0 ? slow[k]! * Math.exp(-seconds / tau) : 0;
    ledger.relax(k, (farads * (slow[k]! ** 2 - left ** 2)) / 2);
    slow[k] = left;
  }
  const at = cell.branches;
  const from = slow[at]!;
  const begun = state.time;
  /** The cells so long after it began, towards the air as it then is. */
  const cool = (after: number) => {
    if (!warmth) return;
    const air = warmth.daily?.at(begun + after) ?? 0;
    slow[at] = air + (from - air) * Math.exp(-after / warmth.tau);
  };
  state.time += seconds;
  const fuller = fullerAt(pack);
  const apart = slow[fuller]!;
  for (let n = 0; sharing && n < PARTS; n++) {
    cool(((n + 0.5) * seconds) / PARTS);
    const holds = heldCharge(pack, slow) / pack.charge;
    sharing.look(state.soc, slow[fuller]!, looked, warmth ? resistanceAt(pack, slow) : 1);
    slow[fuller]! += sharing.comes(looked[LOOK.slope]!, 0, holds, seconds / PARTS);
  }
  cool(seconds);
  ledger.warm(heldCharge(pack, slow));
  if (sharing) ledger.level(apart, slow[fuller]!);
  state.put(slow);
}
