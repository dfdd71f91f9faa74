import { Choice, Flag, Part, Parts, Quantity, Text } from './fields.ts';
import { MOST_MODES, ModeDraw } from './programme.ts';
import { DRAWS, type Draw } from './draw.ts';
import { GRADES, type Grade } from './grade.ts';
import { BELOW, MOST_PEAKS, Peak, Restart, Shedding } from './peak.ts';

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
  @Quantity('V', 0.1, 1000, 'Volts from which a string of LEDs draws', { optional: true, label: 'Knee' })
  string?: number;
  @Quantity('Ω', 1e-3, 1e6, 'Volts over amps of the string above its knee, its resistor included', {
    optional: true,
  })
  slope?: number;
  @Parts(() => ModeDraw, [0, MOST_MODES], 'What it draws in modes where that differs', { optional: true })
  draws?: ModeDraw[];
  @Part(() => VoltRange, 'Volts the load works in')
  range!: VoltRange;
  @Parts(() => Peak, [0, MOST_PEAKS], 'Short whiles in which it draws more', { optional: true })
  peaks?: Peak[];
  @Choice(BELOW, 'What it does below its range', { optional: true, label: 'Below its range' })
  below?: (typeof BELOW)[number];
  @Part(() => Restart, 'What it takes to start anew where it resets', { optional: true })
  restart?: Restart;
  @Part(() => Shedding, 'When it is switched off for the others, where it is not essential', {
    optional: true,
  })
  shed?: Shedding;
  @Quantity('F', 1e-9, 100, 'Capacitance that is charged when it is connected', {
    optional: true,
    label: 'Input capacitance',
  })
  capacitance?: number;
  @Flag('The run counts as ended when this load leaves its range')
  essential!: boolean;
  @Choice(GRADES, 'Where the figures come from')
  grade!: Grade;
}
