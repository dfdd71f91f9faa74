import type { CellState } from './cellState.ts';
import { loadColumn, ROW, rowStride, stageColumn, type Series } from './series.ts';

/** Collects rows; grows by doubling. */
export class Recorder {
  private data: Float64Array;
  private count = 0;
  private readonly stride: number;
  private readonly stages: number;
  private readonly loads: number;

  /** @param rows expected; more are taken all the same */
  constructor(
    private readonly state: CellState,
    rows: number,
  ) {
    this.stages = state.tree.stages.length;
    this.loads = state.tree.loads.length;
    this.stride = rowStride(this.stages, this.loads);
    this.data = new Float64Array(Math.max(1, rows) * this.stride);
  }

  /** Keep the present instant. @param time [s] */
  keep(time: number): void {
    const at = this.count * this.stride;
    if (at + this.stride > this.data.length) {
      const larger = new Float64Array(this.data.length * 2);
      larger.set(this.data);
      this.data = larger;
    }
    const { data, state } = this;
    const { tree } = state;
    data[at + ROW.time] = time;
    data[at + ROW.soc] = state.soc;
    data[at + ROW.cellVolts] = state.cellVolts();
    data[at + ROW.restVolts] = state.source.ocv.at(state.soc);
    data[at + ROW.cellAmps] = state.cellAmps;
    data[at + ROW.packVolts] = state.volts;
    data[at + ROW.packAmps] = state.packAmps();
    let c = at + stageColumn(0);
    for (const p of tree.points) {
      data[c++] = p.inputVolts;
      data[c++] = p.inputAmps;
      data[c++] = p.outputVolts;
      data[c++] = p.outputAmps;
      data[c++] = p.mode;
    }
    c = at + loadColumn(this.stages, 0);
    for (let l = 0; l < this.loads; l++) {
      data[c++] = tree.loadVolts[l]!;
      data[c++] = tree.loadAmps[l]!;
    }
    this.count++;
  }

  finish(): Series {
    const data = this.data.slice(0, this.count * this.stride);
    return { count: this.count, stages: this.stages, loads: this.loads, data };
  }
}
