import { highestAllowed } from '../stages/highestVoltage.ts';

/** [Ω] least of a way into a rail: an ideal switch is followed as one so stiff. */
const STIFF = 1e-3;

/** A way into a rail: it conducts above its drop. [V] [Ω] */
export interface Way {
  /** [V] [Ω] lost on it */
  volts: number;
  ohms: number;
}

/** Where and how an adapter and the battery meet. */
export interface Joined {
  /** the rail: the pack or a stage's id */
  at: string;
  adapter: Way;
  battery: Way;
  /** whether the adapter gives nothing at all where it is asked for all it may give */
  letsGo: boolean;
}

/** Who carries a rail. */
export const CARRIES = { battery: 0, both: 1, adapter: 2, nobody: 3 } as const;

/**
 * A rail on which an adapter and the battery meet, each through its own way. Kirchhoff at the node: what both give at the
 * rail's volts is what is drawn there; the highest such volts. The adapter gives so much at most; one that lets go when it is
 * asked for that gives nothing, and tries again for as long as that is so.
 */
export class Joint {
  /** [V] of the adapter's end and [A] it may give; nothing without mains */
  adapterVolts = 0;
  most = 0;
  /** [A] from the adapter and from the battery's side, [V] of the rail, and who carries; of the point found last */
  amps = 0;
  battery = 0;
  volts = 0;
  carries: number = CARRIES.nobody;
  /** whether the adapter gives all it may */
  full = false;
  private readonly adapterWay: Way;
  private readonly batteryWay: Way;

  constructor(
    readonly rail: number,
    adapter: Way,
    battery: Way,
    private readonly letsGo = false,
  ) {
    this.adapterWay = { volts: adapter.volts, ohms: Math.max(adapter.ohms, STIFF) };
    this.batteryWay = { volts: battery.volts, ohms: Math.max(battery.ohms, STIFF) };
  }

  /**
   * Find the rail's volts where the battery's side stands at `own` volts, 0 for none.
   * @param drawn [A] at volts of the rail @returns [A] from the battery's side
   */
  solve(own: number, drawn: (volts: number) => number): number {
    const battery = this.meet(own, drawn, this.most);
    if (!this.letsGo || !this.full) return battery;
    this.meet(own, drawn, 0);
    this.full = true;
    return this.battery;
  }

  private meet(own: number, drawn: (volts: number) => number, most: number): number {
    const { adapterVolts, adapterWay: a, batteryWay: b } = this;
    const fromAdapter = (v: number) => Math.min(most, Math.max(0, (adapterVolts - a.volts - v) / a.ohms));
    const fromBattery = (v: number) => Math.max(0, (own - b.volts - v) / b.ohms);
    const top = Math.max(most > 0 ? adapterVolts - a.volts : 0, own - b.volts);
    const rest = top > 0 ? drawn(top) : 0;
    // Nothing drawn: it stands as high as the higher of both.
    const volts =
      top > 0 && rest > 0 ? highestAllowed((v) => fromAdapter(v) + fromBattery(v) - drawn(v), top) : top;
    if (!(volts > 0)) {
      this.amps = this.battery = this.volts = 0;
      this.full = false;
      this.carries = CARRIES.nobody;
      return 0;
    }
    this.volts = volts;
    this.battery = fromBattery(volts);
    const given = fromAdapter(volts);
    this.full = most > 0 && given >= most;
    // What comes from the adapter is what is not carried by the battery: the two ways meet to rounding only.
    this.amps = given > 0 ? Math.max(0, drawn(volts) - this.battery) : 0;
    this.carries = given > 0 ? (this.battery > 0 ? CARRIES.both : CARRIES.adapter) : CARRIES.battery;
    return this.battery;
  }
}
