import { Choice, Numbers, Quantity, Text, Whole } from './fields.ts';

/** Most readings kept with a thread. */
export const MOST_READINGS = 400;

/** Something that was measured, at a step of the measuring plan. */
export class BenchReading {
  @Text(80, 'Step of the measuring plan it was taken at')
  step!: string;
  @Quantity('', -1e9, 1e9, 'What was read, in the unit of its step', { label: 'Reading' })
  value!: number;
  @Quantity('', 0, 0.5, 'Accuracy of the instrument, as a share of the reading', {
    optional: true,
    label: 'Accuracy',
  })
  accuracy?: number;
  @Text(60, 'Instrument it was taken with', { optional: true, label: 'Instrument' })
  instrument?: string;
  @Text(40, 'When, as a date of ISO 8601', { optional: true, label: 'When' })
  at?: string;
  @Quantity('°C', -60, 100, 'Air meanwhile', { optional: true, label: 'Air' })
  air?: number;
  @Text(200, 'What else there is to say', { optional: true, label: 'Note' })
  note?: string;
  @Text(40, 'Day on which it was taken into the design: what is explained afterwards does without it', {
    optional: true,
    label: 'Taken over',
  })
  taken?: string;
}

/** Most curves kept with a thread, and points of each; longer logs are thinned, their dips kept. */
export const MOST_CURVES = 4;
export const MOST_POINTS = 6000;

/** A logged run-down, read where the pack's leads begin. */
export class BenchCurve {
  @Text(80, 'Name, such as that of its file')
  name!: string;
  @Text(40, 'When, as a date of ISO 8601', { optional: true, label: 'When' })
  at?: string;
  @Numbers(
    's',
    0,
    1e9,
    [8, MOST_POINTS],
    'Time, rising; where the load is on from the first point, since it was switched on',
  )
  seconds!: number[];
  @Numbers('V', -10, 2000, [8, MOST_POINTS], 'Volts of the pack')
  volts!: number[];
  @Numbers('A', -2000, 2000, [8, MOST_POINTS], 'Current out of the pack', { optional: true })
  amps?: number[];
  @Quantity('', 0, 0.5, 'Accuracy of the instrument, as a share of the reading', {
    optional: true,
    label: 'Accuracy',
  })
  accuracy?: number;
  @Text(40, 'Day on which it was taken into the design: what is explained afterwards does without it', {
    optional: true,
    label: 'Taken over',
  })
  taken?: string;
}

/** Most cells that are graded at once. */
export const MOST_GRADED = 200;

/** A cell that is to be graded, and where it goes. */
export class BenchCell {
  @Text(20, 'Its number, as on its label')
  id!: string;
  @Quantity('V', 0, 6, 'Volts at rest', { optional: true, label: 'Rest' })
  restVolts?: number;
  @Quantity('Ah', 0, 1000, 'Measured capacity', { optional: true, label: 'Capacity' })
  capacityAh?: number;
  @Quantity('Ω', 0, 10, 'Measured resistance', { optional: true, label: 'Resistance' })
  ohms?: number;
  @Quantity('V', -0.1, 6, 'Volts lost in the rest test', { optional: true, label: 'Lost at rest' })
  lostVolts?: number;
  @Choice(['drawer', 'aside'], 'Where it lies when it is in no group', { optional: true })
  lies?: 'drawer' | 'aside';
  @Whole(0, 199, 'Group in series it goes into, from the negative end', { optional: true })
  group?: number;
}
