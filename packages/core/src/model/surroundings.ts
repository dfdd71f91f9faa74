import { Part, Quantity } from './fields.ts';

/** How the air goes through a day: around the usual, warmest at some hour, coldest twelve hours from it. */
export class Daily {
  @Quantity('K', 0, 40, 'Warmest and coldest hour above and below the usual air', {
    label: 'Day and night, ±',
  })
  swing!: number;
  @Quantity('h', 0, 24, 'Hour at which it is warmest', { label: 'Warmest at' })
  warmestAt!: number;
  @Quantity('h', 0, 24, 'Hour at which the run starts', { label: 'Run starts at' })
  startsAt!: number;
}

/** A summer's day in the shade, begun in the morning. Common practice, no source. */
export const USUAL_DAY: Readonly<Daily> = { swing: 6, warmestAt: 15, startsAt: 8 };

/** Where the thread works: the air around its parts. */
export class Surroundings {
  @Quantity('°C', -60, 150, 'Coldest air', { label: 'Air, coldest' })
  minAir!: number;
  @Quantity('°C', -60, 150, 'Usual air', { label: 'Air, usual' })
  air!: number;
  @Quantity('°C', -60, 150, 'Warmest air', { label: 'Air, warmest' })
  maxAir!: number;
  @Quantity('K/W', 0, 100, 'Air inside above air outside per watt, in a closed box; leave out in the open', {
    optional: true,
    label: 'Closed box',
  })
  boxResistance?: number;
  @Part(() => Daily, 'How the usual air goes through a day; without it it stays', { optional: true })
  daily?: Daily;
}

/** Used where a thread states none: a room, a cellar, a summer's day. Common practice, no source. */
export const USUAL_SURROUNDINGS: Readonly<Surroundings> = { minAir: 0, air: 25, maxAir: 40 };
