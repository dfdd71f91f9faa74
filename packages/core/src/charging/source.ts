import { leadResistance } from '../conductors/lead.ts';
import type { Charging } from '../model/charging.ts';
import type { Wall } from '../model/sources/base.ts';
import type { Source } from '../model/sources/registry.ts';
import type { SourceLaw } from './sources/kind.ts';
import { sourceKind } from './sources/registry.ts';

/** What a source is behind what is asked of it. */
export function sourceLaw(source: Source): SourceLaw {
  return sourceKind(source).law(source);
}

/** [V] at its terminals at a current; −Infinity where it gives no more. */
export function sourceVolts(law: SourceLaw, amps: number): number {
  return law.beyond !== 'soft' && amps > law.limit ? -Infinity : law.volts(amps);
}

/** [Ω] of cable and contacts between source and charger, there and back. */
export function cableOhms({ cable, contacts }: Pick<Charging, 'cable' | 'contacts'>): number {
  const touching = contacts ? contacts.contacts * contacts.contactResistance : 0;
  return (cable ? leadResistance(cable) : 0) + touching;
}

/** [W] an adapter takes from the wall for what it gives. */
export function wallWatts(wall: Wall | undefined, watts: number): number {
  if (!wall) return watts;
  return watts + wall.standby + watts * (wall.perWatt + watts * wall.perSquareWatt);
}
