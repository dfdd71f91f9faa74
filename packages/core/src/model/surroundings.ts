import { Quantity } from './fields.ts';

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
}

/** Used where a thread states none: a room, a cellar, a summer's day. Common practice, no source. */
export const USUAL_SURROUNDINGS: Readonly<Surroundings> = { minAir: 0, air: 25, maxAir: 40 };
