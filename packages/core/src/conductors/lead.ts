import type { Lead } from '../model/pack.ts';
import { awgArea, awgResistance, copperFactor } from './awg.ts';
import { class5Resistance } from './iec60228.ts';

/** [Ω] Resistance of a pair of leads, there and back, at its temperature. */
export function leadResistance(lead: Lead): number {
  const perMetre = lead.gaugeSystem === 'AWG' ? awgResistance(lead.gauge) : class5Resistance(lead.gauge);
  return (2 * lead.length * perMetre * copperFactor(lead.temperature)) / lead.parallel;
}

/** [mm²] copper of one way of a lead, its wires in parallel together. */
export function leadSection({ gaugeSystem, gauge, parallel }: Lead): number {
  return parallel * (gaugeSystem === 'AWG' ? awgArea(gauge) : gauge);
}
