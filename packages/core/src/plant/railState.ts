import { MECHANISMS } from '../stages/point.ts';
import {
  columnCount,
  DELIVERED,
  LEADING,
  loadAt,
  LOAD_COLUMN,
  lossAt,
  POWER,
  STAGE_COLUMN,
  stageAt,
} from './layout.ts';
import { bendsOn } from './bends.ts';
import { HELD, type Network } from './network.ts';
import type { Sampled } from './sampled.ts';

/** Where a load stands to its range. */
export const RANGE = { low: 0, in: 1, high: 2 } as const;

/**
 * What hangs on a rail, sampled: of the pack every column, of an inner rail its power alone. Its signature: modes of the
 * stages, where their inputs stand, where the loads stand, then the stages' regimes.
 */
export class RailState implements Sampled {
  readonly bridged: boolean;
  readonly columns: number;
  readonly leading: number;
  readonly signature: Int32Array;
  readonly events: number;
  readonly extended: Uint8Array;
  private readonly whole: boolean;
  /** those below the rail */
  private readonly stages: readonly number[];

  /** @param usual [V] above which it is asked as a rule, 0 for none */
  constructor(
    private readonly network: Network,
    private readonly rail: number,
    private readonly usual: number,
  ) {
    const { stages, loads } = network;
    const n = stages.length;
    this.whole = rail === 0;
    this.bridged = this.whole;
    this.columns = this.whole ? columnCount(n, loads.length) : 1;
    this.leading = this.whole ? LEADING : 1;
    this.events = 2 * n + loads.length;
    this.signature = new Int32Array(this.events + n);
    this.extended = new Uint8Array(n);
    this.stages = [...network.rails.ofStage.keys()].filter((k) =>
      hangsOn(network, network.rails.ofStage[k]!, rail),
    );
  }

  bends(): readonly number[] {
    const bends = bendsOn(this.network, this.rail);
    return this.usual > 0 ? [...bends, this.usual].sort((a, b) => a - b) : bends;
  }

  distance(entry: number, value: number): number {
    const { network, events } = this;
    const { least, most, release, lows, highs } = network.rails.bounds;
    const n = network.stages.length;
    if (entry < n || entry >= events) return NaN;
    const stage = entry < 2 * n;
    const at = stage ? entry - n : entry - 2 * n;
    const v = stage ? network.points[at]!.inputVolts : network.loadVolts[at]!;
    // A stage that is locked out waits for the volts to start again at.
    if (stage && network.held[at] === HELD.lockedOut) {
      return value === INPUT.ready ? v - release[at]! : release[at]! - v;
    }
    const low = stage ? least[at]! : lows[at]!;
    const high = stage ? most[at]! : highs[at]!;
    const within = stage ? INPUT.within : RANGE.in;
    if (value === within) return Math.min(v - low, high - v);
    return value === (stage ? INPUT.low : RANGE.low) ? low - v : v - high;
  }

  look(volts: number): void {
    this.network.settle(this.rail, volts);
    this.note();
  }

  sample(volts: number, row: Float64Array): void {
    const { network } = this;
    row[POWER] = volts * network.settle(this.rail, volts);
    this.note();
    if (!this.whole) return;
    const { points, loadVolts, loadAmps } = network;
    const n = network.stages.length;
    const l = loadVolts.length;
    let delivered = 0;
    for (let k = 0; k < l; k++) {
      const at = loadAt(n, k);
      const watts = loadVolts[k]! * loadAmps[k]!;
      row[at + LOAD_COLUMN.volts] = loadVolts[k]!;
      row[at + LOAD_COLUMN.watts] = watts;
      delivered += watts;
    }
    row[DELIVERED] = delivered;
    for (let k = 0; k < n; k++) {
      const { inputVolts, inputAmps, outputVolts, outputAmps, loss } = points[k]!;
      const at = stageAt(k);
      row[at + STAGE_COLUMN.inputVolts] = inputVolts;
      row[at + STAGE_COLUMN.inputWatts] = inputVolts * inputAmps;
      row[at + STAGE_COLUMN.outputVolts] = outputVolts;
      row[at + STAGE_COLUMN.outputAmps] = outputAmps;
      const losses = lossAt(n, l, k);
      for (let m = 0; m < MECHANISMS.length; m++) row[losses + m] = loss[m]!;
    }
  }

  /** The state that the network has settled in. */
  private note(): void {
    const { network, signature, extended, events } = this;
    const { points, held, loadVolts } = network;
    const n = network.stages.length;
    const { least, most, release, lows, highs } = network.rails.bounds;
    for (const k of this.stages) {
      const p = points[k]!;
      const vin = p.inputVolts;
      const works = held[k] === HELD.on && vin > 0;
      signature[k] = p.mode;
      signature[n + k] = !works
        ? held[k] === HELD.lockedOut && vin >= release[k]!
          ? INPUT.ready
          : INPUT.within
        : vin < least[k]!
          ? INPUT.low
          : vin > most[k]!
            ? INPUT.high
            : INPUT.within;
      signature[events + k] = p.regime;
      extended[k] = p.extended ? 1 : 0;
    }
    if (!this.whole) return;
    for (let l = 0; l < loadVolts.length; l++) {
      const v = loadVolts[l]!;
      signature[2 * n + l] = v < lows[l]! ? RANGE.low : v > highs[l]! ? RANGE.high : RANGE.in;
    }
  }
}

/** Where a load stands to its range, by a signature. */
export function rangeIn(signature: Int32Array, stages: number, load: number): number {
  return signature[2 * stages + load]!;
}

/** Where a working stage's input stands to its limits; `ready`: of one that is locked out, enough to start again. */
const INPUT = { within: 0, low: 1, high: 2, ready: 3 } as const;

/** Whether one rail is another, or is fed by it. */
function hangsOn(network: Network, rail: number, other: number): boolean {
  for (let at = rail; ; at = network.rails.ofStage[at - 1]!) {
    if (at === other) return true;
    if (at === 0) return false;
  }
}
