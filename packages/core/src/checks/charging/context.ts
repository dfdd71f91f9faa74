import { sourceLaw } from '../../charging/source.ts';
import type { SourceLaw } from '../../charging/sources/kind.ts';
import { stopVolts, type StopVolts } from '../../charging/volts.ts';
import type { Charging } from '../../model/charging.ts';
import type { ThreadDocument } from '../../model/thread.ts';
import type { ChargeResult } from '../../run/account/chargeResult.ts';
import { formatQuantity } from '../../units/formatQuantity.ts';

/** What the checks of a charge look at. */
export interface ChargeContext {
  doc: ThreadDocument;
  charging: Charging;
  result: ChargeResult;
  source: SourceLaw;
  /** where it stops, tolerances and all; undefined where nothing holds the volts */
  stop: StopVolts | undefined;
  /** [V] of the pack it comes to there, behind a diode; undefined likewise */
  reached: number | undefined;
}

export function chargeContext(doc: ThreadDocument, result: ChargeResult): ChargeContext {
  const charging = doc.charging!;
  const stop = stopVolts(charging);
  const reached = stop && stop.set - (charging.diode?.volts ?? 0);
  return { doc, charging, result, source: sourceLaw(charging.source), stop, reached };
}

export const A = (amps: number) => formatQuantity(amps, 'A', 3);
export const V = (volts: number) => formatQuantity(volts, 'V', 3);
export const W = (watts: number) => formatQuantity(watts, 'W', 3);
export const C = (celsius: number) => formatQuantity(celsius, '°C', 3);

/** A value rounded down to three digits, and up. */
export const floor3 = (x: number) => rounded(x, Math.floor);
export const ceil3 = (x: number) => rounded(x, Math.ceil);

function rounded(x: number, how: (x: number) => number): number {
  const unit = 10 ** (Math.floor(Math.log10(x)) - 2);
  return Number((how(x / unit + (how === Math.floor ? 1e-9 : -1e-9)) * unit).toPrecision(3));
}
