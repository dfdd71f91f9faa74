import type { Converter } from '../../model/kinds/registry.ts';
import type { Capacitor, Inductor, LightLoad, Rectifier, Switch } from '../../model/parts.ts';
import { peakLimitOf } from '../limits.ts';

/** Which of the four ways are switched: those of the input side, of the output side, all, or a SEPIC's two. */
export type BridgeShape = 'buck' | 'boost' | 'four' | 'sepic';

/** What a kind says of its bridge; the rest is common to all, or nothing. */
export type BridgeWays = Pick<Bridge, 'shape' | 'a' | 'b' | 'c' | 'd'> &
  Partial<Pick<Bridge, 'mostBuck' | 'mostBoost' | 'leastBoost' | 'windings' | 'coupling'>>;

/**
 * A switching stage as numbers. Buck, boost and four-switch are one bridge with four ways for the current:
 * a input → inductor, b ground → inductor, c inductor → ground, d inductor → output. A buck's d and a boost's
 * a are plain wires. A SEPIC uses c (its switch) and d (its rectifier) with the sum of both inductor currents.
 */
export interface Bridge {
  shape: BridgeShape;
  /** [H] of the inductor; of both in parallel for a SEPIC, which is what the sum of their currents sees */
  inductance: number;
  /** [Ω] in the path of that current; 0 for a SEPIC, whose windings count by themselves */
  winding: number;
  a: Way;
  b: Way;
  c: Way;
  d: Way;
  /** [Hz] */
  frequency: number;
  light: LightLoad;
  /** [A] least peak in `pulses` */
  pulsePeak: number;
  /** [s] shortest on-time: below it pulses are skipped and the frequency falls */
  minOn: number;
  /** [A] */
  peakLimit: number;
  /** shares of the period */
  leastBoost: number;
  mostBuck: number;
  mostBoost: number;
  /** [s] */
  deadTime: number;
  /** [V] */
  drive: number;
  /** [A] */
  quiescent: number;
  /** [F] [Ω] all pieces together, at the working voltage */
  input: { farads: number; ohms: number };
  output: { farads: number; ohms: number };
  /** [W] core loss at 1 A of ripple and the stage's frequency; grows as `corePower` */
  core: number;
  /** [F] [Ω] a SEPIC's coupling capacitor */
  coupling?: { farads: number; ohms: number };
  /** the two windings of a SEPIC */
  windings?: { first: Winding; second: Winding };
}

interface Winding {
  /** [H] [Ω] */
  henries: number;
  ohms: number;
}

/** One way the current can take. */
export interface Way {
  /** [Ω] [V] */
  ohms: number;
  volts: number;
  diode: boolean;
  /** [C] [F] [s] [s] */
  gate: number;
  capacitance: number;
  on: number;
  off: number;
}

/** Exponents of core loss over frequency and ripple: ferrites, 1.3–1.6 and 2.3–2.7. Common practice, no source. */
const CORE_FREQUENCY = 1.4;
const CORE_RIPPLE = 2.5;

/** ripple^2.5 by its root: a general power is the slowest thing in a run-down. @param ripple [A] ≥ 0 */
export function corePower(ripple: number): number {
  return ripple * ripple * Math.sqrt(ripple);
}

export const WIRE: Way = { ohms: 0, volts: 0, diode: false, gate: 0, capacitance: 0, on: 0, off: 0 };

/** A part as a way for the current. */
export function way(part: Rectifier | Switch): Way {
  if (part.type === 'diode') return { ...WIRE, ohms: part.resistance, volts: part.forwardVolts, diode: true };
  const { resistance, gateCharge, outputCapacitance, turnOnTime, turnOffTime } = part;
  return {
    ohms: resistance,
    volts: 0,
    diode: false,
    gate: gateCharge,
    capacitance: outputCapacitance,
    on: turnOnTime,
    off: turnOffTime,
  };
}

/** [F] [Ω] of equal pieces side by side, at their working voltage. */
export function bank({ capacitance, count, biasShare, esr }: Capacitor): { farads: number; ohms: number } {
  return { farads: capacitance * count * biasShare, ohms: esr / count };
}

function coreLoss(part: Inductor, frequency: number): number {
  const { coreLoss: watts, coreRipple, coreFrequency } = part;
  if (!watts || !coreRipple || !coreFrequency) return 0;
  return (watts * (frequency / coreFrequency) ** CORE_FREQUENCY) / coreRipple ** CORE_RIPPLE;
}

/**
 * The bridge of a stage with parts. @param ways what its kind makes of them
 * @throws Error when the stage has none: a programmer's mistake
 */
export function bridgeFrom(stage: Converter, ways: BridgeWays): Bridge {
  const { parts } = stage;
  if (!parts) throw new Error(`bridgeFrom: stage ${stage.id} has no parts`);
  const { frequency, inductor } = parts;
  const { windings } = ways;
  const second = 'secondInductor' in parts ? coreLoss(parts.secondInductor, frequency) : 0;
  const parallel = windings
    ? (windings.first.henries * windings.second.henries) / (windings.first.henries + windings.second.henries)
    : inductor.inductance;
  return {
    inductance: parallel,
    winding: windings ? 0 : inductor.resistance,
    frequency,
    light: lightLoad(parts.lightLoad, ways),
    pulsePeak: parts.pulsePeak ?? 0,
    minOn: parts.minOnTime,
    peakLimit: peakLimitOf(stage),
    leastBoost: parts.minOnTime * frequency,
    mostBuck: 1,
    mostBoost: 0,
    deadTime: parts.deadTime,
    drive: parts.driveVolts,
    quiescent: stage.loss.quiescentCurrent,
    input: bank(parts.inputCapacitor),
    output: bank(parts.outputCapacitor),
    core: coreLoss(inductor, frequency) + second,
    ...ways,
  };
}

/** A diode stops the current at zero by itself, whatever the controller does. */
function lightLoad(stated: LightLoad, { shape, b, d }: BridgeWays): LightLoad {
  if (stated !== 'forced') return stated;
  return (shape === 'buck' ? b : d).diode ? 'emulation' : 'forced';
}
