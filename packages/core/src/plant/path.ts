import type { Stage } from '../model/kinds/registry.ts';
import type { Load } from '../model/load.ts';
import { MECHANISMS } from '../stages/point.ts';
import { Chart, type Sampled } from './chart.ts';
import { columnCount, loadAt, LOAD_COLUMN, lossAt, POWER, STAGE_COLUMN, stageAt } from './layout.ts';
import { HELD, Network } from './network.ts';

/** Relative room in comparisons with limits that equal a set point: a 9 V rail is in range from 9 V on. */
export const SLACK = 1e-9;

/** Demands of searches over the whole range that are worked out one by one; a table is then worth its making. */
const STRAYED = 80;

/** A path's demand over its volts, as a chart keeps it. */
export type Kept = Pick<
  Chart,
  'amps' | 'slope' | 'event' | 'signature' | 'extended' | 'counts' | 'evaluate' | 'read' | 'demand'
>;

/** Where a load stands to its range. */
export const RANGE = { low: 0, in: 1, high: 2 } as const;

/**
 * Everything outside the cells, as what it draws at the pack's volts: a chart for each set of holds and draws, kept as
 * long as the path is. Knows nothing of cells: any pack can be put before it, one at a time.
 */
export class Path {
  readonly network: Network;
  /** every number of the state read last, see `layout.ts`; losses only where read exactly */
  readonly columns: Float64Array;
  /** the state evaluated or read last: modes, then inputs, then ranges; see `modeOf` and its neighbours */
  signature: Int32Array;
  /** demands asked by searches since the last change of a hold */
  private strayed = 0;
  private readonly charts = new Map<string, Kept>();
  private chart!: Kept;
  private readonly beforeLosses: number;

  constructor(
    readonly stages: readonly Stage[],
    readonly loads: readonly Load[],
    air: number,
    /** how the demand is kept; a reference may ask it exactly each time */
    private readonly keep: (of: Sampled) => Kept = (of) => new Chart(of),
  ) {
    this.network = new Network(stages, loads, air, (network, rail) => this.keep(railState(network, rail)));
    this.columns = new Float64Array(columnCount(stages.length, loads.length));
    this.beforeLosses = lossAt(stages.length, loads.length);
    this.signature = new Int32Array(3 * stages.length + loads.length);
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

  /** Whether a stage stood outside its readings in the state read last. */
  extended(stage: number): boolean {
    return this.chart.extended[stage] === 1;
  }

  /** Amps, slope and state at the pack's volts. */
  evaluate(volts: number): void {
    this.chart.evaluate(volts);
    this.signature = this.chart.signature;
  }

  /** The columns before the losses and the state there. */
  read(volts: number): void {
    this.chart.read(volts, this.columns, this.beforeLosses);
    this.signature = this.chart.signature;
  }

  /** All columns and the state there. */
  readAll(volts: number, into: Float64Array): void {
    this.chart.read(volts, into, into.length);
    this.signature = this.chart.signature;
  }

  /** [A] exactly, for searches that stray over the whole range; by the chart once there are many. */
  demand(volts: number): number {
    if (++this.strayed > STRAYED) return this.chart.demand(volts);
    return this.network.demand(0, volts);
  }

  /** Every column exactly, past the table. */
  readExactly(volts: number): void {
    const of = railState(this.network, 0);
    of.sample(volts, this.columns, 0);
    this.signature = of.signature;
  }

  /** Read as if nothing was connected: every stage unfed, every load without volts. */
  rest(): void {
    this.columns.fill(0);
    this.signature = new Int32Array(this.signature.length);
  }

  hold(stage: number, why: number): void {
    if (this.network.held[stage] === why) return;
    this.network.hold(stage, why);
    this.choose();
  }

  /** Set the factor on each load's draw. */
  setFactors(factors: readonly number[] | Float64Array): void {
    this.network.setFactors(factors);
    this.choose();
  }

  /** As it was when made: nothing held, every load on. */
  reset(): void {
    // What was sampled after the searches' allowance ran out is not what the path draws.
    if (this.network.spent) this.charts.clear();
    this.network.held.fill(HELD.on);
    this.setFactors(this.loads.map(() => 1));
    this.network.work = 0;
    this.network.spent = false;
    this.network.allowed = Infinity;
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
    return this.signature[2 * this.stages.length + load]!;
  }

  /** Pieces, stretches left exact and samples of all charts. */
  counts() {
    const sum = { pieces: 0, exact: 0, samples: 0 };
    for (const { counts } of this.charts.values()) {
      sum.pieces += counts.pieces;
      sum.exact += counts.exact;
      sum.samples += counts.samples;
    }
    return sum;
  }

  private choose(): void {
    const { network } = this;
    const name = `${network.held.join('')} ${network.factors().join()}`;
    let chart = this.charts.get(name);
    if (!chart) this.charts.set(name, (chart = this.keep(railState(network, 0))));
    this.chart = chart;
    this.strayed = 0;
  }
}

/** What hangs on a rail, sampled: of the pack every column, of an inner rail its power alone. */
function railState(network: Network, rail: number): Sampled {
  const { stages, loads, limits, points, held } = network;
  const n = stages.length;
  const whole = rail === 0;
  const below = stages.map((_, k) => whole || hangsOn(network, network.stageRail[k]!, rail));
  const events = 2 * n + loads.length;
  const signature = new Int32Array(events + n);
  const extended = new Uint8Array(n);
  const least = Float64Array.from(limits, (l) => l.minInput);
  const most = Float64Array.from(limits, (l) => l.maxInput * (1 + SLACK));
  const lows = Float64Array.from(loads, (l) => l.range.min * (1 - SLACK));
  const highs = Float64Array.from(loads, (l) => l.range.max * (1 + SLACK));
  return {
    columns: whole ? columnCount(n, loads.length) : 1,
    stages: n,
    signature,
    events,
    extended,
    bends: () => network.bends(rail),
    distance(entry, value) {
      if (entry >= n && entry < 2 * n) {
        const v = points[entry - n]!.inputVolts;
        const [low, high] = [least[entry - n]!, most[entry - n]!];
        if (value === 0) return Math.min(v - low, high - v);
        return value === 1 ? low - v : v - high;
      }
      if (entry < 2 * n || entry >= events) return NaN;
      const l = entry - 2 * n;
      const v = network.loadVolts[l]!;
      if (value === RANGE.in) return Math.min(v - lows[l]!, highs[l]! - v);
      return value === RANGE.low ? lows[l]! - v : v - highs[l]!;
    },
    sample(volts, row, from) {
      row[from + POWER] = volts * network.settle(rail, volts);
      for (let k = 0; k < n; k++) {
        if (!below[k]) continue;
        const p = points[k]!;
        signature[k] = p.mode;
        signature[events + k] = p.regime;
        const vin = p.inputVolts;
        const works = held[k] === HELD.on && vin > 0;
        signature[n + k] = !works ? 0 : vin < least[k]! ? 1 : vin > most[k]! ? 2 : 0;
        extended[k] = p.extended ? 1 : 0;
        if (!whole) continue;
        const at = from + stageAt(k);
        row[at + STAGE_COLUMN.inputVolts] = p.inputVolts;
        row[at + STAGE_COLUMN.inputWatts] = p.inputVolts * p.inputAmps;
        row[at + STAGE_COLUMN.outputVolts] = p.outputVolts;
        row[at + STAGE_COLUMN.outputAmps] = p.outputAmps;
        const losses = from + lossAt(n, loads.length, k);
        for (let m = 0; m < MECHANISMS.length; m++) row[losses + m] = p.loss[m]!;
      }
      if (!whole) return;
      for (let l = 0; l < loads.length; l++) {
        const v = network.loadVolts[l]!;
        signature[2 * n + l] = v < lows[l]! ? RANGE.low : v > highs[l]! ? RANGE.high : RANGE.in;
        const at = from + loadAt(n, l);
        row[at + LOAD_COLUMN.volts] = v;
        row[at + LOAD_COLUMN.watts] = v * network.loadAmps[l]!;
      }
    },
  };
}

/** Whether one rail is another, or is fed by it. */
function hangsOn(network: Network, rail: number, other: number): boolean {
  for (let at = rail; ; at = network.stageRail[at - 1]!) {
    if (at === other) return true;
    if (at === 0) return false;
  }
}
