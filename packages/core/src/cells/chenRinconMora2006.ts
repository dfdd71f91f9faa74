import type { CellRecord } from '../model/cell.ts';
import { socKnots } from './knots.ts';

/**
 * The 850 mAh polymer cell of M. Chen and G. A. Rincón-Mora, "Accurate electrical battery model capable of
 * predicting runtime and I-V performance", IEEE Trans. Energy Conversion 21 (2006) 504 (constants from memory).
 * All functions of the state of charge s, 0…1. OCV(1) is 4.103 V: this is no 4.2 V cell.
 */
export const chenRinconMora = {
  /** [V] */
  ocv: (s: number) => -1.031 * Math.exp(-35 * s) + 3.685 + 0.2156 * s - 0.1178 * s * s + 0.3201 * s ** 3,
  /** [Ω] */
  r0: (s: number) => 0.1562 * Math.exp(-24.37 * s) + 0.07446,
  /** [Ω] seconds branch */
  rShort: (s: number) => 0.3208 * Math.exp(-29.14 * s) + 0.04669,
  /** [F] negative below s = 0.0050 as printed: clamped there */
  cShort: (s: number) => Math.max(MIN_FARADS, -752.9 * Math.exp(-13.51 * s) + 703.6),
  /** [Ω] minutes branch */
  rLong: (s: number) => 6.603 * Math.exp(-155.2 * s) + 0.04984,
  /** [F] negative below s = 0.0112 as printed: clamped there */
  cLong: (s: number) => Math.max(MIN_FARADS, -6056 * Math.exp(-27.12 * s) + 4475),
};

/** [F] What the branch capacitances are held at where the printed fits go negative. */
const MIN_FARADS = 1;

/** The cell as a record: both branches, tables dense towards empty where the exponentials bend. */
export function chenRinconMoraRecord(): CellRecord {
  const soc = socKnots();
  const f = chenRinconMora;
  const branch = (r: (s: number) => number, c: (s: number) => number) => ({
    soc,
    ohms: soc.map(r),
    farads: soc.map(c),
  });
  return {
    name: 'Polymer 850 mAh, published model',
    chemistry: 'LCO',
    capacityAh: 0.85,
    fullVolts: 4.1029,
    endVolts: 3.0,
    damageVolts: 2.654,
    ocv: { soc, volts: soc.map(f.ocv) },
    r0: { soc, ohms: soc.map(f.r0) },
    branches: [branch(f.rShort, f.cShort), branch(f.rLong, f.cLong)],
    dischargeRate: 1,
    chargeRate: 1,
    selfDischargePerMonth: 0.03,
    mass: 0.02,
    body: { kind: 'pouch', length: 0.05, width: 0.034, thickness: 0.005 },
    grade: 'published',
    source:
      'Chen and Rincón-Mora, IEEE Trans. Energy Conversion 21 (2006) 504, from memory; branch capacitances clamped at 1 F where the fits go negative; ratings, mass and body assumed',
  };
}
