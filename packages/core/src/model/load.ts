import { Choice, Flag, Part, Parts, Quantity, Text } from './fields.ts';
import { MOST_MODES, ModeDraw } from './programme.ts';
import { GRADES, type Grade } from './grade.ts';

export const DRAWS = ['power', 'current', 'resistance'] as const;
export type Draw = (typeof DRAWS)[number];

/** The range of volts a load works in. */
export class VoltRange {
  @Quantity('V', 0, 1000, 'Lowest volts at which the load still works', { label: 'Works from' })
  min!: number;
  @Quantity('V', 0.01, 1000, 'Highest volts the load stands', { label: 'Works up to' })
  max!: number;
}

/** Something that uses the power. Exactly the field named by `draw` says how much. */
export class Load {
  @Text(40, 'Identifier, unique in the thread', { pattern: /^[A-Za-z0-9_-]+$/ })
  id!: string;
  @Text(60, 'Name')
  name!: string;
  @Text(40, 'Where it hangs: `pack` or the id of a stage', { label: 'Fed from' })
  from!: string;
  @Choice(DRAWS, 'What the load keeps constant')
  draw!: Draw;
  @Quantity('W', 0, 1e5, 'Power drawn whatever the volts', { optional: true })
  power?: number;
  @Quantity('A', 0, 2000, 'Current drawn whatever the volts', { optional: true })
  current?: number;
  @Quantity('Ω', 1e-3, 1e9, 'Resistance of the load', { optional: true })
  resistance?: number;
  @Parts(() => ModeDraw, [0, MOST_MODES], 'What it draws in modes where that differs', { optional: true })
  draws?: ModeDraw[];
  @Part(() => VoltRange, 'Volts the load works in')
  range!: VoltRange;
  @Flag('The run counts as ended when this load leaves its range')
  essential!: boolean;
  @Choice(GRADES, 'Where the figures come from')
  grade!: Grade;
}
