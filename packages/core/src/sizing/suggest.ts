import type { Converter } from '../model/kinds/registry.ts';
import type {
  Capacitor,
  Diode,
  Divider,
  FourSwitchParts,
  Inductor,
  PartsBase,
  Rectifier,
  SepicParts,
  Switch,
  TwoSwitchParts,
} from '../model/parts.ts';
import type { Pieces } from '../stages/kinds/kind.ts';
import { switchingKind } from '../stages/kinds/registry.ts';
import { limitsOf } from '../stages/limits.ts';
import {
  inductanceFor,
  inductorAmps,
  inputCapacitance,
  leastInductance,
  outputCapacitance,
  RIPPLE_RATIO,
} from './choose.ts';
import { findDividers } from '../design/divider.ts';
import { E6, nextUp } from '../design/eSeries.ts';
import { bare, INDUCTORS, pickInductors, type ListedInductor } from './inductors.ts';

/** [Hz] a usual middle of size and loss at a few watts. Common practice, no source. */
export const USUAL_FREQUENCY = 500e3;

/** Ripple aimed at, output and input, as a share of the volts. Common practice, no source. */
const OUTPUT_RIPPLE = 0.005;
const INPUT_RIPPLE = 0.01;

/** [V] a winding may drop at its mean current. Common practice, no source. */
const WINDING_DROP = 0.06;

/** Room above what the load asks for. */
const ROOM = 1.3;

/** Input volts of a stage over a run. [V] */
export interface InputRange {
  /** [V] */
  low: number;
  high: number;
}

/**
 * Parts for a stage from nothing: inductor from the list, ceramics, switches scaled to the current. A start to be
 * edited, grade *assumed* until data sheets replace it.
 * @param iout [A] the most its loads ask for
 */
export function partsFor(
  stage: Extract<Converter, { kind: 'boost' | 'buck' }>,
  range: InputRange,
  iout: number,
  frequency?: number,
): TwoSwitchParts;
export function partsFor(
  stage: Converter,
  range: InputRange,
  iout: number,
  frequency?: number,
): TwoSwitchParts | FourSwitchParts | SepicParts;
export function partsFor(stage: Converter, range: InputRange, iout: number, frequency = USUAL_FREQUENCY) {
  const { outputVolts: vout, kind } = stage;
  const amps = ROOM * Math.max(iout, 1e-3);
  const rectifier = 'rectifierVolts' in stage ? stage.rectifierVolts : 0;
  const shape = switchingKind(kind).shapeAt(range.low, vout);
  const mean = Math.max(
    inductorAmps(
      shape,
      Math.min(range.low, shape === 'boost' ? 0.98 * vout : range.low),
      vout,
      amps,
      rectifier,
    ),
    amps,
  );
  const least = leastInductance(kind, range, vout, iout, frequency, RIPPLE_RATIO).inductance;
  const needed = least > 0 ? least : inductanceFor(shape, 0.8 * vout, vout, iout, frequency, RIPPLE_RATIO);
  const peak = mean * (1 + RIPPLE_RATIO / 2);
  const inductor = listed(needed, peak, mean);
  const high = switchingKind(kind).blocks(range.high, vout);
  const common = {
    used: true,
    grade: 'assumed',
    frequency,
    lightLoad: rectifier > 0 ? 'emulation' : 'pulses',
    pulsePeak: two(0.25 * peak),
    peakLimit: Math.min(limitsOf(stage).input * (1 + RIPPLE_RATIO / 2), two(1.5 * peak)),
    minOnTime: 8e-8,
    deadTime: 2e-8,
    driveVolts: 5,
    inductor: bare(inductor),
    inputCapacitor: ceramic(worstOf(kind, range, vout, iout, frequency, inductor, 'input'), range.high),
    outputCapacitor: ceramic(worstOf(kind, range, vout, iout, frequency, inductor, 'output'), vout),
    integrated: peak < 6,
    thermalResistance: peak < 6 ? 45 : 50,
    maxJunction: 125,
    divider: usualDivider(vout),
  } satisfies Partial<PartsBase>;
  const power = (): Switch => transistor(mean, high);
  const rectify = (): Rectifier => (rectifier > 0 ? schottky(rectifier, mean, high) : power());
  const couple = () => ({
    secondInductor: bare(inductor),
    couplingCapacitor: ceramic((amps * 0.6) / (frequency * 0.05 * vout), range.high),
  });
  return switchingKind(kind).assemble({ common: common as Pieces['common'], power, rectify, couple });
}

function listed(inductance: number, peak: number, rms: number): ListedInductor {
  const fitting = pickInductors({ inductance, peak, rms }, Infinity);
  const first = fitting.find((l) => l.resistance * rms <= WINDING_DROP) ?? fitting.at(-1);
  if (first) return first;
  // Nothing on the list is large enough: the largest body, value kept, and the table will say so.
  const value = nextUp(E6, Math.max(inductance, 1e-7));
  return INDUCTORS.filter((l) => l.inductance >= value).at(-1) ?? INDUCTORS.at(-1)!;
}

function worstOf(
  kind: Converter['kind'],
  range: InputRange,
  vout: number,
  iout: number,
  frequency: number,
  { inductance }: Inductor,
  side: 'input' | 'output',
): number {
  const volts = side === 'output' ? OUTPUT_RIPPLE * vout : INPUT_RIPPLE * range.low;
  const need = side === 'output' ? outputCapacitance : inputCapacitance;
  let most = 1e-6;
  for (let k = 0; k <= 10; k++) {
    const vin = range.low + ((range.high - range.low) * k) / 10;
    const shape = switchingKind(kind).shapeAt(vin, vout);
    if ((shape === 'boost' && vin >= vout) || (shape === 'buck' && vin <= vout)) continue;
    most = Math.max(most, need(shape, vin, vout, iout, frequency, inductance, volts));
  }
  return most;
}

/** [F] between which a bank of ceramics is offered. */
const SMALLEST = 1e-7;
const LARGEST = 1e-3;

/**
 * Ceramics of at most 22 µF a piece whose share left at their volts is a third at the rating: a typical curve of
 * class 2 ceramics, half left at half the rating. Common practice, no source.
 */
export function ceramic(farads: number, volts: number): Capacitor {
  const rating = [6.3, 10, 16, 25, 35, 50, 100].find((v) => v >= 1.4 * volts) ?? 200;
  const biasShare = Number(Math.max(0.25, 1 - 0.75 * (volts / rating)).toFixed(2));
  // Nothing flows, or nothing is known: the smallest piece that is worth its place.
  const need = (farads > SMALLEST ? Math.min(farads, LARGEST) : SMALLEST) / biasShare;
  const piece = Math.min(22e-6, nextUp(E6, need));
  const count = Math.max(1, Math.ceil(need / piece - 0.05));
  return {
    capacitance: piece,
    count: Math.min(count, 100),
    biasShare,
    esr: 4e-3,
    rippleCurrent: 3,
    maxVolts: rating,
  };
}

/**
 * A transistor for a current: on-resistance that drops 40 mV at the mean; charge and capacitance grow as it falls,
 * 0.1 Ω·nC and 4 Ω·pF for 30 V, more above. Typical; common practice, no source.
 */
export function transistor(amps: number, volts: number): Switch {
  const rating = [12, 20, 30, 40, 60, 100, 150].find((v) => v >= 1.4 * volts) ?? 250;
  const resistance = two(Math.min(0.4, Math.max(0.003, 0.04 / amps)));
  const harder = Math.max(1, rating / 30);
  return {
    type: 'switch',
    resistance,
    gateCharge: two((0.1e-9 * harder) / resistance),
    outputCapacitance: two((4e-12 * harder) / resistance),
    turnOnTime: 8e-9,
    turnOffTime: 8e-9,
    maxVolts: rating,
    maxAmps: two(2.5 * amps),
  };
}

/** A Schottky diode whose drop at the mean current is what the stage states. */
export function schottky(drop: number, amps: number, volts: number): Diode {
  return {
    type: 'diode',
    forwardVolts: two(0.8 * drop),
    resistance: two((0.2 * drop) / amps),
    maxVolts: [20, 30, 40, 60, 100].find((v) => v >= 1.4 * volts) ?? 200,
    maxAmps: two(2 * amps),
  };
}

/** A divider from E96 to a 0.6 V reference that draws about 30 µA. */
export function usualDivider(volts: number): Divider | undefined {
  const task = { reference: 0.6, referenceTolerance: 0.015, resistorTolerance: 0.01 };
  const [best] = findDividers({ ...task, target: volts, leastAmps: 1e-5, mostAmps: 6e-5, series: 'E96' });
  return best && { ...task, top: best.top, bottom: best.bottom };
}

function two(value: number): number {
  return Number(value.toPrecision(2));
}
