import { Quantity } from './fields.ts';

/**
 * Small parts around a stage that a tool has worked out and the build sheet prints. They say how a figure of the stage is
 * made; the run follows the figure.
 */

/** Divider on the enable pin: makes the lock-out. */
export class LockoutDivider {
  @Quantity('Ω', 1, 1e9, 'Upper resistor, from the input to the pin')
  top!: number;
  @Quantity('Ω', 1, 1e9, 'Lower resistor, from the pin to ground')
  bottom!: number;
  @Quantity('V', 0.05, 50, 'Threshold of the pin')
  threshold!: number;
  @Quantity('A', 0, 1e-3, 'Current the pin gives once it is on: the hysteresis')
  pinCurrent!: number;
}

/** Resistor that senses the switch current: makes the peak limit. */
export class CurrentSense {
  @Quantity('Ω', 1e-5, 1000, 'Resistor')
  resistance!: number;
  @Quantity('V', 1e-4, 10, 'Threshold across it')
  threshold!: number;
  @Quantity('', 0, 0.9, 'Tolerance of the threshold, as a fraction')
  tolerance!: number;
}

/** Capacitor on the soft-start pin. */
export class SoftStart {
  @Quantity('F', 1e-13, 1, 'Capacitor')
  capacitance!: number;
  @Quantity('A', 1e-10, 1, 'Current of the pin')
  pinCurrent!: number;
  @Quantity('s', 1e-6, 1000, 'Time from off to the set output')
  seconds!: number;
}
