import type { Charging } from '../model/charging.ts';
import { brent } from '../numeric/root.ts';
import { emptyLawPoint, type Law } from '../stages/laws/law.ts';
import { SeriesLaw } from '../stages/laws/series.ts';
import { limitsOf } from '../stages/limits.ts';
import { MODE } from '../stages/modes.ts';
import { QUIESCENT } from '../stages/point.ts';
import { compileStage, ownDraw, passesInput } from '../stages/traits.ts';
import { ChargePoint, diodeDrop, type FromSource } from './point.ts';
import { ChargerInput } from './input.ts';
import { LIMIT, limiterOf, type Limiter, type Limiting, type Trial } from './limits.ts';
import { cableOhms, sourceLaw, wallWatts } from './source.ts';
import type { SourceLaw } from './sources/kind.ts';
import { setVolts } from './volts.ts';

/** Share of its volts over which a charger's output goes from all to none: how stiff it holds them. */
const KNEE = 1e-5;

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
  private readonly limiter: Limiter;
  private readonly input: ChargerInput;
  private readonly diodeVolts: number;
  private readonly diodeOhms: number;
  /** [Ω] by which held volts fall */
  private readonly knee: number;
  private readonly most: number;
  // Of the question being answered.
  private readonly trial: Trial;
  private now: Law;
  private rooms: readonly Limiting<Trial>[] = [];
  private binding = 0;
  // What the search is given: one, not one a call.
  private readonly slackAt = (amps: number) => this.slack(amps);

  /** @param air [°C] around the charger */
  constructor(charging: Charging, air: number) {
    const { stage, control, diode, inputDiode } = charging;
    const compiled = compileStage(stage, air);
    this.source = sourceLaw(charging.source);
    this.law = this.now = compiled.law;
    this.quiescent = ownDraw(stage);
    const drop = diodeDrop(diode);
    this.diodeVolts = drop.volts;
    this.diodeOhms = drop.ohms;
    const { open } = this.source;
    this.most = this.source.most;
    this.set = setVolts(charging) ?? Infinity;
    const top = Math.min(this.set, open);
    const stiff = (KNEE * top) / (control?.current ?? this.most);
    this.knee = this.set < Infinity ? stiff : 0;
    // Without control the volts are the source's own, which must not be stiffer than what can be followed.
    this.wire = this.set < Infinity ? cableOhms(charging) : Math.max(cableOhms(charging), stiff);
    const before = diodeDrop(inputDiode);
    this.input = new ChargerInput(this.source, this.wire, before);
    const limits = limitsOf(stage);
    this.limiter = limiterOf({
      source: this.source,
      output: limits.output,
      inputLimit: control?.inputLimit ?? Infinity,
      mostHeat: compiled.mostHeat,
      minInput: limits.minInput,
      inputVolts: control?.inputVolts ?? 0,
      senseInput: control?.sense === 'input',
      set: this.set,
      behind: { volts: drop.volts, ohms: drop.ohms + this.knee },
    });
    this.trial = {
      ...{ volts: 0, amps: 0, vin: 0, headroom: 0, left: Infinity, loads: 0 },
      point: emptyLawPoint(),
    };
    const way = passesInput(stage);
    if (way && this.set < Infinity) {
      this.through = new SeriesLaw(way.volts, way.resistance, this.quiescent, MODE.passThrough, false);
    }
    const most = open - before.volts;
    this.ceiling = (this.set < Infinity ? Math.max(this.set, way ? most - way.volts : 0) : most) - drop.volts;
  }

  /** How many times it has been looked at where its input stands. */
  get asks(): number {
    return this.input.asks;
  }

  /** Others take so much from the same source. [A] */
  share(amps: number): void {
    this.input.others = amps;
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
    const { trial, input } = this;
    trial.volts = volts;
    trial.amps = setting.amps;
    input.load = load;
    if (setting.mains === false) return this.dark(out);
    if (!setting.on) return this.finish(0, LIMIT.off, this.law, out, false);
    const { limit, amps } = this.largest(this.law, false);
    if (this.through) {
      const past = this.largest(this.through, true);
      // Nothing but the source holds it, whatever the control: what is more than that may give lets go.
      const lets = past.amps > 0 && past.limit === LIMIT.source && this.source.beyond === 'hiccup';
      if (lets) return this.finish(0, LIMIT.letsGo, this.law, out, false);
      if (past.amps > amps) return this.finish(past.amps, LIMIT.through, this.through, out, true);
    }
    if (limit === LIMIT.source && this.source.beyond === 'hiccup') {
      return this.finish(0, LIMIT.letsGo, this.law, out, false);
    }
    const held = this.set === Infinity && limit === LIMIT.headroom ? LIMIT.through : limit;
    this.finish(amps, held, this.law, out, true);
  }

  /** @param free whether it goes past its control: nothing but the source holds it back */
  private largest(law: Law, free: boolean): { amps: number; limit: number } {
    const { trial, most, source, limiter } = this;
    this.now = law;
    this.rooms = free ? limiter.past : limiter.rooms;
    let top = (most * source.open) / trial.volts;
    let limit: number = LIMIT.source;
    if (!free) {
      for (const row of limiter.most) {
        const allowed = row.at(trial);
        if (allowed < top) [top, limit] = [allowed, row.limit];
      }
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
    const { now: law, source, trial, input, rooms } = this;
    const vout = trial.volts + this.diodeVolts + this.diodeOhms * amps;
    const vin = input.at(law, amps, vout);
    const point = vin > 0 ? law.at(vin, vout, amps) : undefined;
    if (!point || point.inputAmps === Infinity) {
      this.binding = LIMIT.source;
      return HOPELESS;
    }
    trial.vin = vin;
    trial.point = point;
    trial.headroom = law.ceiling(vin, amps) - vout;
    if (source.beyond !== 'soft') {
      trial.loads = input.load?.first ? input.load.amps(input.node(vin, point.inputAmps), source.limit) : 0;
      trial.left = source.limit - input.others - point.inputAmps - trial.loads;
    }
    let least = Infinity;
    for (let k = 0; k < rooms.length; k++) {
      const room = rooms[k]!.at(trial);
      if (room >= least) continue;
      least = room;
      this.binding = rooms[k]!.limit;
    }
    return least;
  }

  /** Without mains nothing comes from anywhere. */
  private dark(out: ChargePoint): void {
    this.input.load?.amps(0, 0);
    out.clear(LIMIT.off, 0);
    out.outVolts = this.trial.volts;
    out.outAmps = out.nodeVolts = out.inVolts = out.inAmps = out.loadAmps = 0;
    out.sourceVolts = out.sourceAmps = out.supplied = 0;
    out.wallLoss = out.droopLoss = out.cableLoss = out.diodeLoss = out.heat = 0;
  }

  private finish(amps: number, limit: number, law: Law, out: ChargePoint, works: boolean): void {
    const { source, wire, input, diodeVolts, diodeOhms } = this;
    const { volts } = this.trial;
    const vout = volts + (amps > 0 ? diodeVolts + diodeOhms * amps : 0);
    let vin = input.at(law, works ? amps : 0, vout);
    if (!(vin > 0)) vin = 0;
    const p = law.at(vin > 0 ? vin : 1e-3, vout, amps);
    // Off, it draws what it draws by itself.
    const own = !works || amps === 0;
    const inAmps = vin > 0 ? (own ? this.quiescent : p.inputAmps) : 0;
    const loadAmps = input.besides(vin, inAmps);
    const total = inAmps + loadAmps;
    const node = vin > 0 ? input.node(vin, inAmps) : 0;
    const terminals = node + wire * total;
    out.clear(limit, 2 * p.regime + source.stretch(total + input.others));
    out.outVolts = vout;
    out.outAmps = amps;
    out.nodeVolts = node;
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
    out.diodeLoss = (vout - volts) * amps + (node - vin) * inAmps;
    if (own) out.loss[QUIESCENT] = vin * inAmps;
    else law.book(p, out.loss);
    out.heat = vin * inAmps - vout * amps;
    if (!own) out.heat = p.heat;
    out.extended = amps > 0 && law.outside(vin, amps);
  }
}
