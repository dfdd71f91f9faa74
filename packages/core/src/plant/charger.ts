import { ChargePoint, type FromSource } from '../charging/point.ts';
import { ChargerLaw, type Setting } from '../charging/law.ts';
import { LIMIT } from '../charging/limits.ts';
import { WATCHED, type Watched } from '../charging/phases.ts';
import type { Charging } from '../model/charging.ts';
import { PACK } from '../model/thread.ts';
import { CHARGE_COLUMN, CHARGE_COLUMNS, FULL } from './chargerLayout.ts';
import { POWER } from './layout.ts';
import type { Joined, Joint } from './joint.ts';
import type { Network } from './network.ts';
import type { Feeding } from './path.ts';
import { RailState } from './railState.ts';
import type { Sampled } from './sampled.ts';

/** What it costs to look at a charger's input once, in demands. */
const ASK_COST = 0.4;

const NOTHING: Watched = { ready: Infinity, tapered: 0, ofBattery: false, again: 0 };

/**
 * A charger on the pack's rail. Its setting is a state of the simulation, as holds of stages are: within an operating point
 * nothing is switched.
 */
export class ChargerPlant implements Feeding {
  readonly columns = CHARGE_COLUMNS;
  /** limit, what is watched, who carries the joint, and the law's own regime */
  readonly entries = 4;
  readonly law: ChargerLaw;
  name = 'off';
  setting: Setting = { on: false, amps: 0 };
  watched: Watched = NOTHING;
  /** [A] it is set to, for what counts as next to nothing */
  readonly amps: number;
  private knee: { lo: number; hi: number } | undefined;
  private readonly asked = new ChargePoint();

  constructor(
    readonly charging: Charging,
    air: number,
  ) {
    this.law = new ChargerLaw(charging, air);
    this.amps = charging.control?.current ?? this.law.source.limit;
  }

  get ceiling(): number {
    return this.law.ceiling;
  }

  /** Set it. @param name equal names mean equal settings */
  set(name: string, setting: Setting, watched: Partial<Watched>): void {
    this.name = name;
    this.setting = setting;
    this.watched = { ...NOTHING, ...watched };
    this.knee = this.law.kneeOf(setting);
  }

  /** Others take so much [A] from the same source: its volts are less by that. */
  share(others: number): void {
    this.law.share(others);
    this.name = `${this.name.split(' beside ')[0]!} beside ${others}`;
    this.knee = this.law.kneeOf(this.setting);
  }

  beside(network: Network, usual: number): Sampled {
    return new FedRail(this, network, usual, this.setting, this.watched);
  }

  onTheWay(from: number, to: number): number {
    const { knee } = this;
    if (!knee) return to;
    const { lo, hi } = knee;
    return (from > hi && to < lo) || (from < lo && to > hi) ? (lo + hi) / 2 : to;
  }

  demand(network: Network, volts: number): number {
    return this.at(network, volts, this.setting, this.asked);
  }

  /** Where the charger stands at `volts`. @returns [A] drawn from the pack */
  at(network: Network, volts: number, setting: Setting, out: ChargePoint): number {
    const { asks } = this.law;
    const amps = this.found(network, volts, setting, out);
    network.effort.spend(ASK_COST * (this.law.asks - asks));
    return amps;
  }

  private found(network: Network, volts: number, setting: Setting, out: ChargePoint): number {
    const { law, charging } = this;
    if (charging.meanwhile !== 'path') {
      law.solve(volts, setting, undefined, out);
      return network.demand(0, volts) - out.outAmps;
    }
    const load: FromSource = {
      first: (charging.join?.kind ?? 'managed') === 'managed',
      amps: (at, most) => {
        network.feedJoint(at, most);
        network.settle(0, volts);
        return network.joint!.amps;
      },
    };
    law.solve(volts, setting, load, out);
    // The joint stands as the source was found last.
    return network.settle(0, volts) - out.outAmps;
  }

  get joined(): Joined | undefined {
    const { meanwhile, join } = this.charging;
    if (meanwhile !== 'path') return undefined;
    const none = { volts: 0, ohms: 0 };
    return {
      at: join?.at ?? PACK,
      letsGo: this.law.source.beyond === 'hiccup',
      adapter: join ? { volts: join.adapter.volts, ohms: join.adapter.resistance } : none,
      battery: join ? { volts: join.battery.volts, ohms: join.battery.resistance } : none,
    };
  }

  /** [V] that its control holds, and that it may lift the pack to all the same. */
  get held(): { set: number; through: number } {
    return { set: this.law.set, through: this.law.ceiling };
  }

  /** [W] errors of pieces are measured against: where its volts are held, what it gives is known to fewer digits. */
  get scale(): number {
    return this.amps * Math.min(this.law.ceiling, this.law.source.open);
  }
}

/** What hangs on the pack's rail, less what a charger gives, sampled. */
class FedRail implements Sampled {
  readonly bridged = false;
  readonly columns: number;
  readonly leading: number;
  readonly signature: Int32Array;
  readonly events: number;
  readonly extended: Uint8Array;
  readonly scale: number;
  /** where volts are held all happens within a hair of them */
  readonly narrowest = 1e-8;
  private readonly rail: RailState;
  private readonly point = new ChargePoint();

  constructor(
    private readonly charger: ChargerPlant,
    private readonly network: Network,
    usual: number,
    private readonly setting: Setting,
    private readonly watched: Watched,
  ) {
    this.rail = new RailState(network, 0, usual);
    const { events } = this.rail;
    this.columns = this.rail.columns + CHARGE_COLUMNS;
    this.leading = this.rail.leading;
    this.events = events + 3;
    this.signature = new Int32Array(this.rail.signature.length + 4);
    this.extended = this.rail.extended;
    this.scale = charger.scale;
  }

  bends(): readonly number[] {
    const { ceiling } = this.charger;
    const { ready, again } = this.watched;
    const found = [...this.rail.bends(), ceiling, ready, again].filter((v) => v > 0 && v < Infinity);
    return [...new Set(found)].sort((a, b) => a - b);
  }

  distance(entry: number, value: number): number {
    return entry < this.rail.events ? this.rail.distance(entry, value) : NaN;
  }

  look(volts: number): void {
    this.solve(volts);
    this.rail.look(volts);
    this.note(volts);
  }

  sample(volts: number, row: Float64Array): void {
    const { rail, point: p, network } = this;
    this.solve(volts);
    rail.sample(volts, row);
    this.note(volts);
    const { joint } = network;
    row[POWER]! -= volts * p.outAmps;
    const to = rail.columns;
    row[to + CHARGE_COLUMN.outVolts] = p.outVolts;
    row[to + CHARGE_COLUMN.outAmps] = p.outAmps;
    row[to + CHARGE_COLUMN.nodeVolts] = p.nodeVolts;
    row[to + CHARGE_COLUMN.inVolts] = p.inVolts;
    row[to + CHARGE_COLUMN.inAmps] = p.inAmps;
    row[to + CHARGE_COLUMN.sourceVolts] = p.sourceVolts;
    row[to + CHARGE_COLUMN.sourceAmps] = p.sourceAmps;
    row[to + CHARGE_COLUMN.supplied] = p.supplied;
    row[to + CHARGE_COLUMN.wallLoss] = p.wallLoss;
    row[to + CHARGE_COLUMN.droopLoss] = p.droopLoss;
    row[to + CHARGE_COLUMN.cableLoss] = p.cableLoss;
    row[to + CHARGE_COLUMN.diodeLoss] = p.diodeLoss;
    row[to + CHARGE_COLUMN.pathLoss] = joint ? lostIn(joint, p.nodeVolts, volts) : 0;
    row[to + CHARGE_COLUMN.heat] = p.heat;
    for (let m = 0; m < p.loss.length; m++) row[to + CHARGE_COLUMN.losses + m] = p.loss[m]!;
  }

  private solve(volts: number): void {
    this.charger.at(this.network, volts, this.setting, this.point);
  }

  private note(volts: number): void {
    const { rail, signature, point, watched, events } = this;
    const own = rail.events;
    for (let k = 0; k < own; k++) signature[k] = rail.signature[k]!;
    signature[own] = point.limit;
    signature[own + 1] = this.watch(volts, watched);
    const { joint } = this.network;
    signature[own + 2] = joint ? joint.carries + (joint.full ? FULL : 0) : 0;
    for (let k = own; k < rail.signature.length; k++) signature[events + k - own] = rail.signature[k]!;
    signature[signature.length - 1] = point.regime;
  }

  private watch(volts: number, { ready, tapered, ofBattery, again }: Watched): number {
    const { point } = this;
    // Where the loads hang on the battery, they have their share of it.
    const amps = ofBattery ? point.outAmps - this.network.settle(0, volts) : point.outAmps;
    if (point.outVolts >= ready) return WATCHED.ready;
    if (point.limit === LIMIT.volts && amps < tapered) return WATCHED.tapered;
    if (point.limit === LIMIT.full && tapered > 0) return WATCHED.tapered;
    return volts < again ? WATCHED.again : WATCHED.nothing;
  }
}

/** [W] lost in both ways into a joint on the pack's own rail; of a stage's, its own way is booked with the stage. */
function lostIn(joint: Joint, adapter: number, pack: number): number {
  const own = joint.rail === 0 ? (pack - joint.volts) * joint.battery : 0;
  return (adapter - joint.volts) * joint.amps + own;
}
