import type { Plant } from '../plant/compile.ts';
import { loadAt, LOAD_COLUMN, POWER, STAGE_COLUMN, stageAt } from '../plant/layout.ts';
import { loadColumn, ROW, rowStride, stageColumn, type Series } from './series.ts';
import { cellVolts, pathAmps } from './state.ts';
import type { Step } from './step.ts';

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

  /** @param perCharge rows for a whole charge; 0: the ends of the steps alone */
  constructor(
    private readonly plant: Plant,
    private readonly perCharge: number,
  ) {
    this.stages = plant.path.stages.length;
    this.loads = plant.path.loads.length;
    this.stride = rowStride(this.stages, this.loads);
    this.data = new Float64Array((perCharge > 0 ? Math.ceil(1.05 * perCharge) + 160 : 192) * this.stride);
  }

  /** Keep an instant that stands by itself. */
  keep(time: number, at: Instant): void {
    this.room(1);
    this.write(this.count++, time, at);
  }

  /**
   * Keep the end of a step and the rows between, evenly by time: volts and charge by the
   * step's own course, everything else as the path stands at those volts. The path is left read at the end.
   */
  keepStep(step: Step, from: { time: number; soc: number }): void {
    const { pack, path } = this.plant;
    const { end, h } = step;
    const rows = this.perCharge > 0 ? Math.max(1, Math.round((from.soc - end.soc) * this.perCharge)) : 1;
    this.room(rows);
    for (let r = 1; r < rows; r++) {
      const x = r / rows;
      const volts = step.voltsAt(x);
      const soc = step.socAt(x);
      path.read(volts);
      const amps = (path.columns[POWER]! / volts + pack.quiescent) / pack.parallel;
      this.write(this.count++, from.time + x * h, { soc, volts, amps, ocv: pack.cell.ocv(soc) });
    }
    path.read(end.volts);
    this.write(this.count++, from.time + h, end);
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

  /** Write a row of an instant that the path is read at. */
  private write(row: number, time: number, { soc, volts, amps, ocv }: Instant): void {
    const { plant, data } = this;
    const { path } = plant;
    const { columns } = path;
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
}
