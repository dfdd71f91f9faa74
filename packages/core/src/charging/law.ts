import type { Charging } from '../model/charging.ts';
import { brent } from '../numeric/root.ts';
import { highestVoltage } from '../stages/highestVoltage.ts';
import type { Law } from '../stages/laws/law.ts';
import { SeriesLaw } from '../stages/laws/series.ts';
import { limitsOf } from '../stages/limits.ts';
import { MODE } from '../stages/modes.ts';
import { QUIESCENT } from '../stages/point.ts';
import { compileStage, ownDraw, passesInput } from '../stages/traits.ts';
import { ChargePoint, diodeDrop, type FromSource } from './point.ts';
import { LIMIT } from './limits.ts';
import { cableOhms, sourceLaw, wallWatts } from './source.ts';
import type { SourceLaw } from './sources/kind.ts';

/** Share of its volts over which a charger's output goes from all to none: how stiff it holds them. */
const KNEE = 1e-5;

/** Share of a source's limit below which what a charger leaves of it is nothing. */
const LEFT = 1e-9;

/** Secants before the whole range is searched; and the slope of what is left over less what is there, flatter than which the nose is near. */
const SECANTS = 8;
const STEEP = -0.3;

/** Relative distance from the most a source gives at which a charger works there. */
const HAIR = 1e-6;

/** Slack where no input is enough: below any that is. */
const HOPELESS = -1e9;

/** What a charger is told by whoever minds it: the current it is set to at present, that it is off, or without mains. */
export interface Setting {
  on: boolean;
  /** absent: there is mains */
  mains?: boolean;
  /** [A] */
  amps: number;
}

/**
 * A charger behind its source and cable, as what it gives at a voltage of the pack: the largest output current at which
 * nothing is beyond its limit. Every limit falls as the current rises, so there is one.
 *
 * Limits: the current set, sensed at the output or at the input; the volts set, less a diode behind it; what is left of
 * headroom or duty; its own input, output and heat; the source's current; input volts that it keeps up. Kirchhoff and the
 * losses of the stage it is made of.
 */
export class ChargerLaw {
  readonly source: SourceLaw;
  /** times it has been looked at where its input stands */
  asks = 0;
  /** [Ω] of cable and contacts */
  readonly wire: number;
  /** [V] it charges to; Infinity where it holds nothing back */
  readonly set: number;
  /** [V] highest the pack's end can be lifted to */
  readonly ceiling: number;
  private readonly law: Law;
  /** the way past it that nothing can close, where there is one */
  private readonly through: SeriesLaw | undefined;
  private readonly quiescent: number;
  private readonly mostHeat: number;
  private readonly output: number;
  private readonly minInput: number;
  private readonly inputLimit: number;
  private readonly inputVolts: number;
  private readonly senseInput: boolean;
  private readonly diodeVolts: number;
  private readonly diodeOhms: number;
  /** [Ω] by which held volts fall */
  private readonly knee: number;
  private readonly most: number;
  /** [A] that others take from the same source at present */
  others = 0;
  // Of the question being answered.
  private volts = 0;
  private amps = 0;
  private load: FromSource | undefined;
  private now: Law;
  private free = false;
  private binding = 0;
  /** [V] at the input of the point found last */
  private near = NaN;
  /** [A] out and [V] it stands at, of the question about the input */
  private asked = 0;
  private askedVolts = 0;
  private least = 0;
  // What the searches are given: one of each, not one a call.
  private readonly slackAt = (amps: number) => this.slack(amps);
  private readonly leftAt = (volts: number) => this.left(volts);

  /** @param air [°C] around the charger */
  constructor(charging: Charging, air: number) {
    const { stage, control, diode } = charging;
    const compiled = compileStage(stage, air);
    this.source = sourceLaw(charging.source);
    this.law = this.now = compiled.law;
    this.mostHeat = compiled.mostHeat;
    this.quiescent = ownDraw(stage);
    const limits = limitsOf(stage);
    this.output = limits.output;
    this.minInput = limits.minInput;
    this.inputLimit = control?.inputLimit ?? Infinity;
    this.inputVolts = control?.inputVolts ?? 0;
    this.senseInput = control?.sense === 'input';
    const drop = diodeDrop(diode);
    this.diodeVolts = drop.volts;
    this.diodeOhms = drop.ohms;
    const { open } = this.source;
    this.most = this.source.most;
    this.set = control && 'outputVolts' in stage ? stage.outputVolts : Infinity;
    const top = Math.min(this.set, open);
    const stiff = (KNEE * top) / (control?.current ?? this.most);
    this.knee = this.set < Infinity ? stiff : 0;
    // Without control the volts are the source's own, which must not be stiffer than what can be followed.
    this.wire = this.set < Infinity ? cableOhms(charging) : Math.max(cableOhms(charging), stiff);
    const way = passesInput(stage);
    if (way && this.set < Infinity) {
      this.through = new SeriesLaw(way.volts, way.resistance, this.quiescent, MODE.passThrough, false);
    }
    const passes = way ? open - way.volts : -Infinity;
    this.ceiling = (this.set < Infinity ? Math.max(this.set, passes) : open) - this.diodeVolts;
  }

  /**
   * [V] between which it gives all or nothing while its volts are held: where searches must look in between.
   * @param setting what it is set to
   */
  kneeOf(setting: Setting): { lo: number; hi: number } | undefined {
    if (!setting.on) return undefined;
    const hi = this.ceiling;
    const out = new ChargePoint();
    // Just below, whatever limits it otherwise.
    this.solve(hi * (1 - 1e-3), setting, undefined, out);
    if (!(out.outAmps > 0)) return undefined;
    const ohms = this.diodeOhms + (this.set < Infinity ? this.knee : this.wire + this.source.droop);
    return { lo: hi - ohms * out.outAmps, hi };
  }

  /**
   * What it gives at `volts` of the pack.
   * @param load what the loads draw from the source at its end of the cable, where they are fed from there
   */
  solve(volts: number, setting: Setting, load: FromSource | undefined, out: ChargePoint): void {
    this.volts = volts;
    this.load = load;
    this.amps = setting.amps;
    if (setting.mains === false) return this.dark(out);
    if (!setting.on) return this.finish(0, LIMIT.off, this.law, out, false);
    const { limit, amps } = this.largest(this.law, false);
    if (this.through) {
      const past = this.largest(this.through, true);
      if (past.amps > amps) return this.finish(past.amps, LIMIT.through, this.through, out, true);
    }
    if (limit === LIMIT.source && this.source.beyond === 'hiccup') {
      return this.finish(0, LIMIT.letsGo, this.law, out, false);
    }
    const held = this.set === Infinity && limit === LIMIT.headroom ? LIMIT.through : limit;
    this.finish(amps, held, this.law, out, true);
  }

  /** @param free whether nothing but the source holds it back */
  private largest(law: Law, free: boolean): { amps: number; limit: number } {
    this.now = law;
    this.free = free;
    const { volts, diodeVolts, diodeOhms, most, source } = this;
    let top = (most * source.open) / volts;
    let limit: number = LIMIT.source;
    if (!free) {
      const held = this.set < Infinity ? (this.set - diodeVolts - volts) / (diodeOhms + this.knee) : Infinity;
      if (!this.senseInput && this.amps < top) [top, limit] = [this.amps, LIMIT.current];
      if (this.output < top) [top, limit] = [this.output, LIMIT.output];
      if (held < top) [top, limit] = [held, LIMIT.volts];
    }
    if (!(top > 0)) return { amps: 0, limit: LIMIT.full };
    if (this.slack(top) >= 0) return { amps: top, limit };
    if (this.slack(0) < 0) return { amps: 0, limit: this.binding };
    // Where the headroom or the source ends is sought to the last digits: what follows is tabulated to 1e-10.
    const edge = brent(this.slackAt, 0, top, 1e-15 * top).x;
    // Where the source gives no more power at any volts, these are found to half the digits: a hair below they are not.
    const nose = this.slack(edge * (1 + HAIR)) === HOPELESS;
    const amps = nose ? edge * (1 - HAIR) : edge;
    this.slack(amps);
    if (nose) return { amps, limit: LIMIT.source };
    return { amps, limit: this.binding };
  }

  /** The least room to any limit at an output current, negative beyond; says which. */
  private slack(amps: number): number {
    const { now: law, source, free } = this;
    const vout = this.volts + this.diodeVolts + this.diodeOhms * amps;
    const vin = this.inputAt(amps, vout);
    if (!(vin > 0)) {
      this.binding = LIMIT.source;
      return HOPELESS;
    }
    const p = law.at(vin, vout, amps);
    if (p.inputAmps === Infinity) {
      this.binding = LIMIT.source;
      return HOPELESS;
    }
    // One look after the other rather than a list: this is asked a hundred times for each row.
    this.binding = LIMIT.headroom;
    this.least = law.ceiling(vin, amps) - vout;
    if (source.beyond !== 'soft') {
      const others = this.load?.first ? this.load.amps(vin, source.limit) : 0;
      const left = source.limit - this.others - p.inputAmps - others;
      this.look(left, others > 0 ? LIMIT.load : LIMIT.source);
    }
    if (!free) {
      this.look(p.room, LIMIT.ownInput);
      this.look(this.inputLimit - p.inputAmps, LIMIT.ownInput);
      if (this.senseInput) this.look(this.amps - p.inputAmps, LIMIT.current);
      if (this.inputVolts > 0) this.look(vin - this.inputVolts, LIMIT.inputVolts);
      this.look(vin - this.minInput, LIMIT.lockOut);
      this.look(this.mostHeat - p.heat, LIMIT.heat);
    }
    return this.least;
  }

  private look(room: number, limit: number): void {
    if (room >= this.least) return;
    this.least = room;
    this.binding = limit;
  }

  /** [V] at its input when it gives `amps` at `vout`; NaN where the source cannot. */
  private inputAt(amps: number, vout: number): number {
    const { now: law, source, wire, load } = this;
    const ohms = source.droop + wire;
    if (ohms === 0 && source.straight) return source.open;
    if (!load && source.straight && law instanceof SeriesLaw)
      return this.open - ohms * law.at(1, vout, amps).inputAmps;
    this.asked = amps;
    this.askedVolts = vout;
    return (this.near = this.beside() ?? highestVoltage(this.leftAt, source.open));
  }

  /** [V] that the source gives past its cable where the input stands at `volts`, as it is asked. */
  private left(volts: number): number {
    const { source } = this;
    this.asks++;
    const own = this.now.at(volts, this.askedVolts, this.asked).inputAmps;
    if (own === Infinity) return 0;
    const total = own + this.besides(volts, own);
    return source.volts(total + this.others) - this.wire * total;
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

  /** [A] of the loads from the source while the charger takes `own`. */
  private besides(volts: number, own: number): number {
    const { load, source } = this;
    if (!load) return 0;
    const limit = source.beyond === 'soft' ? Infinity : source.limit;
    const left = limit - own;
    // What rounding leaves is nothing: who carries must not flicker.
    return load.amps(volts, load.first ? limit : left > LEFT * limit ? left : 0);
  }

  /** Without mains nothing comes from anywhere. */
  private dark(out: ChargePoint): void {
    this.load?.amps(0, 0);
    out.clear(LIMIT.off, 0);
    out.outVolts = this.volts;
    out.outAmps = out.inVolts = out.inAmps = out.loadAmps = 0;
    out.sourceVolts = out.sourceAmps = out.supplied = 0;
    out.wallLoss = out.droopLoss = out.cableLoss = out.diodeLoss = out.heat = 0;
  }

  private finish(amps: number, limit: number, law: Law, out: ChargePoint, works: boolean): void {
    const { source, wire, volts, diodeVolts, diodeOhms } = this;
    this.now = law;
    const vout = volts + (amps > 0 ? diodeVolts + diodeOhms * amps : 0);
    let vin = this.inputAt(works ? amps : 0, vout);
    if (!(vin > 0)) vin = 0;
    const p = law.at(vin > 0 ? vin : 1e-3, vout, amps);
    // Off, it draws what it draws by itself.
    const own = !works || amps === 0;
    const inAmps = vin > 0 ? (own ? this.quiescent : p.inputAmps) : 0;
    const loadAmps = this.besides(vin, inAmps);
    const total = inAmps + loadAmps;
    const terminals = vin + wire * total;
    out.clear(limit, 2 * p.regime + source.stretch(total + this.others));
    out.outVolts = vout;
    out.outAmps = amps;
    out.inVolts = vin;
    out.inAmps = inAmps;
    out.loadAmps = loadAmps;
    out.sourceVolts = terminals;
    out.sourceAmps = total;
    // What it droops by is lost within it: part of what is said of the wall, else counted by itself.
    const given = terminals * total;
    out.supplied = source.wall ? wallWatts(source.wall, given) : source.open * total;
    out.wallLoss = source.wall ? out.supplied - given : 0;
    out.droopLoss = source.wall ? 0 : out.supplied - given;
    out.cableLoss = wire * total * total;
    out.diodeLoss = (vout - volts) * amps;
    if (own) out.loss[QUIESCENT] = vin * inAmps;
    else law.book(p, out.loss);
    out.heat = vin * inAmps - vout * amps;
    if (!own) out.heat = p.heat;
    out.extended = amps > 0 && law.outside(vin, amps);
  }
}
