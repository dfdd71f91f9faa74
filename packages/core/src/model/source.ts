import { Choice, Part, Parts, Quantity, Text } from './fields.ts';
import { GRADES, type Grade } from './grade.ts';

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
  @Choice(['supply', 'contracts', 'readings'], 'How it is described')
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

/** A supply or adapter of one voltage. */
export class SupplySource extends SourceBase {
  declare kind: 'supply';
  @Quantity('V', 0.5, 100, 'Volts with nothing connected', { label: 'Open volts' })
  volts!: number;
  @Quantity('Ω', 0, 100, 'Volts it droops per ampere', { label: 'Droop' })
  droop!: number;
  @Quantity('A', 1e-3, 1000, 'Current it gives at most', { label: 'Gives at most' })
  limit!: number;
}

/** Volts a source can be asked for, and what it then gives; programmable where a least is stated. */
export class Offer {
  @Quantity('V', 1, 60, 'Volts; of programmable ones the highest')
  volts!: number;
  @Quantity('A', 0.01, 100, 'Current at most')
  amps!: number;
  @Quantity('V', 1, 60, 'Lowest volts of a programmable offer', { optional: true, label: 'From' })
  least?: number;
  @Quantity('V', 1e-3, 5, 'Step of a programmable offer', { optional: true, label: 'Step' })
  step?: number;
}

/** A source that several contracts can be had from, and what the trigger in front of the charger asks for. */
export class ContractSource extends SourceBase {
  declare kind: 'contracts';
  @Parts(() => Offer, [1, 12], 'What it offers')
  offers!: Offer[];
  @Quantity('V', 1, 60, 'Volts that are asked for', { label: 'Asked for' })
  asks!: number;
  @Quantity('Ω', 0, 100, 'Volts it droops per ampere', { label: 'Droop' })
  droop!: number;
}

/** Volts at a current, as measured on an adapter. */
export class SourceReading {
  @Quantity('A', 0, 1000, 'Current')
  amps!: number;
  @Quantity('V', 0.1, 100, 'Volts')
  volts!: number;
}

/** A plug adapter whose true curve comes from two or three readings. */
export class ReadSource extends SourceBase {
  declare kind: 'readings';
  @Parts(() => SourceReading, [2, 12], 'Readings at two loads or more')
  readings!: SourceReading[];
  @Quantity('A', 1e-3, 1000, 'Current on its label', { label: 'Gives at most' })
  limit!: number;
}

export const SOURCE_VARIANTS = {
  property: 'kind',
  classes: { supply: SupplySource, contracts: ContractSource, readings: ReadSource },
};
export type Source = SupplySource | ContractSource | ReadSource;
