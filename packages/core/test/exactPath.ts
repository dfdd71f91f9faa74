import type { ThreadDocument } from '../src/model/thread.ts';
import type { Sampled } from '../src/plant/sampled.ts';
import { compile, type Plant } from '../src/plant/compile.ts';
import { Path, type Kept } from '../src/plant/path.ts';

/** A path's demand asked anew each time: no table, no interpolation. */
class Exact implements Kept {
  amps = NaN;
  slope = NaN;
  event = -1;
  readonly piece = undefined;
  counts = { pieces: 0, exact: 0, samples: 0 };
  private readonly row: Float64Array;
  private readonly states = new Map<string, number>();

  constructor(private readonly of: Sampled) {
    this.row = new Float64Array(of.columns);
  }

  get signature() {
    return this.of.signature;
  }

  get extended() {
    return this.of.extended;
  }

  evaluate(volts: number): void {
    const beside = this.demand(volts * (1 - 1e-6));
    this.amps = this.demand(volts);
    this.slope = (this.amps - beside) / (volts * 1e-6);
    this.note();
  }

  read(volts: number, into: Float64Array): void {
    this.readExactly(volts, into);
  }

  readExactly(volts: number, into: Float64Array): void {
    this.of.sample(volts, into);
    this.note();
  }

  onTheWay(_: number, to: number): number {
    return to;
  }

  demand(volts: number): number {
    return this.leading(0, volts) / volts;
  }

  leading(column: number, volts: number): number {
    this.of.sample(volts, this.row);
    return this.row[column]!;
  }

  private note(): void {
    const name = this.of.signature.subarray(0, this.of.events).join();
    if (!this.states.has(name)) this.states.set(name, this.states.size);
    this.event = this.states.get(name)!;
  }
}

/** A thread compiled with nothing tabulated: the reference for whatever the tables might change. */
export function exactPlant(doc: ThreadDocument): Plant {
  const plant = compile(doc);
  const path = new Path(doc.stages, doc.loads, plant.conditions.air, 0, (of) => new Exact(of));
  return { ...plant, path };
}
