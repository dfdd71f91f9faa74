import { Choice, Numbers, Part, Quantity, Text } from './fields.ts';
import { GRADES, type Grade } from './grade.ts';

/** Points of a table over temperature. */
const POINTS = [1, 40] as const;

/** A factor over temperature: straight between its points, held beyond them. */
export class FactorTable {
  @Numbers('°C', -80, 150, POINTS, 'Temperatures, rising')
  celsius!: number[];
  @Numbers('', 0.01, 100, POINTS, 'Factor at each, 1 where the figures of the record hold')
  factors!: number[];
}

/** What cold and warmth do to a cell whose other figures hold at 25 °C. */
export class CellTemperature {
  @Part(() => FactorTable, 'Every resistance, as a factor over temperature', { optional: true })
  resistance?: FactorTable;
  @Quantity('J/mol', 0, 1e5, 'Activation energy of every resistance (Arrhenius), in place of a table', {
    optional: true,
    label: 'Resistance, activation energy',
  })
  activation?: number;
  @Part(() => FactorTable, 'Charge it can give, as a factor over temperature', { optional: true })
  capacity?: FactorTable;
  @Quantity(
    'C',
    0.001,
    200,
    'Rate at which that charge was drawn down to the end volts; the resistance is taken out of it. Left out: it is out already',
    {
      optional: true,
      label: 'Charge was found at',
    },
  )
  capacityRate?: number;
  @Quantity('K', 1, 100, 'Warmer by so much, it discharges itself twice as fast', {
    optional: true,
    label: 'Self-discharge doubles every',
  })
  selfDischargeDoubles?: number;
  @Quantity('°C', -80, 150, 'Coldest at which it may be discharged', {
    optional: true,
    label: 'Discharge, coldest',
  })
  minDischarge?: number;
  @Quantity('°C', -80, 150, 'Warmest at which it may be discharged', {
    optional: true,
    label: 'Discharge, warmest',
  })
  maxDischarge?: number;
  @Quantity('°C', -80, 150, 'Coldest at which it may be charged', {
    optional: true,
    label: 'Charge, coldest',
  })
  minCharge?: number;
  @Quantity('°C', -80, 150, 'Warmest at which it may be charged', {
    optional: true,
    label: 'Charge, warmest',
  })
  maxCharge?: number;
  @Choice(GRADES, 'Where the figures come from')
  grade!: Grade;
  @Text(400, 'Source of the figures', { optional: true })
  source?: string;
}

/** How a pack holds and sheds its warmth. */
export class PackWarmth {
  @Quantity('J/K', 1e-3, 1e6, 'Heat that warms all its cells by one kelvin', { label: 'Heat capacity' })
  heatCapacity!: number;
  @Quantity('K/W', 1e-3, 1e4, 'Cells above the air around them, per watt of heat', {
    label: 'Cells to air',
  })
  resistance!: number;
  @Quantity('°C', -60, 150, 'Cells at the start; as the air where left out', {
    optional: true,
    label: 'Cells at the start',
  })
  start?: number;
  @Choice(GRADES, 'Where the figures come from')
  grade!: Grade;
}
