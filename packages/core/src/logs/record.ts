import type { CellRecord } from '../model/cell.ts';
import { chemistryOf, type ChemistryName } from '../model/chemistries/registry.ts';
import type { CellCurves } from './discharges.ts';

interface Named {
  name: string;
  chemistry: ChemistryName;
  /** [V] at which it was stopped, the lower of both logs */
  endVolts: number;
  /** the day, as it is to be read: 2026-05-01 */
  date: string;
}

/** Share lost a month. Common practice, no source. */
const LOST_A_MONTH = 0.02;
/** Charge rate assumed where none was measured. Common practice, no source. */
const CHARGE_RATE = 0.5;

const short = (v: number) => Number(v.toPrecision(4));

/** A cell as it was measured. What two discharges cannot tell is assumed, and its source says so. */
export function recordFrom(curves: CellCurves, { name, chemistry, endVolts, date }: Named): CellRecord {
  const { capacityAh, soc, ocv, ohms, amps, residual, warmth } = curves;
  const rates = amps.map((a) => `${short(a / capacityAh)} C`).join(' and ');
  const factors = (list: readonly number[]) => ({ celsius: warmth!.celsius, factors: list.map(short) });
  return {
    name,
    chemistry,
    capacityAh: short(capacityAh),
    fullVolts: short(ocv.at(-1)!),
    endVolts: short(endVolts),
    damageVolts: Math.min(chemistryOf(chemistry).harm, short(endVolts)),
    ocv: { soc: [...soc], volts: ocv.map((v) => Number(v.toFixed(5))) },
    r0: { soc: [...soc], ohms: ohms.map((r) => Number(r.toPrecision(5))) },
    branches: [],
    dischargeRate: short(Math.max(1, amps.at(-1)! / capacityAh)),
    chargeRate: CHARGE_RATE,
    selfDischargePerMonth: LOST_A_MONTH,
    ...(warmth
      ? {
          temperature: {
            resistance: factors(warmth.resistance),
            capacity: factors(warmth.capacity),
            grade: 'measured' as const,
            source: `Measured ${date}, the resistance taken out of the charge.`,
          },
        }
      : {}),
    grade: 'measured',
    source: `Measured ${date}: discharges at ${rates}, residual ${(1e3 * residual.rms).toFixed(1)} mV. Assumed: rates, self-discharge, harm.`,
  };
}
