import { CHEMISTRIES, type ChemistryName } from './chemistries/registry.ts';
import { BODY_VARIANTS, CellBody, type Body } from './body.ts';
import { Choice, Numbers, Part, PartOf, Parts, Quantity, Text } from './fields.ts';
import { GRADES, type Grade } from './grade.ts';
import { CellTemperature } from './temperature.ts';

/** Most knots in a table over state of charge; enough for a curve logged every half per cent. */
const KNOTS = [2, 400] as const;

/** Open-circuit voltage over state of charge; PCHIP between the knots. */
export class VoltageCurve {
  @Numbers('', 0, 1, KNOTS, 'State of charge at each knot, rising from 0 to 1')
  soc!: number[];
  @Numbers('V', 0, 10, KNOTS, 'Open-circuit voltage at each knot, never falling')
  volts!: number[];
}

/** Ohmic resistance over state of charge. */
export class ResistanceCurve {
  @Numbers('', 0, 1, KNOTS, 'State of charge at each knot, rising from 0 to 1')
  soc!: number[];
  @Numbers('Ω', 0, 1000, KNOTS, 'Resistance at each knot')
  ohms!: number[];
}

/** One resistor-capacitor pair in series with the cell. */
export class RcBranch {
  @Numbers('', 0, 1, KNOTS, 'State of charge at each knot, rising from 0 to 1')
  soc!: number[];
  @Numbers('Ω', 0, 1000, KNOTS, 'Resistance of the branch at each knot')
  ohms!: number[];
  @Numbers('F', 1e-6, 1e9, KNOTS, 'Capacitance of the branch at each knot')
  farads!: number[];
}

/** A lithium cell as the planner knows it. */
export class CellRecord {
  @Text(80, 'Name of the cell')
  name!: string;
  @Choice(CHEMISTRIES, 'Chemistry')
  chemistry!: ChemistryName;
  @Quantity('Ah', 1e-4, 1000, 'Rated capacity at 0.2 C to the end voltage', { label: 'Capacity' })
  capacityAh!: number;
  @Quantity('V', 0.5, 6, 'Voltage of a full cell at rest')
  fullVolts!: number;
  @Quantity('V', 0.1, 6, 'Rated end-of-discharge voltage')
  endVolts!: number;
  @Quantity('V', 0, 6, 'Voltage below which the cell is damaged')
  damageVolts!: number;
  @Part(() => VoltageCurve, 'Open-circuit voltage over state of charge')
  ocv!: VoltageCurve;
  @Part(() => ResistanceCurve, 'Ohmic resistance over state of charge')
  r0!: ResistanceCurve;
  @Parts(() => RcBranch, [0, 2], 'Resistor-capacitor branches, fast one first')
  branches!: RcBranch[];
  @Quantity('C', 0.001, 200, 'Rated continuous discharge, as a multiple of the capacity per hour', {
    label: 'Discharge rate',
  })
  dischargeRate!: number;
  @Quantity('C', 0.001, 500, 'Rated discharge for a few seconds, as a multiple of the capacity per hour', {
    optional: true,
    label: 'Peak discharge rate',
  })
  peakDischargeRate?: number;
  @Quantity('C', 0.001, 200, 'Rated continuous charge, as a multiple of the capacity per hour', {
    label: 'Charge rate',
  })
  chargeRate!: number;
  @Quantity('', 0, 0.9, 'Self-discharge, fraction of what is left lost per month', {
    label: 'Self-discharge a month',
  })
  selfDischargePerMonth!: number;
  @Part(() => CellTemperature, 'What cold and warmth do to it; nothing where left out', { optional: true })
  temperature?: CellTemperature;
  @PartOf(() => CellBody, BODY_VARIANTS, 'What it takes up', { optional: true })
  body?: Body;
  @Quantity('kg', 0, 100, 'Mass of one cell', { optional: true })
  mass?: number;
  @Choice(GRADES, 'Where the figures come from')
  grade!: Grade;
  @Text(400, 'Source of the figures', { optional: true })
  source?: string;
}
