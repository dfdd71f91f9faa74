import { defaultBoost } from '../model/kinds/boost.ts';
import { defaultBuck } from '../model/kinds/buck.ts';
import { defaultBuckBoost } from '../model/kinds/buckBoost.ts';
import { defaultLinear } from '../model/kinds/linear.ts';
import type { Converter, Stage } from '../model/kinds/registry.ts';
import { defaultSepic } from '../model/kinds/sepic.ts';
import type { LossPoint } from '../model/loss.ts';
import type { StageParts } from '../model/parts.ts';
import { RECORD_FORMAT, type StageRecord } from '../model/record.ts';
import { partsLaw } from '../stages/traits.ts';
import { partsFor, type InputRange } from './suggest.ts';

/** Generic stages, no brand: limits, quiescent current, a table of readings and a set of parts each. Typical. */
export function stageLibrary(): StageRecord[] {
  return [
    linear('Classic linear, 5 V 1 A', 'Large headroom, large quiescent current, sturdy package.', {
      ...defaultLinear('record', 'pack', 5),
      dropoutVolts: 1.7,
      dropoutResistance: 0.3,
      quiescentCurrent: 5e-3,
      outputLimit: 1,
      maxInput: 30,
      minInput: 4,
      thermalResistance: 50,
    }),
    linear('LDO, 3.3 V 300 mA', 'Small package; the heat decides before the current does.', {
      ...defaultLinear('record', 'pack', 3.3),
      dropoutResistance: 0.8,
      quiescentCurrent: 55e-6,
      outputLimit: 0.3,
      maxInput: 6,
      thermalResistance: 160,
    }),
    linear('LDO, 3.3 V 150 mA, 1 µA', 'For what is always on.', {
      ...defaultLinear('record', 'pack', 3.3),
      dropoutResistance: 2,
      quiescentCurrent: 1e-6,
      outputLimit: 0.15,
      maxInput: 6,
      thermalResistance: 200,
    }),
    switching(
      'Small boost, 5 V 1 A from one cell',
      'Synchronous, 1 MHz, light-load pulses.',
      {
        ...defaultBoost('record', 'pack', 5),
        rectifierVolts: 0,
        minInput: 2.3,
        maxInput: 5.5,
        inputLimit: 2.5,
      },
      { low: 2.8, high: 4.2 },
      1,
      1e6,
      35e-6,
    ),
    switching(
      'Large boost, 24 V 3 A from 4 to 6 cells',
      'Diode, 250 kHz, discrete switch.',
      {
        ...defaultBoost('record', 'pack', 24),
        rectifierVolts: 0.45,
        minInput: 9,
        maxInput: 32,
        inputLimit: 12,
      },
      { low: 11, high: 22 },
      3,
      250e3,
      4e-3,
    ),
    switching(
      'Buck, 5 V 2 A',
      'Synchronous, 570 kHz.',
      { ...defaultBuck('record', 'pack', 5), minInput: 5.5, maxInput: 24, outputLimit: 2.5, maxDuty: 0.94 },
      { low: 6, high: 21 },
      2,
      570e3,
      150e-6,
    ),
    switching(
      'Small buck, 3.3 V 600 mA',
      'Synchronous, 1.2 MHz, light-load pulses.',
      { ...defaultBuck('record', 'pack', 3.3), minInput: 3.5, maxInput: 17, outputLimit: 0.6, maxDuty: 1 },
      { low: 4, high: 13 },
      0.6,
      1.2e6,
      25e-6,
    ),
    switching(
      'Buck-boost, 9 V 1 A',
      'Four switches, 600 kHz.',
      {
        ...defaultBuckBoost('record', 'pack', 9),
        minInput: 5,
        maxInput: 20,
        inputLimit: 4,
        outputLimit: 1.5,
      },
      { low: 7.5, high: 12.6 },
      1,
      600e3,
      1.2e-3,
    ),
    switching(
      'SEPIC, 5 V 700 mA from one or two cells',
      'Diode, 400 kHz.',
      { ...defaultSepic('record', 'pack', 5), minInput: 2.7, maxInput: 18, inputLimit: 3 },
      { low: 3, high: 8.4 },
      0.7,
      400e3,
      0.9e-3,
    ),
  ];
}

function record(name: string, notes: string, stage: Stage): StageRecord {
  return { format: RECORD_FORMAT, version: 1, name, notes, stage: { ...stage, grade: 'typical' } };
}

function linear(name: string, notes: string, stage: Stage): StageRecord {
  return record(name, notes, stage);
}

/** Parts by the usual rules; the readings are what those parts give, so that both depths agree. */
function switching<C extends Converter>(
  name: string,
  notes: string,
  base: C,
  range: InputRange,
  iout: number,
  frequency: number,
  quiescentCurrent: number,
): StageRecord {
  const bare: C = { ...base, loss: { ...base.loss, quiescentCurrent } };
  const parts: StageParts = { ...partsFor(bare, range, iout, frequency), used: false, grade: 'typical' };
  const stage = { ...bare, parts } as C;
  return record(name, notes, {
    ...stage,
    loss: { basis: 'points', quiescentCurrent, points: readings(stage, range, iout) },
  });
}

/** Shares of the full load at which a stage is read. */
const LOADS = [0.02, 0.1, 0.3, 0.6, 1];

function readings(stage: Converter, range: InputRange, iout: number): LossPoint[] {
  const law = partsLaw(stage);
  const vout = stage.outputVolts;
  return [range.low, (range.low + range.high) / 2, range.high].flatMap((v) =>
    LOADS.flatMap((share): LossPoint[] => {
      const inputVolts = Number(v.toPrecision(3));
      const outputAmps = Number((share * iout).toPrecision(3));
      const into = inputVolts * law.at(inputVolts, vout, outputAmps).inputAmps;
      const efficiency = Number(((vout * outputAmps) / into).toPrecision(3));
      return efficiency > 0.05 && efficiency < 1 ? [{ inputVolts, outputAmps, efficiency }] : [];
    }),
  );
}
