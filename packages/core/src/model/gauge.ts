import { Choice, Flag, Numbers, Quantity, Whole } from './fields.ts';

/** How a level is told: comparators along a string of resistors, or a converter behind a divider. */
export const GAUGES = ['ladder', 'converter'] as const;

/** What shows how full the pack is. */
export class Gauge {
  @Choice(GAUGES, 'Comparators along a string of resistors, or a converter behind a divider', {
    label: 'Told by',
  })
  kind!: (typeof GAUGES)[number];
  @Numbers('', 0.01, 0.99, [1, 8], 'Levels at which it changes, of the charge that is of use, rising')
  levels!: number[];
  @Quantity('V', 0.2, 12, 'Reference: across the string, or full scale of the converter')
  reference!: number;
  @Quantity('Ω', 100, 1e8, 'Resistor of the divider to the pack', { label: 'Divider, upper' })
  upper!: number;
  @Quantity('Ω', 100, 1e8, 'Resistor of the divider to ground', { label: 'Divider, lower' })
  lower!: number;
  @Quantity('Ω', 1e3, 1e8, 'Whole string of resistors across the reference', {
    optional: true,
    label: 'String, whole',
  })
  string?: number;
  @Whole(6, 24, 'Bits of the converter', { optional: true, label: 'Bits' })
  bits?: number;
  @Quantity('A', 0, 0.1, 'What comparators, reference or converter draw themselves', { label: 'Own draw' })
  supply!: number;
  @Quantity('V', 0, 2, 'How much higher the pack must be before a level comes back', { label: 'Hysteresis' })
  hysteresis!: number;
  @Quantity('A', 0, 0.05, 'Current of one indicator light', { optional: true, label: 'A light' })
  light?: number;
  @Quantity('V', 1, 5, 'Volts across a light', { optional: true, label: 'Volts of a light' })
  lightVolts?: number;
  @Flag('Lights are lit all the time, rather than at a press', { optional: true, label: 'Lit always' })
  lit?: boolean;
  @Flag('Hangs behind the disconnect switch, so that this takes it off', {
    optional: true,
    label: 'Behind the switch',
  })
  switched?: boolean;
}

/** Volts across a light where nothing is said: a red or yellow LED. Common practice, no source. */
export const LIGHT_VOLTS = 2;

/**
 * [A] what a gauge takes at some volts of the pack: its divider, its string and itself; and its lights, as many as levels,
 * half of them lit where they are lit always. Elementary.
 */
export function gaugeAmps(gauge: Gauge, volts: number): { itself: number; lights: number } {
  const { kind, upper, lower, string, reference, supply, lit, light = 0, levels } = gauge;
  const taps = kind === 'ladder' && string ? reference / string : 0;
  return {
    itself: volts / (upper + lower) + taps + supply,
    lights: lit ? (light * levels.length) / 2 : 0,
  };
}
