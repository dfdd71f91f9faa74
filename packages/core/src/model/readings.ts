import { Quantity, Text } from './fields.ts';

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
}
