import { Parts, Part, Quantity, Whole } from './fields.ts';

/** Most outages in a timeline. */
export const MOST_OUTAGES = 64;

/** Mains that is gone for a while. */
export class Outage {
  @Quantity('h', 0, 100000, 'When mains goes, from the beginning of the timeline', { label: 'Begins at' })
  from!: number;
  @Quantity('h', 1e-3, 10000, 'How long it is gone', { label: 'Lasts' })
  hours!: number;
}

/** Outages as they may come: so many a year, as if by chance; half of them longer than a length. */
export class RandomOutages {
  @Quantity('', 0.1, 2000, 'Outages in a year, on the mean', { label: 'In a year' })
  perYear!: number;
  @Quantity('h', 1e-3, 1000, 'Half of them are longer', { label: 'Half are longer than' })
  medianHours!: number;
  @Quantity('', 0, 3, 'Spread of the logarithm of their length', { label: 'Spread of the logarithm' })
  spread!: number;
  @Whole(1, 1e9, 'Where the chance begins: the same number, the same outages')
  seed!: number;
}

/** What mains does, and how long the pack must hold. */
export class Backup {
  @Quantity('h', 0.1, 20000, 'Length of the timeline', { label: 'Timeline' })
  span!: number;
  @Parts(() => Outage, [0, MOST_OUTAGES], 'Outages, in their order')
  outages!: Outage[];
  @Quantity('h', 0, 10000, 'How long it must hold', { optional: true, label: 'Must hold' })
  hold?: number;
  @Part(() => RandomOutages, 'Outages by chance, for a hundred years', { optional: true })
  random?: RandomOutages;
}
