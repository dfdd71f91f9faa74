import type { Plant } from '../plant/compile.ts';
import { loadAt, LOAD_COLUMN, STAGE_COLUMN, stageAt } from '../plant/layout.ts';
import { loadColumn, ROW, rowStride, stageColumn, STAGE_ROW, type Series } from './series.ts';
import { cellVolts, pathAmps } from './state.ts';
import { C1, C2, type Step } from './step.ts';

/** An instant to be kept but for its time: state of charge, [V] [A] solved there, [V] OCV of one cell. */
interface Instant {
  soc: number;
  volts: number;
  amps: number;
  ocv: number;
}

/** Collects rows: the ends of steps, and as many between as asked for. */
export class Recorder {
  private data: Float64Array;
  private count = 0;
  private readonly stride: number;
  private readonly stages: number;
  private readonly loads: number;
  /** rows of a step's two nodes, for what lies between */
  private readonly nodes: Float64Array;

  /** @param perCharge rows for a whole charge; 0: the ends of the steps alone */
  constructor(
    private readonly plant: Plant,
    private readonly perCharge: number,
  ) {
    this.stages = plant.path.stages.length;
    this.loads = plant.path.loads.length;
    this.stride = rowStride(this.stages, this.loads);
    this.nodes = new Float64Array(2 * this.stride);
    this.data = new Float64Array((perCharge > 0 ? Math.ceil(1.05 * perCharge) + 160 : 192) * this.stride);
  }

  /** Keep an instant that stands by itself. */
  keep(time: number, at: Instant): void {
    this.room(1);
    this.write(this.data, this.count++, time, at, this.plant.path.columns);
  }

  /** Note a node of the step under way; needed where rows between are wanted. */
  note(node: number, at: Instant & { columns: Float64Array }): void {
    if (this.perCharge > 0) this.write(this.nodes, node, 0, at, at.columns);
  }

  /** Keep the end of a step, with the path read there, and the rows between. */
  keepStep(step: Step, from: { time: number; soc: number }): void {
    const { end, h } = step;
    const between = this.perCharge > 0 ? Math.round((from.soc - end.soc) * this.perCharge) : 1;
    const rows = Math.max(1, between);
    this.room(rows);
    const first = this.count;
    this.write(this.data, first + rows - 1, from.time + h, end, this.plant.path.columns);
    if (rows > 1 && first > 0) this.fill(first, rows, step, from);
    this.count = first + rows;
  }

  finish(): Series {
    const { stages, loads, count } = this;
    return { count, stages, loads, data: this.data.slice(0, count * this.stride) };
  }

  private room(rows: number): void {
    const need = (this.count + rows) * this.stride;
    if (need <= this.data.length) return;
    const larger = new Float64Array(Math.max(need, 2 * this.data.length));
    larger.set(this.data);
    this.data = larger;
  }

  private write(
    data: Float64Array,
    row: number,
    time: number,
    instant: Instant,
    columns: Float64Array,
  ): void {
    const { plant } = this;
    const { soc, volts, amps, ocv } = instant;
    const { path } = plant;
    const at = row * this.stride;
    data[at + ROW.time] = time;
    data[at + ROW.soc] = soc;
    data[at + ROW.cellVolts] = cellVolts(plant.pack, volts, amps);
    data[at + ROW.restVolts] = ocv;
    data[at + ROW.cellAmps] = amps;
    data[at + ROW.packVolts] = volts;
    data[at + ROW.packAmps] = pathAmps(plant.pack, amps);
    let to = at + stageColumn(0);
    for (let k = 0; k < this.stages; k++) {
      const from = stageAt(k);
      const vin = columns[from + STAGE_COLUMN.inputVolts]!;
      data[to++] = vin;
      data[to++] = vin > 0 ? columns[from + STAGE_COLUMN.inputWatts]! / vin : 0;
      data[to++] = columns[from + STAGE_COLUMN.outputVolts]!;
      data[to++] = columns[from + STAGE_COLUMN.outputAmps]!;
      data[to++] = path.modeOf(k);
    }
    to = at + loadColumn(this.stages, 0);
    for (let l = 0; l < this.loads; l++) {
      const from = loadAt(this.stages, l);
      const v = columns[from + LOAD_COLUMN.volts]!;
      data[to++] = v;
      data[to++] = v > 0 ? columns[from + LOAD_COLUMN.watts]! / v : 0;
    }
  }

  /**
   * Rows between the two ends of a step, evenly by time: every column by the cubic through its values at the start,
   * both nodes and the end, all of them solved. Column by column: most of a regulated design stand still.
   */
  private fill(first: number, rows: number, step: Step, from: { time: number; soc: number }): void {
    const { data, stride, nodes } = this;
    const start = (first - 1) * stride;
    const end = (first + rows - 1) * stride;
    const per = 1 / rows;
    for (let c = ROW.cellVolts; c < stride; c++) {
      const y0 = data[start + c]!;
      const y1 = nodes[c]!;
      const y2 = nodes[stride + c]!;
      const y3 = data[end + c]!;
      let at = first * stride + c;
      if (y0 === y3 && y1 === y3 && y2 === y3) {
        for (; at < end; at += stride) data[at] = y3;
        continue;
      }
      const d1 = (y1 - y0) / C1;
      const d2 = (y2 - y0) / C2;
      const e2 = (d2 - d1) / (C2 - C1);
      const e3 = (y3 - y0 - d1) / (1 - C1);
      const c3 = (e3 - e2) / (1 - C2);
      const c2 = e2 - c3 * (C1 + C2);
      const c1 = d1 - C1 * (c2 + c3 * C1);
      for (let x = per; at < end; at += stride, x += per) data[at] = y0 + x * (c1 + x * (c2 + x * c3));
    }
    for (let r = 1; r < rows; r++) {
      const at = (first + r - 1) * stride;
      data[at + ROW.time] = from.time + r * per * step.h;
      data[at + ROW.soc] = step.socAt(r * per);
    }
    // After an event the first row may still carry the mode before it: the step's own are those of its end.
    for (let k = 0; k < this.stages; k++) {
      const c = stageColumn(k) + STAGE_ROW.mode;
      const mode = data[end + c]!;
      for (let at = first * stride + c; at < end; at += stride) data[at] = mode;
    }
  }
}
