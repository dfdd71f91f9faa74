import { LOOK } from '../plant/cellTable.ts';
import type { Plant } from '../plant/compile.ts';
import type { LedgerSum } from './ledger.ts';
import { chargeAt, fullerAt, lookAt, resistanceAt, type CellState } from './state.ts';

/** Parts of a rest in which unlike cells come level. */
const PARTS = 24;

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
  state.time += seconds;
  if (warmth) {
    const air = warmth.daily?.at(state.time) ?? 0;
    const at = cell.branches;
    slow[at] = air + (slow[at]! - air) * Math.exp(-seconds / warmth.tau);
    ledger.warm(chargeAt(pack, slow));
  }
  if (sharing) {
    const at = fullerAt(pack);
    const holds = state.charge / pack.charge;
    const warm = warmth ? resistanceAt(pack, slow) : 1;
    const from = slow[at]!;
    for (let n = 0; n < PARTS; n++) {
      sharing.look(state.soc, slow[at]!, looked, warm);
      slow[at]! += sharing.comes(looked[LOOK.slope]!, 0, holds, seconds / PARTS);
    }
    ledger.level(from, slow[at]!);
  }
  state.put(slow);
}
