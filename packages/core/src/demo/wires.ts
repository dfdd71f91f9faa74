import type { Lead } from '../model/pack.ts';

/** A pair of wires in a usual room. @param length [m] one way */
export const awg = (gauge: number, length: number): Lead => ({
  gaugeSystem: 'AWG',
  gauge,
  length,
  parallel: 1,
  temperature: 25,
});
