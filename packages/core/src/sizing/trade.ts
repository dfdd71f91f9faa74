import type { Converter } from '../model/kinds/registry.ts';
import { partsLaw } from '../stages/traits.ts';
import { leastInductance, RIPPLE_RATIO } from './choose.ts';
import { bare, INDUCTORS, pickInductors, type ListedInductor } from './inductors.ts';
import type { InputRange } from './suggest.ts';

/** One frequency a stage could switch at, with the inductor it then wants. */
export interface TradePoint {
  /** [Hz] [H] */
  frequency: number;
  inductance: number;
  /** from the list; absent where it has none that large */
  inductor?: ListedInductor;
  /** [W] at the middle of the range, the quiescent draw included; NaN where the stage cannot */
  loss: number;
  /** [m³] of the inductor's body */
  volume: number;
}

/** [Hz] looked at, tens of kHz to some MHz. */
export const TRADE_FREQUENCIES: readonly number[] = [
  30e3, 50e3, 80e3, 120e3, 200e3, 300e3, 400e3, 500e3, 700e3, 1e6, 1.4e6, 2.2e6, 3e6,
];

/**
 * Inductance, loss and size over frequency, the other parts kept: as it rises the inductor shrinks and edges,
 * gates and core cost more. @param iout [A]
 */
export function frequencyTrade(stage: Converter, range: InputRange, iout: number): TradePoint[] {
  if (!stage.parts) return [];
  const vin = (range.low + range.high) / 2;
  const amps = partsLaw(stage).at(range.low, stage.outputVolts, iout).flow.mean || iout;
  return TRADE_FREQUENCIES.map((frequency): TradePoint => {
    const { inductance } = leastInductance(
      stage.kind,
      range,
      stage.outputVolts,
      iout,
      frequency,
      RIPPLE_RATIO,
    );
    const [inductor] = pickInductors({ inductance, peak: amps * (1 + RIPPLE_RATIO / 2), rms: amps });
    const used = inductor ?? INDUCTORS.at(-1)!;
    const tried = {
      ...stage,
      parts: {
        ...stage.parts!,
        frequency,
        inductor: { ...bare(used), inductance: Math.max(inductance, 1e-8) },
      },
    } as Converter;
    const into = partsLaw(tried).at(vin, stage.outputVolts, iout).inputAmps;
    return {
      frequency,
      inductance,
      ...(inductor ? { inductor } : {}),
      loss: into === Infinity ? NaN : vin * into - stage.outputVolts * iout,
      volume: inductor ? inductor.mm[0] * inductor.mm[1] * inductor.mm[2] * 1e-9 : NaN,
    };
  });
}
