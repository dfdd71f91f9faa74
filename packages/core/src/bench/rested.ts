import { socFromRest, type Rested } from '../logs/fits.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { pchip } from '../numeric/pchip.ts';
import { USUAL_ACCURACY } from './compare.ts';
import { kindOf } from './steps/registry.ts';

/**
 * State of charge that open volts of the plan mean, by the record's curve.
 * @param step `open:pack`, or `open:cell` of one group @param accuracy share of the reading; a hand-held meter's where not said
 */
export function restedCharge(
  { pack }: Pick<ThreadDocument, 'pack'>,
  step: string,
  volts: number,
  accuracy = USUAL_ACCURACY.volts,
): Rested | undefined {
  const cells = kindOf(step)?.rests?.({ pack });
  if (cells === undefined) return undefined;
  const { soc, volts: curve } = pack.cell.ocv;
  const one = volts / cells;
  return socFromRest(pchip(soc, curve), one, accuracy * one);
}
