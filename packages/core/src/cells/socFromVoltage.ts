import { brent } from '../numeric/root.ts';
import type { Curve } from '../numeric/pchip.ts';

/**
 * State of charge whose rest voltage is `volts`; 0 below the table and 1 above it.
 * @param ocv curve over state of charge 0…1, never falling
 * @param volts [V] of one cell at rest
 */
export function socFromVoltage(ocv: Curve, volts: number): number {
  if (volts <= ocv.at(0)) return 0;
  if (volts >= ocv.at(1)) return 1;
  return brent((s) => volts - ocv.at(s), 0, 1, 1e-12).x;
}
