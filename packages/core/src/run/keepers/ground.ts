import { EFFORT } from '../../plant/effort.ts';
import { Allowance } from '../../numeric/allowance.ts';
import type { Plant } from '../../plant/compile.ts';
import { Board } from './guard.ts';
import { HoldKeeper } from './hold.ts';
import { LedgerSum } from '../account/ledger.ts';
import { LoadKeeper } from './loadKeeper.ts';
import { March, USUAL_STEPS, type MarchOptions } from '../march/march.ts';
import type { Recorder } from '../account/recorder.ts';
import type { Counts } from '../account/result.ts';
import { CellState } from '../step/state.ts';
import { Trace } from '../account/trace.ts';

export interface RunOptions extends Partial<MarchOptions> {
  /** rows for a whole charge, evenly between the ends of steps; 0: those ends alone, about a hundred */
  rows?: number;
  /** every cycle of a programme one by one, however many: for references */
  everyCycle?: boolean;
  /** demands of rails worked out after which a search is given up, those behind parts counted fivefold */
  effort?: number;
  /** what several runs may cost together, this among them */
  allowance?: Allowance;
}

/** Share of the effort that following each cycle of a fast programme may take before it is taken another way. */
const TRIED = 0.4;

/** Options of a run that is tried first, and of the one in its place where it breaks off: both share what one may cost. */
export function attempts(options: RunOptions): { first: RunOptions; then: RunOptions } {
  const { effort = EFFORT, allowance = new Allowance(effort) } = options;
  const shared = { ...options, allowance };
  return { first: { ...shared, effort: TRIED * allowance.most(effort) }, then: shared };
}

/** What every run stands on: the cells, their account and march, what is noted, and what every thread has that switches. */
export class Ground {
  readonly counts: Counts = {
    ...{ steps: 0, rejected: 0, located: 0, sweeps: 0, crept: 0, work: 0, pieces: 0, jumps: 0, none: 0 },
    ...{ unconverged: 0, cycles: 0, skipped: 0, abandoned: 0 },
  };
  readonly state: CellState;
  readonly ledger: LedgerSum;
  readonly trace: Trace;
  readonly steps: MarchOptions;
  readonly march: March;
  readonly holds: HoldKeeper;
  readonly loads: LoadKeeper;
  readonly board: Board;
  /** what several runs share, and work done before this one */
  private readonly allowance: Allowance | undefined;
  private readonly begun: number;

  constructor(
    readonly plant: Plant,
    readonly options: RunOptions,
    readonly recorder?: Recorder,
  ) {
    const { network } = plant.path;
    const { effort = EFFORT, allowance } = options;
    this.allowance = allowance;
    this.begun = network.effort.work;
    network.effort.allow(allowance?.most(effort) ?? effort);
    this.state = new CellState(plant.pack, plant.conditions.startSoc);
    this.ledger = new LedgerSum(plant, this.state);
    this.trace = new Trace(plant, this.state);
    this.steps = { ...USUAL_STEPS, ...options };
    const { state, ledger, trace, counts, steps } = this;
    this.march = new March(plant, state, ledger, trace, recorder, counts, steps);
    this.holds = new HoldKeeper(plant, state, this.march.step.instant, counts);
    this.loads = new LoadKeeper(plant, state);
    trace.switched = this.loads;
    this.board = new Board(plant, state, this.march.before);
  }

  /** Whether the search has cost what it may. */
  get spent(): boolean {
    return this.plant.path.network.effort.spent;
  }

  /** What it has cost is counted, and taken from what several runs share. */
  settleUp(): void {
    const { counts, plant } = this;
    const { network } = plant.path;
    counts.abandoned = this.holds.abandoned.size;
    counts.work = network.effort.work;
    this.allowance?.take(counts.work - this.begun);
    counts.pieces = plant.path.counts().pieces;
  }
}
