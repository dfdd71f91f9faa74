import type { Draws } from '../loads/draws.ts';
import type { Stage } from '../model/kinds/registry.ts';
import type { Load } from '../model/load.ts';
import { floats } from '../numeric/floats.ts';
import { Chart } from './chart.ts';
import { columnCount, DELIVERED, lossAt, POWER } from './layout.ts';
import type { Joined } from './joint.ts';
import { HELD, Network } from './network.ts';
import type { Piece } from './piece.ts';
import { RailState, rangeIn } from './railState.ts';
import type { Sampled } from './sampled.ts';

/** Demands of searches over the whole range that are worked out one by one; a table is then worth its making. */
const STRAYED = 80;

/** What feeds the pack's rail besides the pack: it gives what the stages and loads then need not draw, and more. */
export interface Feeding {
  /** its present setting, as a name: each has a chart of its own */
  readonly name: string;
  /** numbers it adds to the columns and to the signature */
  readonly columns: number;
  readonly entries: number;
  /** where it meets what the pack gives, if not on the pack's own rail */
  readonly joined?: Joined;
  /** [V] up to which it may lift the rail */
  readonly ceiling: number;
  /** the rail with what it gives */
  beside(network: Network, usual: number): Sampled;
  /** [A] drawn from the pack at its volts, exactly */
  demand(network: Network, volts: number): number;
  /** [V] where to look on the way from one voltage to another: not across where it gives all or nothing */
  onTheWay(from: number, to: number): number;
}

/** Everything outside the cells in one state. */
interface World {
  chart: Kept;
  /** demands asked of it by searches over the whole range, see `remembers` */
  strayed: number;
}

/** A path's demand over its volts, as a chart keeps it. */
export type Kept = Pick<Chart, keyof Chart>;

/**
 * Everything outside the cells, as what it draws at the pack's volts: a chart for each set of holds and draws, kept as
 * long as the path is. Knows nothing of cells: any pack can be put before it, one at a time.
 */
export class Path {
  readonly network: Network;
  /**
   * Whether searches read off a chart from the first where it was searched often before, rather than anew from each change on: for looks
   * at years. Where currents are next to nothing a chart's own error shows.
   */
  remembers = false;
  /** every number of the state read last, see `layout.ts`; losses only where read exactly */
  readonly columns: Float64Array;
  /** the state read last: modes, then inputs, then ranges; see `modeOf` and its neighbours */
  signature: Int32Array;
  private readonly charts = new Map<string, World>();
  /** the same by the very object that says the draws, and the holds: a name costs more */
  private ofDraws = new WeakMap<Draws, Map<string, World>>();
  /** why each stage is held off, as a name */
  private holds = '';
  /** what is now, and its chart */
  private now!: World;
  private chart!: Kept;
  private readonly usualDraws: Draws;
  /** the piece whose columns those are */
  private columnsOf: Piece | undefined;
  private readonly beforeLosses: number;

  /**
   * @param usual [V] above which packs keep as a rule: the chart reaches that far before it reaches further
   */
  constructor(
    readonly stages: readonly Stage[],
    readonly loads: readonly Load[],
    air: number,
    private readonly usual: number,
    /** how the demand is kept; a reference may ask it exactly each time */
    private readonly keep: (of: Sampled) => Kept = (of) => new Chart(of),
    readonly feeding?: Feeding,
  ) {
    this.network = new Network(
      stages,
      loads,
      air,
      (network, rail) => this.keep(new RailState(network, rail, 0)),
      feeding?.joined,
    );
    const own = columnCount(stages.length, loads.length);
    this.columns = floats(own + (feeding?.columns ?? 0));
    // What feeds besides stands behind the losses, and rows need it.
    this.beforeLosses = feeding ? this.columns.length : lossAt(stages.length, loads.length);
    this.signature = new Int32Array(3 * stages.length + loads.length + (feeding?.entries ?? 0));
    this.usualDraws = this.network.draws;
    this.holds = this.network.held.join('');
    this.choose();
  }

  /** [A] at the volts evaluated last */
  get amps(): number {
    return this.chart.amps;
  }

  /** [A/V] there */
  get slope(): number {
    return this.chart.slope;
  }

  /** Number of the state there; equal numbers mean equal states as long as no hold changes. */
  get event(): number {
    return this.chart.event;
  }

  /** The piece of the chart there; none where it is asked exactly. */
  get piece(): Piece | undefined {
    return this.chart.piece;
  }

  /** The state of everything outside the cells, by who stands for it: the same one as long as no hold, draw or setting changes. */
  get world(): object {
    return this.now;
  }

  /** Whether a stage stood outside its readings in the state evaluated or read last. */
  extended(stage: number): boolean {
    return this.chart.extended[stage] === 1;
  }

  /** Amps, slope and event at the pack's volts. */
  evaluate(volts: number): void {
    this.chart.evaluate(volts);
  }

  /** [V] where to look on the way from one voltage to another: see `Chart`. */
  onTheWay(from: number, to: number): number {
    const to1 = this.chart.onTheWay(from, to);
    return this.feeding ? this.feeding.onTheWay(from, to1) : to1;
  }

  /** [W] to all loads at the pack's volts. */
  delivered(volts: number): number {
    return this.chart.leading(DELIVERED, volts);
  }

  /** The columns before the losses and the state at the pack's volts. */
  read(volts: number): void {
    const { chart } = this;
    chart.read(volts, this.columns, this.beforeLosses, this.columnsOf);
    this.columnsOf = chart.piece;
    this.signature = chart.signature;
  }

  /** [A] exactly, for searches that stray over the whole range; by the chart once there are many. */
  demand(volts: number): number {
    if (++this.now.strayed > STRAYED) return this.chart.demand(volts);
    return this.feeding ? this.feeding.demand(this.network, volts) : this.network.demand(0, volts);
  }

  /** What feeds besides has been set anew. */
  fedAnew(): void {
    this.choose();
  }

  /** Every column exactly, past the chart. */
  readExactly(volts: number): void {
    this.chart.readExactly(volts, this.columns);
    this.columnsOf = undefined;
    this.signature = this.chart.signature;
  }

  /** Read as if nothing was connected: every stage unfed, every load without volts. */
  rest(): void {
    this.columns.fill(0);
    this.columnsOf = undefined;
    this.signature = new Int32Array(this.signature.length);
  }

  /** [A] exactly, past the chart; every column is left read there. */
  exactAmps(volts: number): number {
    this.readExactly(volts);
    return this.columns[POWER]! / volts;
  }

  hold(stage: number, why: number): void {
    if (this.network.held[stage] === why) return;
    this.network.hold(stage, why);
    this.holds = this.network.held.join('');
    this.choose();
  }

  setDraws(draws: Draws): void {
    if (draws === this.network.draws) return;
    this.network.setDraws(draws);
    this.choose();
  }

  /** As it was when made: nothing held, every load on. */
  reset(): void {
    // What was sampled after the searches' allowance ran out is not what the path draws.
    if (this.network.effort.spent) {
      this.charts.clear();
      this.ofDraws = new WeakMap();
    }
    this.network.held.fill(HELD.on);
    this.holds = this.network.held.join('');
    this.network.setDraws(this.usualDraws);
    this.choose();
    this.network.effort.begin();
  }

  /** Index into MODES of a stage in the state read last. */
  modeOf(stage: number): number {
    return this.signature[stage]!;
  }

  /** 1 where a working stage's input is below its lock-out, 2 above its maximum. */
  inputOf(stage: number): number {
    return this.signature[this.stages.length + stage]!;
  }

  /** Where a load stands to its range; see RANGE. */
  rangeOf(load: number): number {
    return rangeIn(this.signature, this.stages.length, load);
  }

  /** Pieces, stretches left exact and samples of all charts. */
  counts() {
    const sum = { pieces: 0, exact: 0, samples: 0 };
    for (const {
      chart: { counts },
    } of this.charts.values()) {
      sum.pieces += counts.pieces;
      sum.exact += counts.exact;
      sum.samples += counts.samples;
    }
    return sum;
  }

  /** A set of holds and draws, whichever object says the draws. */
  private worldOf(name: string): World {
    const { network, charts } = this;
    let world = charts.get(name);
    if (!world) charts.set(name, (world = { chart: this.keep(this.railState(network)), strayed: 0 }));
    return world;
  }

  private railState(network: Network): Sampled {
    const { feeding, usual } = this;
    return feeding ? feeding.beside(network, usual) : new RailState(network, 0, usual);
  }

  private choose(): void {
    const { network, ofDraws } = this;
    const { draws } = network;
    let byHolds = ofDraws.get(draws);
    if (!byHolds) ofDraws.set(draws, (byHolds = new Map()));
    const holds = this.feeding ? `${this.holds} ${this.feeding.name}` : this.holds;
    let world = byHolds.get(holds);
    if (!world) byHolds.set(holds, (world = this.worldOf(`${holds} ${draws.name}`)));
    if (!this.remembers) world.strayed = 0;
    this.now = world;
    this.chart = world.chart;
    this.columnsOf = undefined;
  }
}
