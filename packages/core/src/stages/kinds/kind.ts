import type { StageBase } from '../../model/kinds/base.ts';
import type { Converter, KindModel, Stage } from '../../model/kinds/registry.ts';
import type { Diode, Rectifier, StageParts, Switch } from '../../model/parts.ts';
import type { Bridge, BridgeWays } from '../parts/bridge.ts';
import type { StagePlant } from '../point.ts';

/** Lossless shape of a converter's duty at an input. */
export type Shape = 'buck' | 'boost' | 'simultaneous' | 'sepic';

/** A part that carries the current on one of the bridge's four ways. */
export interface NamedWay {
  /** field of the parts */
  id: 'main' | 'rectifier' | 'buckHigh' | 'buckLow' | 'boostLow' | 'boostHigh';
  /** “S1”, “Diode” */
  name: string;
  way: 'a' | 'b' | 'c' | 'd';
  part: Switch | Rectifier;
}

/** Drop [V] and resistance [Ω] on a way from input to output that nothing can close. */
export interface Through {
  /** [V] [Ω] */
  volts: number;
  resistance: number;
}

/** How a kind is drawn with its parts. */
export type Picture =
  | { shape: 'wire' }
  | { shape: 'pass' }
  | { shape: 'sepic' }
  /** a bridge with a leg on its input side, its output side, or both */
  | { shape: 'bridge'; left: boolean; right: boolean };

/**
 * A kind of stage: its model, its law and its traits. Everything that differs between kinds is asked here; no
 * other file compares a kind's name.
 */
export interface Kind<S extends StageBase = Stage> extends KindModel<S> {
  /** Its physics, prepared. @param air [°C] around it */
  compile(stage: S, air: number): StagePlant;
  /** [A] what it draws by itself with no load */
  ownDraw(stage: S): number;
  /** The way its input always reaches its output by; absent where something can close it. */
  passesInput?(stage: S): Through;
  /** [V] least input that holds the set volts at an output current [A]; absent where no headroom is needed */
  neededInput?(stage: S, iout: number): number;
  /** whether there is something to size in it */
  sizable: boolean;
  picture: Picture;
  /** [V] output a new one is set to, on a rail of so many volts */
  usualOutput(railVolts: number): number;
  /** whether it steps down without loss of headroom, up, or both: what a rail can be bridged with */
  switching?: SwitchingKind<S>;
}

/** What a switching kind adds. */
export interface SwitchingKind<S extends StageBase> {
  /** which way it is switched at an input, lossless */
  shapeAt(vin: number, vout: number): Shape;
  /** its parts' class, for forms */
  partsModel: new () => object;
  /** its ways and duties as numbers */
  ways(stage: S): BridgeWays;
  /** [V] most it can give at maximum duty, with parts */
  ceiling?(bridge: Bridge, vin: number, iout: number): number;
  /** parts that carry current, in their order */
  namedWays(stage: S): NamedWay[];
  /** what the controller's peak limit looks at */
  peakLabel: string;
  /** [V] its switches block, from inputs up to `high` */
  blocks(high: number, vout: number): number;
  /** A set of parts from the pieces a designer starts with. */
  assemble(pieces: Pieces): StageParts;
}

/** What a set of parts is put together from. */
export interface Pieces {
  /** everything that all kinds have */
  common: Omit<StageParts, 'main' | 'rectifier' | 'buckHigh' | 'buckLow' | 'boostLow' | 'boostHigh'>;
  power(): Switch;
  rectify(): Switch | Diode;
  /** [F] at [V] */
  couple(): Pick<Extract<StageParts, { couplingCapacitor: unknown }>, 'secondInductor' | 'couplingCapacitor'>;
}

export type SwitchingStage = Converter;
