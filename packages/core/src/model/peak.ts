import { DRAWS, type Draw } from './draw.ts';
import { Choice, Quantity, Text } from './fields.ts';

/** Most peaks a load may have. */
export const MOST_PEAKS = 6;

/** A short while in which a load draws more: a start, a burst, a writing. Exactly one of `value` and `factor` is given. */
export class Peak {
  @Quantity('', 0, 1e9, 'W, A or Ω while it lasts', { optional: true, label: 'Peak' })
  value?: number;
  @Choice(DRAWS, 'What it then keeps constant, where that is not what the load keeps', { optional: true })
  draw?: Draw;
  @Quantity('', 0.01, 1000, 'Times what the load draws otherwise', { optional: true, label: 'Times' })
  factor?: number;
  @Quantity('s', 1e-6, 1e5, 'How long it lasts', { label: 'Lasts' })
  seconds!: number;
  @Text(40, 'Id of the mode at each entry of which it comes; without one, whenever the load is switched on', {
    optional: true,
  })
  mode?: string;
  @Quantity('s', 1e-3, 1e8, 'Comes again so often for as long as that lasts', {
    optional: true,
    label: 'Every',
  })
  every?: number;
}

/** What a load does below its range: draw on, draw nothing until it is next switched on, start anew, or glow less. */
export const BELOW = ['works', 'stops', 'resets', 'dims'] as const;

/** What it takes a load to start anew. */
export class Restart {
  @Quantity('s', 1e-3, 1e5, 'How long it takes', { label: 'Takes' })
  seconds!: number;
  @Quantity('', 0, 1e9, 'W, A or Ω meanwhile, by what the load keeps constant', { label: 'Draws meanwhile' })
  value!: number;
}

/** When a load that is not essential is switched off for good, so that the others last longer. */
export class Shedding {
  @Quantity('', 0, 1, 'State of charge below which it is switched off', { optional: true, label: 'Charge' })
  soc?: number;
  @Quantity('V', 0.01, 1000, 'Volts of the pack below which it is switched off', {
    optional: true,
    label: 'Volts of the pack',
  })
  volts?: number;
}
