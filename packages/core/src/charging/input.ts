import { highestVoltage } from '../stages/highestVoltage.ts';
import type { Law } from '../stages/laws/law.ts';
import { SeriesLaw } from '../stages/laws/series.ts';
import type { FromSource } from './point.ts';
import type { SourceLaw } from './sources/kind.ts';

/** Share of a source's limit below which what a charger leaves of it is nothing. */
const LEFT = 1e-9;

/** Secants before the whole range is searched; and the slope of what is left over less what is there, flatter than which the nose is near. */
const SECANTS = 8;
const STEEP = -0.3;

/** A charger's input: where it stands behind source and cable, with whatever else draws from the source. */
export class ChargerInput {
  /** times the charger has been looked at where its input stands */
  asks = 0;
  /** [A] that others take from the same source at present */
  others = 0;
  /** what draws besides the charger at this end of the cable, in the question being answered */
  load: FromSource | undefined;
  /** [V] at the input found last */
  private near = NaN;
  // Of the question about the input.
  private law!: Law;
  private asked = 0;
  private askedVolts = 0;
  // What the search is given: one, not one a call.
  private readonly leftAt = (volts: number) => this.left(volts);

  /** @param wire [Ω] of cable and contacts @param diode [V] [Ω] of a diode before the charger */
  constructor(
    private readonly source: SourceLaw,
    private readonly wire: number,
    private readonly diode: { volts: number; ohms: number },
  ) {}

  /** [V] where the cable ends while the input stands at `volts` and takes `own` [A]. */
  node(volts: number, own: number): number {
    return volts + this.diode.volts + this.diode.ohms * own;
  }

  /** [V] it stands at when the charger gives `amps` at `vout` by a law; NaN where the source cannot. */
  at(law: Law, amps: number, vout: number): number {
    const { source, wire, load, diode } = this;
    const ohms = source.droop + wire + diode.ohms;
    if (ohms === 0 && source.straight) return source.open - diode.volts;
    if (!load && source.straight && law instanceof SeriesLaw)
      return this.open - diode.volts - ohms * law.at(1, vout, amps).inputAmps;
    this.law = law;
    this.asked = amps;
    this.askedVolts = vout;
    return (this.near = this.beside() ?? highestVoltage(this.leftAt, source.open));
  }

  /** [V] that the source gives past its cable and a diode where the input stands at `volts`, as it is asked. */
  private left(volts: number): number {
    const { source } = this;
    this.asks++;
    const own = this.law.at(volts, this.askedVolts, this.asked).inputAmps;
    if (own === Infinity) return 0;
    const total = own + this.besides(volts, own);
    return source.volts(total + this.others) - this.wire * total - this.node(0, own);
  }

  /** [V] of the source before anything of this charger: what others take has drooped it. */
  private get open(): number {
    return this.source.volts(this.others);
  }

  /** [V] the same by secants from where it stood last; undefined where that is not clearly the upper branch. */
  private beside(): number | undefined {
    const small = 1e-13 * this.source.open;
    let x0 = this.near;
    if (!(x0 > 0)) return undefined;
    let f0 = this.left(x0) - x0;
    let x1 = x0 + f0;
    for (let n = 0; n < SECANTS; n++) {
      if (Math.abs(f0) <= small) return x0;
      if (!(x1 > 0)) return undefined;
      const f1 = this.left(x1) - x1;
      const slope = (f1 - f0) / (x1 - x0);
      if (!(slope < STEEP)) return undefined;
      x0 = x1;
      f0 = f1;
      x1 -= f1 / slope;
    }
    return undefined;
  }

  /** [A] of the loads from the source while the charger takes `own` [A] at `volts` of its input. */
  besides(volts: number, own: number): number {
    const { load, source } = this;
    if (!load) return 0;
    const limit = source.beyond === 'soft' ? Infinity : source.limit;
    const left = limit - own;
    // What rounding leaves is nothing: who carries must not flicker.
    return load.amps(this.node(volts, own), load.first ? limit : left > LEFT * limit ? left : 0);
  }
}
