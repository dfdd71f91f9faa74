import type { Lead } from '../model/pack.ts';
import { awgResistance, copperFactor } from './awg.ts';
import { class5Resistance } from './iec60228.ts';

/** [Ω] Resistance of a pair of leads, there and back, at its temperature. */
export function leadResistance(lead: Lead): number {
  const perMetre = lead.gaugeSystem === 'AWG' ? awgResistance(lead.gauge) : class5Resistance(lead.gauge);
  return (2 * lead.length * perMetre * copperFactor(lead.temperature)) / lead.parallel;
}
