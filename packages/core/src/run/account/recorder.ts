import { CHARGE_COLUMN, chargerAt, limitIn } from '../../plant/chargerLayout.ts';
import type { Plant } from '../../plant/compile.ts';
import { POWER, stageAt } from '../../plant/layout.ts';
import { CHARGE_ROW, rowStride, type Series } from './series.ts';
import { cellAmps, cellVolts, pathAmps } from '../step/state.ts';
import type { Step } from '../step/step.ts';

/** An instant to be kept but for its time: state of charge, [V] [A] solved there, [V] OCV of one cell. */
interface Instant {
  /** state of charge, [V] [A] of one cell where the path begins, [V] */
  soc: number;
  volts: number;
  amps: number;
  ocv: number;
}

/** Share of its room that rows must fill to be handed over as they are. */
const FULL = 0.8;
/** Rows besides those asked for: ends of steps, and what stands by itself. */
const BESIDES = 160;

// Few rows are collected here, one run at a time, so that runs by the thousand leave nothing to clear away.
let room = new Float64Array(8192);

/** Collects rows: the ends of steps, and as many between as asked for. */
export class Recorder {
  private data: Float64Array;
  private count = 0;
  private readonly stride: number;
  private readonly stages: number;
  private readonly loads: number;
  private readonly charged: boolean;

  /** @param perCharge rows for a whole charge; 0: the ends of the steps alone */
  constructor(
    private readonly plant: Plant,
    private readonly perCharge: number,
  ) {
    this.stages = plant.path.stages.length;
    this.loads = plant.path.loads.length;
    this.charged = plant.charger !== undefined;
    this.stride = rowStride({ stages: this.stages, loads: this.loads, charger: this.charged });
    this.data = perCharge > 0 ? new Float64Array((perCharge + BESIDES) * this.stride) : room;
  }

  /** Keep an instant that stands by itself. */
  keep(time: number, { soc, volts, amps, ocv }: Instant): void {
    this.ensure(1);
    this.write(time, soc, volts, amps, ocv);
  }

  /**
   * Keep the end of a step and the rows between, evenly by time: volts and charge by the
   * step's own course, everything else as the path stands at those volts. The path is left read at the end.
   */
  keepStep(step: Step, from: { time: number; soc: number }): void {
    const { path } = this.plant;
    const { end, h } = step;
    const rows =
      this.perCharge > 0 ? Math.max(1, Math.round(Math.abs(from.soc - end.soc) * this.perCharge)) : 1;
    this.ensure(rows);
    if (rows > 1) this.keepWithin(step, from, rows);
    path.read(end.volts);
    this.write(from.time + h, end.soc, end.volts, end.amps, end.ocv);
  }

  /** The rows between. */
  private keepWithin(step: Step, from: { time: number }, rows: number): void {
    const { pack, path } = this.plant;
    // Asked once: this loop is most of what rows cost.
    const along = step.dense;
    const perRow = step.h / rows;
    for (let r = 1; r < rows; r++) {
      const x = r / rows;
      const volts = along.volts.at(x);
      const soc = along.soc.at(x);
      path.read(volts);
      const amps = cellAmps(pack, path.columns[POWER]! / volts);
      this.write(from.time + r * perRow, soc, volts, amps, pack.cell.ocv(soc));
    }
  }

  finish(): Series {
    const { stages, loads, count } = this;
    const used = count * this.stride;
    // Many rows are handed over with the little room that is left, rather than copied.
    const own = this.data !== room && used > FULL * this.data.length;
    const data = own ? this.data.subarray(0, used) : this.data.slice(0, used);
    return { count, stages, loads, ...(this.charged ? { charger: true } : {}), data };
  }

  private ensure(rows: number): void {
    const need = (this.count + rows) * this.stride;
    if (need <= this.data.length) return;
    const larger = new Float64Array(2 * need);
    larger.set(this.data);
    if (this.data === room) room = larger;
    this.data = larger;
  }

  /**
   * Write the next row, of an instant that the path is read at. Its values one after the other, as `ROW`, `STAGE_ROW`
   * and `LOAD_ROW` have them: asking those for each place took a third of the time.
   */
  private write(time: number, soc: number, volts: number, amps: number, ocv: number): void {
    const { plant, stages, loads, data } = this;
    const { pack, path } = plant;
    const { columns, signature } = path;
    let to = this.count++ * this.stride;
    data[to] = time;
    // What it holds past full is next to nothing; a march ends a hair below empty.
    data[to + 1] = Math.min(1, soc);
    data[to + 2] = cellVolts(pack, volts, amps);
    data[to + 3] = ocv;
    data[to + 4] = amps;
    data[to + 5] = volts;
    data[to + 6] = pathAmps(pack, amps);
    to += 7;
    let from = stageAt(0);
    for (let k = 0; k < stages; k++) {
      const vin = columns[from]!;
      data[to] = vin;
      data[to + 1] = vin > 0 ? columns[from + 1]! / vin : 0;
      data[to + 2] = columns[from + 2]!;
      data[to + 3] = columns[from + 3]!;
      data[to + 4] = signature[k]!;
      to += 5;
      from += 4;
    }
    for (let l = 0; l < loads; l++) {
      const v = columns[from]!;
      data[to] = v;
      data[to + 1] = v > 0 ? columns[from + 1]! / v : 0;
      to += 2;
      from += 2;
    }
    if (!this.charged) return;
    from = chargerAt(stages, loads);
    for (let k = 0; k < CHARGE_ROW.heat; k++) data[to + k] = columns[from + k]!;
    data[to + CHARGE_ROW.heat] = columns[from + CHARGE_COLUMN.heat]!;
    data[to + CHARGE_ROW.limit] = limitIn(signature, stages, loads);
  }
}
