import type { Plant } from '../../plant/compile.ts';
import { C1, D } from '../step/gauss.ts';
import { deliveredAt } from '../step/node.ts';
import { fullerAt, pathAmps, type CellState } from '../step/state.ts';
import type { Step } from '../step/step.ts';

/** Share of the charge against which it is measured at least how much fuller odd cells are. */
const LEAST_HELD = 0.01;
/** Share of what a charger is set to below which a current counts as none. */
const NOTHING = 0.02;

/** Bounds on how far a step may bend: second and third differences of volts and amps over it, relative. */
export interface Bounds {
  bend: number;
  twist: number;
}

/** How much the step solved last bends: what says how long the next may be. */
export class Strain {
  /** [W] to the loads at the present instant */
  private delivered = 0;
  private bend = 0;
  private twist = 0;

  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
    private readonly step: Step,
    private readonly bounds: Bounds,
  ) {}

  /** Take up the present instant, which the path is at. */
  take(): void {
    this.delivered = this.plant.path.delivered(this.state.volts);
  }

  /** How much the next step may grow; well below 1 this one was too long. */
  growth(): number {
    const { step, plant, bounds } = this;
    const [a, b] = step.nodes;
    const { end } = step;
    this.bend = this.twist = 0;
    // While a charger is on the same rail, what it gives may be all that is drawn: next to it, that is nothing.
    const { charger, pack, path } = plant;
    const floor = charger ? (NOTHING * charger.amps) / pack.parallel : 0;
    this.note(step.startAmps, a.amps, b.amps, end.amps, Math.max(Math.abs(a.amps), floor));
    this.note(step.startVolts, a.volts, b.volts, end.volts, a.volts);
    // What reaches the loads may bend where what is drawn does not: behind a limit.
    this.note(
      this.delivered,
      deliveredAt(a, plant),
      deliveredAt(b, plant),
      path.delivered(end.volts),
      charger ? charger.scale : end.volts * pathAmps(pack, end.amps),
    );
    const { fuller } = step;
    if (fuller) {
      const k = fullerAt(pack);
      this.note(
        this.state.slow[k]!,
        fuller.first,
        fuller.second,
        end.slow[k]!,
        Math.min(1, Math.max(LEAST_HELD, this.state.soc)),
      );
    }
    const worst = Math.max(Math.sqrt(this.bend / bounds.bend), Math.cbrt(this.twist / bounds.twist));
    return 0.9 / Math.max(worst, 0.1);
  }

  /** Note how far four values over a step are from a straight line and from a parabola, as shares of `scale`. */
  private note(y0: number, y1: number, y2: number, y3: number, scale: number): void {
    const slope = (y2 - y1) / D;
    const atEnd = y3 - (y1 + slope * (1 - C1));
    const atStart = y0 - (y1 - slope * C1);
    const bent = Math.max(Math.abs(atEnd), Math.abs(atStart));
    // What is nothing at all stands still, however little it is measured against.
    if (!(bent > 0)) return;
    const per = 1 / Math.abs(scale);
    this.bend = Math.max(this.bend, bent * per);
    this.twist = Math.max(this.twist, Math.abs(atEnd - atStart) * per);
  }
}
