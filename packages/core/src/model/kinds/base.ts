import { LOSS_VARIANTS, LossModel, type Loss } from '../loss.ts';
import { LockoutDivider } from '../aids.ts';
import { Lead } from '../pack.ts';
import { LimitSet } from '../parts.ts';
import { Choice, Part, PartOf, Quantity, Text } from '../fields.ts';
import { GRADES, type Grade } from '../grade.ts';

/** What every stage has. */
export class StageBase {
  @Text(40, 'Identifier, unique in the thread', { pattern: /^(?!pack$)[A-Za-z0-9_-]+$/ })
  id!: string;
  @Text(60, 'Name')
  name!: string;
  @Text(20, 'Kind of stage')
  kind!: string;
  @Text(40, 'Where it hangs: `pack` or the id of a stage', { label: 'Fed from' })
  from!: string;
  @Quantity('V', 0, 1000, 'Highest input volts the stage stands', { label: 'Input maximum' })
  maxInput!: number;
  @Choice(GRADES, 'Where the figures come from')
  grade!: Grade;
}

/** A stage that holds its output at a set voltage and draws current for itself. */
export class RegulatedStage extends StageBase {
  @Quantity('V', 0.1, 1000, 'Output volts it is set to', { label: 'Output' })
  outputVolts!: number;
  @Quantity('V', 0, 1000, 'Input volts below which it switches off (under-voltage lock-out)', {
    label: 'Locks out below',
  })
  minInput!: number;
  @Quantity('V', 0, 100, 'Volts above the lock-out at which it starts again', { label: 'Hysteresis' })
  hysteresis!: number;
  @Quantity('A', 1e-6, 2000, 'Largest output current', { optional: true, label: 'Output limit' })
  outputLimit?: number;
  @Quantity('A', 0, 1, 'Input current when shut down with its loads; leave out if it stays on', {
    optional: true,
    label: 'Shut-down draw',
  })
  shutdownCurrent?: number;
  @Part(() => LimitSet, 'What the seller’s listing states', { optional: true, label: 'Listing' })
  listing?: LimitSet;
  @Part(() => LimitSet, 'What the chip’s data sheet states', { optional: true, label: 'Chip' })
  chip?: LimitSet;
  @Part(() => LockoutDivider, 'Divider that makes the lock-out', { optional: true })
  lockout?: LockoutDivider;
  @Part(() => Lead, 'Wires chosen for its input', { optional: true, label: 'Input wires' })
  inputWires?: Lead;
  @Part(() => Lead, 'Wires chosen for its output', { optional: true, label: 'Output wires' })
  outputWires?: Lead;
}

/** A switching stage whose loss is stated. */
export class ConverterStage extends RegulatedStage {
  @PartOf(() => LossModel, LOSS_VARIANTS, 'Loss')
  loss!: Loss;
  @Quantity('K/W', 0, 1000, 'Junction above the air per watt; with it the stage folds back when too hot', {
    optional: true,
    label: 'Junction to air',
  })
  thermalResistance?: number;
  @Quantity('°C', 0, 300, 'Hottest junction allowed', { optional: true, label: 'Junction limit' })
  maxJunction?: number;
}
