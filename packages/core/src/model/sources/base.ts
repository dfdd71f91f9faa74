import { Choice, Part, Quantity, Text } from '../fields.ts';
import { GRADES, type Grade } from '../grade.ts';

/** What a source does once more is asked of it than it gives. */
export const BEYOND = ['hard', 'soft', 'hiccup'] as const;

/** What an adapter takes from the wall besides what it gives: standby + a·P + b·P². */
export class Wall {
  @Quantity('W', 0, 1000, 'What it takes with nothing connected', { label: 'Standby' })
  standby!: number;
  @Quantity('', 0, 10, 'Loss per watt given', { label: 'Loss per W' })
  perWatt!: number;
  @Quantity('', 0, 1, 'Loss per square watt given', { label: 'Loss per W²' })
  perSquareWatt!: number;
}

/** What every source of charge has. */
export class SourceBase {
  @Text(60, 'Name')
  name!: string;
  @Text(20, 'How it is described')
  kind!: string;
  @Choice(BEYOND, 'Beyond its limit: holds the current, sags, or lets go and tries again', {
    label: 'Beyond its limit',
  })
  beyond!: (typeof BEYOND)[number];
  @Quantity('Ω', 0, 1000, 'How steeply it sags beyond its limit, where it does', {
    optional: true,
    label: 'Sags by',
  })
  sag?: number;
  @Part(() => Wall, 'What it takes from the wall besides; without it nothing', { optional: true })
  wall?: Wall;
  @Choice(GRADES, 'Where the figures come from')
  grade!: Grade;
}
