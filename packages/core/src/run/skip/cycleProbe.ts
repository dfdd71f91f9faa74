import { LOOK } from '../../plant/cellTable.ts';
import type { Plant } from '../../plant/compile.ts';
import type { Ground } from '../keepers/ground.ts';
import { Board } from '../keepers/guard.ts';
import type { Keeper } from '../keepers/keeper.ts';
import type { LedgerSum } from '../account/ledger.ts';
import { LoadKeeper } from '../keepers/loadKeeper.ts';
import { March } from '../march/march.ts';
import type { Schedule } from '../timeline/schedule.ts';
import { heldCharge, resistanceAt, slowOf, type CellState } from '../step/state.ts';
import { Trace } from '../account/trace.ts';
import { hasCome } from '../step/time.ts';

/** Turns in which the branches' volts at the start of a cycle are sought that come back to themselves. */
const TURNS = 5;
/** How much more a step may bend than in the run. */
const ROUGHER = 10;
/** Relative change of what a cycle takes from which it is taken again, around its middle. */
const CENTRED = 1e-2;
/** Share of the charge that counts as none taken in a cycle. */
export const STANDS = 3e-12;
/** [V] to which they are. */
const SETTLED = 1e-5;

/** A cycle that comes back to itself, centred on a state of charge. */
export interface SettledCycle {
  /** state of charge in its middle */
  soc: number;
  /** share of the charge it takes */
  took: number;
  /** what follows slowly at its start, see `CellState` */
  slow: Float64Array;
  /** share of each of these that is left after it */
  decay: Float64Array;
}

/**
 * Tries cycles of a programme at any state of charge, apart from the run: nothing is switched, kept or ended by them. A
 * weight above zero books what they take so many times.
 */
export class CycleProbe {
  private readonly looked: Float64Array;
  /** what happened in the cycle taken last, one number after the other: the same in two if they are equal */
  readonly course: number[] = [];
  /** the loads as they are in tried cycles */
  readonly loads: LoadKeeper;
  private readonly board: Board;
  /** what was lowest and highest in the cycle taken last */
  readonly trace: Trace;
  private readonly plant: Plant;
  private readonly state: CellState;
  private readonly ledger: LedgerSum;
  /** a march of its own on the run's cells and account, of which nothing is noted */
  private readonly march: March;

  /** @param keepers of the run: none may have anything to switch; loads and board it has for itself, and those of the run say nothing */
  constructor(
    { plant, state, ledger, counts, steps, loads }: Ground,
    private readonly schedule: Schedule,
    private readonly keepers: readonly Keeper[],
  ) {
    this.plant = plant;
    this.state = state;
    this.ledger = ledger;
    this.trace = new Trace(plant);
    const rough = { ...steps, bend: ROUGHER * steps.bend, twist: ROUGHER * steps.twist };
    this.march = new March(plant, state, ledger, this.trace, undefined, counts, rough);
    this.loads = new LoadKeeper(plant, state, loads.shed);
    this.board = new Board(plant, state, this.march.before);
    for (const { watches = [] } of keepers) this.march.before.watch(watches);
    this.looked = plant.pack.cell.room();
  }

  /**
   * The settled cycle around a state of charge.
   * @param near a cycle whose branches and charge to begin with
   * @returns undefined where none settles: something would be switched, or the run would end in it
   */
  settle(soc: number, near?: Pick<SettledCycle, 'took' | 'slow'>): SettledCycle | undefined {
    const { state } = this;
    const decay = this.decayAt(soc);
    const slow = new Float64Array(near?.slow ?? state.slow);
    let took = near?.took ?? 0;
    for (let turn = 0; ; turn++) {
      const from = soc + took / 2;
      if (!this.take(from, slow, 0)) return undefined;
      const now = from - state.soc;
      // Far off the middle, once more.
      let off = Math.abs(now - took) > CENTRED * Math.abs(now) + STANDS ? 2 : 0;
      took = now;
      for (let k = 0; k < slow.length; k++) {
        const move = (state.slow[k]! - slow[k]!) / (1 - decay[k]!);
        slow[k]! += move;
        off = Math.max(off, Math.abs(move) / SETTLED);
      }
      if (off <= 1 || turn === TURNS) break;
    }
    return { soc, took, slow, decay };
  }

  /** Share of what follows slowly that is left after a cycle at rest: e^(−T/RC). Elementary. */
  private decayAt(soc: number): Float64Array {
    const { pack } = this.plant;
    const { cell } = pack;
    cell.look(soc, this.looked);
    const warmer = resistanceAt(pack, this.state.slow);
    return Float64Array.from({ length: slowOf(pack) }, (_, k) => {
      if (k === cell.branches) return Math.exp(-this.schedule.period / pack.warmth!.tau);
      const tau = warmer * this.looked[LOOK.branches + k]! * this.looked[LOOK.branches + cell.branches + k]!;
      return tau > 0 ? Math.exp(-this.schedule.period / tau) : 0;
    });
  }

  /**
   * One cycle from a state of charge and what follows slowly; the state is left at its end, its time where it was.
   * @param weight how often it is booked
   * @returns false where something would be switched, or the run would end in it
   */
  take(soc: number, slow: Float64Array, weight: number): boolean {
    const { state, ledger, course, loads, board } = this;
    const { time } = state;
    loads.reset();
    loads.weight = weight;
    board.dark();
    for (const k of this.keepers) k.tries?.();
    this.trace.begin();
    state.soc = soc;
    state.put(slow);
    course.length = 0;
    const before = ledger.weight;
    ledger.weight = weight;
    let at = time;
    let through = true;
    for (const { draws, seconds, mode, enters } of this.schedule.stretches) {
      ledger.mode = mode;
      loads.begin(draws, enters);
      through = this.stands(NaN, true) && this.marchTo((at += seconds));
      if (!through) break;
    }
    // What they hold goes round with the cycle; where it drifts, whoever skips cycles books that once.
    ledger.warm(heldCharge(this.plant.pack, slow));
    ledger.weight = before;
    state.time = time;
    // What reaches into the next cycle is not seen here.
    return through && !board.runs && !loads.starts && !this.keepers.some((k) => k.underWay?.());
  }

  private marchTo(edge: number): boolean {
    const { march, state, board, loads } = this;
    for (;;) {
      const stop = march.until(Math.min(edge, board.due(), loads.due()));
      if (stop === 'edge' && hasCome(state.time, edge)) return true;
      if (stop === 'still') {
        march.stand(edge);
        continue;
      }
      if (stop !== 'event' && stop !== 'edge') return false;
      if (!this.stands(state.volts, false)) return false;
      march.resume();
    }
  }

  /** Take up the present instant. @returns false where the pack gives up, or something would be switched */
  private stands(near: number, jump: boolean): boolean {
    const { march, state, course, loads, board } = this;
    const { path } = this.plant;
    const shed = loads.shed.join();
    for (let turn = 4 * path.loads.length; turn >= 0; turn--) {
      if (march.step.instant.solve(state, near).status !== 'converged') return false;
      path.read(state.volts);
      march.before.take(state.volts, state.amps, state.soc);
      if (this.keepers.some((k) => k.wouldSwitch?.(march.before, loads))) return false;
      if (!loads.any || !loads.react()) break;
      near = NaN;
    }
    if (loads.any && loads.shed.join() !== shed) {
      // A load is shed by the run itself, not by a cycle that is tried.
      shed.split(',').forEach((s, l) => (loads.shed[l] = Number(s)));
      return false;
    }
    this.trace.look(state.time, state.amps, state.volts, this.ledger.mode);
    if (jump) march.enter(true);
    course.push(march.before.path, march.before.pack);
    return !board.ended();
  }
}
