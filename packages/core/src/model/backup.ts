import { Parts, Quantity } from './fields.ts';

/** Most outages in a timeline. */
export const MOST_OUTAGES = 64;

/** Mains that is gone for a while. */
export class Outage {
  @Quantity('h', 0, 100000, 'When mains goes, from the beginning of the timeline', { label: 'Begins at' })
  from!: number;
  @Quantity('h', 1e-3, 10000, 'How long it is gone', { label: 'Lasts' })
  hours!: number;
}

/** What mains does, and how long the pack must hold. */
export class Backup {
  @Quantity('h', 0.1, 20000, 'Length of the timeline', { label: 'Timeline' })
  span!: number;
  @Parts(() => Outage, [0, MOST_OUTAGES], 'Outages, in their order')
  outages!: Outage[];
  @Quantity('h', 0, 10000, 'How long it must hold', { optional: true, label: 'Must hold' })
  hold?: number;
}
