import { CurrentSense, SoftStart } from './aids.ts';
import { GRADES, type Grade } from './grade.ts';
import { Choice, Flag, Part, PartOf, Quantity, Whole } from './fields.ts';

/** Parts of a switching stage, as a schematic and its data sheets give them. All at working temperature. */

/** A wound part. Ratings are left out where unknown; what they would check is then not judged. */
export class Inductor {
  @Quantity('H', 1e-9, 1, 'Inductance')
  inductance!: number;
  @Quantity('Ω', 0, 100, 'Resistance of the winding (DCR)', { label: 'Winding' })
  resistance!: number;
  @Quantity('A', 1e-3, 2000, 'Current at which the inductance has fallen by its rated share', {
    optional: true,
    label: 'Saturates at',
  })
  saturationCurrent?: number;
  @Quantity('A', 1e-3, 2000, 'RMS current for the rated temperature rise', {
    optional: true,
    label: 'RMS rating',
  })
  rmsCurrent?: number;
  @Quantity('W', 0, 1e3, 'Core loss at the ripple and frequency below', { optional: true })
  coreLoss?: number;
  @Quantity('A', 1e-3, 2000, 'Ripple, peak to peak, at which the core loss was stated', {
    optional: true,
    label: 'Core loss at ripple',
  })
  coreRipple?: number;
  @Quantity('Hz', 1e3, 1e8, 'Frequency at which the core loss was stated', {
    optional: true,
    label: 'Core loss at frequency',
  })
  coreFrequency?: number;
  @Quantity('K/W', 0, 1000, 'Winding above the air per watt', { optional: true, label: 'Part to air' })
  thermalResistance?: number;
}

/** What conducts, one way or both. */
export class Conductor {
  @Choice(['switch', 'diode'], 'What conducts', { label: 'Type' })
  type!: string;
  @Quantity('V', 0.1, 5000, 'Voltage rating', { optional: true, label: 'Stands' })
  maxVolts?: number;
  @Quantity('A', 1e-3, 5000, 'Current rating: RMS of a switch, average of a diode', {
    optional: true,
    label: 'Current rating',
  })
  maxAmps?: number;
}

/** A transistor that switches. */
export class Switch extends Conductor {
  declare type: 'switch';
  @Quantity('Ω', 0, 100, 'Resistance when on, warm', { label: 'On-resistance' })
  resistance!: number;
  @Quantity('C', 0, 1e-5, 'Charge to turn it on')
  gateCharge!: number;
  @Quantity('F', 0, 1e-6, 'Output capacitance that is discharged each period')
  outputCapacitance!: number;
  @Quantity('s', 0, 1e-5, 'Time current and voltage overlap when it turns on', { label: 'Turns on in' })
  turnOnTime!: number;
  @Quantity('s', 0, 1e-5, 'Time current and voltage overlap when it turns off', { label: 'Turns off in' })
  turnOffTime!: number;
}

/** A diode: a constant drop and a slope. Its reverse recovery is not modelled. */
export class Diode extends Conductor {
  declare type: 'diode';
  @Quantity('V', 0, 2, 'Forward drop, constant part', { label: 'Forward drop' })
  forwardVolts!: number;
  @Quantity('Ω', 0, 10, 'Forward drop per ampere', { label: 'Slope' })
  resistance!: number;
}

export type Rectifier = Switch | Diode;
const RECTIFIERS = { property: 'type', classes: { switch: Switch, diode: Diode } };

/** One or several equal capacitors side by side. */
export class Capacitor {
  @Quantity('F', 1e-10, 1, 'Capacitance of one piece as marked')
  capacitance!: number;
  @Whole(1, 100, 'Pieces side by side', { label: 'Pieces' })
  count!: number;
  @Quantity('', 0.05, 1, 'Share of the marked value left at the working voltage (DC bias of ceramics)', {
    label: 'Left at its volts',
  })
  biasShare!: number;
  @Quantity('Ω', 0, 100, 'Series resistance of one piece', { label: 'ESR' })
  esr!: number;
  @Quantity('A', 1e-4, 1000, 'RMS current rating of one piece', { optional: true, label: 'Ripple rating' })
  rippleCurrent?: number;
  @Quantity('V', 0.5, 5000, 'Voltage rating', { optional: true, label: 'Stands' })
  maxVolts?: number;
}

/** Feedback divider and reference that set the output. */
export class Divider {
  @Quantity('V', 0.05, 50, 'Reference of the controller', { label: 'Reference' })
  reference!: number;
  @Quantity('', 0, 0.2, 'Tolerance of the reference')
  referenceTolerance!: number;
  @Quantity('Ω', 1, 1e8, 'Resistor from output to feedback')
  top!: number;
  @Quantity('Ω', 1, 1e8, 'Resistor from feedback to ground')
  bottom!: number;
  @Quantity('', 0, 0.2, 'Tolerance of both resistors')
  resistorTolerance!: number;
  @Quantity('A', -1e-4, 1e-4, 'Current into the feedback pin, at most', { optional: true, label: 'Pin bias' })
  pinBias?: number;
}

/** Inductor and capacitor behind the stage that keep its ripple from the load. */
export class OutputFilter {
  @Quantity('H', 1e-9, 1, 'Inductance')
  inductance!: number;
  @Quantity('Ω', 0, 10, 'Resistance of its winding or bead', { label: 'Winding' })
  resistance!: number;
  @Quantity('F', 1e-10, 1, 'Capacitance behind it')
  capacitance!: number;
  @Quantity('Ω', 0, 10, 'Series resistance of that capacitor', { label: 'ESR' })
  esr!: number;
  @Quantity('F', 1e-10, 1, 'Damping capacitor in parallel', { optional: true })
  dampingCapacitance?: number;
  @Quantity('Ω', 1e-3, 100, 'Resistor in series with the damping capacitor', { optional: true })
  dampingResistance?: number;
}

export const LIGHT_LOAD = ['forced', 'emulation', 'pulses'] as const;
export type LightLoad = (typeof LIGHT_LOAD)[number];

/** What all switching stages have in common at parts depth. */
export class PartsBase {
  @Flag('Whether the run-down uses these parts; off keeps them, and the stated loss counts', {
    label: 'Run-down uses the parts',
  })
  used!: boolean;
  @Choice(GRADES, 'Where the figures of the parts come from')
  grade!: Grade;
  @Quantity('Hz', 1e3, 1e7, 'Switching frequency')
  frequency!: number;
  @Choice(
    LIGHT_LOAD,
    'At light load: `forced` keeps switching through zero, `emulation` stops at zero current, `pulses` also lowers the frequency',
  )
  lightLoad!: LightLoad;
  @Quantity('A', 0, 1000, 'Least peak of the inductor current in `pulses`', {
    optional: true,
    label: 'Pulse peak',
  })
  pulsePeak?: number;
  @Quantity('A', 1e-3, 2000, 'Peak of the inductor current at which the controller cuts off', {
    label: 'Peak limit',
  })
  peakLimit!: number;
  @Quantity('s', 0, 1e-4, 'Shortest time the switch can be on')
  minOnTime!: number;
  @Quantity('s', 0, 1e-5, 'Both switches off at each edge; the body diode conducts', { label: 'Dead time' })
  deadTime!: number;
  @Quantity('V', 0, 30, 'Voltage the gates are driven with', { label: 'Gate drive' })
  driveVolts!: number;
  @Part(() => Inductor, 'Inductor')
  inductor!: Inductor;
  @Part(() => Capacitor, 'Capacitors at the input')
  inputCapacitor!: Capacitor;
  @Part(() => Capacitor, 'Capacitors at the output')
  outputCapacitor!: Capacitor;
  @Quantity('V', 1e-6, 100, 'Ripple the load allows, peak to peak', {
    optional: true,
    label: 'Ripple allowed',
  })
  rippleAllowed?: number;
  @Flag('All switches and the controller share one package', { label: 'One package' })
  integrated!: boolean;
  @Quantity('K/W', 0, 1000, 'Junction above the air per watt: of the package, or of each switch by itself', {
    label: 'Junction to air',
  })
  thermalResistance!: number;
  @Quantity('°C', 0, 300, 'Hottest junction allowed; one package folds back there', {
    label: 'Junction limit',
  })
  maxJunction!: number;
  @Part(() => Divider, 'Feedback divider', { optional: true })
  divider?: Divider;
  @Part(() => CurrentSense, 'Resistor that makes the peak limit', { optional: true })
  sense?: CurrentSense;
  @Part(() => SoftStart, 'Soft start', { optional: true })
  softStart?: SoftStart;
  @Part(() => OutputFilter, 'Output filter', { optional: true })
  filter?: OutputFilter;
}

/** A buck or boost: one switch, one rectifier. */
export class TwoSwitchParts extends PartsBase {
  @Part(() => Switch, 'Switch that the controller drives first', { label: 'Switch' })
  main!: Switch;
  @PartOf(() => Conductor, RECTIFIERS, 'Diode or synchronous switch')
  rectifier!: Rectifier;
}

/** A four-switch buck-boost: S1, S2 on the input side, S3, S4 on the output side. */
export class FourSwitchParts extends PartsBase {
  @Part(() => Switch, 'Input to inductor', { label: 'S1' })
  buckHigh!: Switch;
  @PartOf(() => Conductor, RECTIFIERS, 'Ground to inductor, input side', { label: 'S2' })
  buckLow!: Rectifier;
  @Part(() => Switch, 'Inductor to ground, output side', { label: 'S3' })
  boostLow!: Switch;
  @PartOf(() => Conductor, RECTIFIERS, 'Inductor to output', { label: 'S4' })
  boostHigh!: Rectifier;
}

/** A SEPIC: a boost's switch, a coupling capacitor, a second inductor. */
export class SepicParts extends TwoSwitchParts {
  @Part(() => Inductor, 'Inductor from ground to the rectifier')
  secondInductor!: Inductor;
  @Part(() => Capacitor, 'Capacitor from the switch to the second inductor')
  couplingCapacitor!: Capacitor;
}

export type StageParts = TwoSwitchParts | FourSwitchParts | SepicParts;

/** Limits a seller's listing or a chip's data sheet states. The strictest of all that are given counts. */
export class LimitSet {
  @Quantity('A', 1e-3, 2000, 'Largest output current', { optional: true, label: 'Output current' })
  outputAmps?: number;
  @Quantity('W', 1e-3, 1e5, 'Largest output power', { optional: true, label: 'Output power' })
  outputWatts?: number;
  @Quantity('A', 1e-3, 2000, 'Largest input or switch current', { optional: true, label: 'Input current' })
  inputAmps?: number;
  @Quantity('V', 0, 1000, 'Least input volts', { optional: true, label: 'Input minimum' })
  minInput?: number;
  @Quantity('V', 0, 1000, 'Highest input volts', { optional: true, label: 'Input maximum' })
  maxInput?: number;
  @Quantity('', 0.05, 1, 'Efficiency stated', { optional: true, label: 'Efficiency' })
  efficiency?: number;
}
