import { Part, Parts, Quantity } from './fields.ts';

/** Most outages in a timeline. */
export const MOST_OUTAGES = 600;

/** Mains that is gone for a while. */
export class Outage {
  @Quantity('h', 0, 100000, 'When mains goes, from the beginning of the timeline', { label: 'Begins at' })
  from!: number;
  @Quantity('h', 1e-3, 10000, 'How long it is gone', { label: 'Lasts' })
  hours!: number;
}

/** Mains that is switched off again and again: by a plan of the grid, a generator, a night. */
export class Recurring {
  @Quantity('h', 0, 100000, 'When mains goes first, from the beginning of the timeline', {
    label: 'First at',
  })
  from!: number;
  @Quantity('h', 1e-3, 10000, 'How long it is gone each time', { label: 'Lasts' })
  hours!: number;
  @Quantity('h', 1, 10000, 'From one to the next', { label: 'Every' })
  every!: number;
}

/** Outages as chance brings them: so many a year, their lengths spread as a logarithm is. */
export class Chance {
  @Quantity('', 0.01, 300, 'Outages a year, in the mean', { label: 'Outages a year' })
  perYear!: number;
  @Quantity('h', 1e-3, 1000, 'Half of them last longer than this', { label: 'Half longer than' })
  half!: number;
  @Quantity('h', 1e-3, 10000, 'One in six of them lasts longer than this', {
    label: 'One in six longer than',
  })
  sixth!: number;
}

/** What mains does, and how long the pack must hold. */
export class Backup {
  @Quantity('h', 0.1, 20000, 'Length of the timeline', { label: 'Timeline' })
  span!: number;
  @Parts(() => Outage, [0, MOST_OUTAGES], 'Outages, in their order')
  outages!: Outage[];
  @Part(() => Recurring, 'Outages that come again and again besides', { optional: true })
  recurring?: Recurring;
  @Part(() => Chance, 'Outages as chance brings them, for a hundred random years', { optional: true })
  chance?: Chance;
  @Quantity('h', 0, 10000, 'How long it must hold', { optional: true, label: 'Must hold' })
  hold?: number;
}
