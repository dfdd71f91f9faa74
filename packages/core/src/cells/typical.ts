import type { Body } from '../model/body.ts';
import type { CellRecord } from '../model/cell.ts';
import { typicalTemperature } from './temperature.ts';
import {
  CHEN_2020_WINDOWS,
  fullCellOcv,
  graphiteSafari2011,
  graphiteSiliconChen2020,
  LFP_WINDOWS,
  lfpSafari2011,
  nmcChen2020,
} from './electrodes.ts';

/** State of charge of the typical curves: every 5 %, closer at both ends. */
const SOC = [0, 0.01, 0.02, 0.035, 0.05, 0.075, 0.1, 0.15, 0.2, 0.25, 0.3, 0.35, 0.4, 0.45, 0.5].concat([
  0.55, 0.6, 0.65, 0.7, 0.75, 0.8, 0.85, 0.9, 0.95, 0.98, 1,
]);

/** [V] Shape of a 4.2 V NMC or NCA cell at rest; common practice, no source. */
const NMC_VOLTS = [
  2.6, 2.88, 3.03, 3.16, 3.24, 3.32, 3.37, 3.44, 3.49, 3.53, 3.56, 3.59, 3.62, 3.65, 3.68,
].concat([3.72, 3.77, 3.83, 3.89, 3.94, 3.99, 4.03, 4.06, 4.09, 4.13, 4.19]);

/** [V] Shape of a 4.2 V LCO pouch at rest; common practice, no source. */
const LCO_VOLTS = [
  2.8, 3.15, 3.3, 3.44, 3.54, 3.62, 3.67, 3.7, 3.73, 3.745, 3.755, 3.765, 3.775, 3.785, 3.8,
].concat([3.82, 3.845, 3.88, 3.92, 3.96, 4.0, 4.04, 4.08, 4.13, 4.165, 4.19]);

/** [V] Shape of an LTO cell with an NMC positive at rest; common practice, no source. */
const LTO_VOLTS = [
  1.5, 1.72, 1.85, 1.95, 2.02, 2.07, 2.1, 2.14, 2.17, 2.19, 2.21, 2.225, 2.24, 2.255, 2.27,
].concat([2.285, 2.3, 2.32, 2.34, 2.36, 2.385, 2.41, 2.44, 2.5, 2.58, 2.7]);

const TYPICAL = 'Typical of its class; common practice, no source';

export interface Typical {
  name: string;
  chemistry: CellRecord['chemistry'];
  /** [Ah] */
  capacityAh: number;
  /** [V] full, end, damage */
  limits: readonly [number, number, number];
  volts: (s: number, k: number) => number;
  /** [Ω] total at mid charge; 60 % of it ohmic, the rest in two branches */
  ohms: number;
  /** [C] discharge, charge */
  rates: readonly [number, number];
  selfDischarge: number;
  mass: number;
  body: Body;
  source?: string;
  grade?: CellRecord['grade'];
}

/** Resistance over its mid value: doubles or more towards empty, common practice, no source. */
const rise = (s: number) => 1 + 1.6 * Math.exp(-s / 0.06) + 0.12 * Math.exp(-(1 - s) / 0.08);

/** [mm] A round cell, and a flat one. */
export const round = (diameter: number, height: number): Body => ({
  kind: 'cylinder',
  diameter: diameter / 1000,
  height: height / 1000,
});
export const flat = (length: number, width: number, thickness: number): Body => ({
  kind: 'pouch',
  length: length / 1000,
  width: width / 1000,
  thickness: thickness / 1000,
});

/** A record out of what is typical of a class. */
export function record(t: Typical): CellRecord {
  const shape = SOC.map(rise);
  // Time constants of 12 s and 400 s, between what charge transfer and diffusion show. Common practice, no source.
  const branch = (share: number, seconds: number) => ({
    soc: SOC,
    ohms: shape.map((r) => tidy(r * share * t.ohms)),
    farads: shape.map((r) => tidy(seconds / (r * share * t.ohms))),
  });
  return {
    name: t.name,
    chemistry: t.chemistry,
    capacityAh: t.capacityAh,
    fullVolts: t.limits[0],
    endVolts: t.limits[1],
    damageVolts: t.limits[2],
    ocv: { soc: SOC, volts: SOC.map((s, k) => tidy(t.volts(s, k))) },
    r0: { soc: SOC, ohms: shape.map((r) => tidy(r * 0.6 * t.ohms)) },
    branches: [branch(0.2, 12), branch(0.2, 400)],
    dischargeRate: t.rates[0],
    chargeRate: t.rates[1],
    selfDischargePerMonth: t.selfDischarge,
    temperature: typicalTemperature(t.chemistry),
    mass: t.mass,
    body: t.body,
    grade: t.grade ?? 'typical',
    source: t.source ?? TYPICAL,
  };
}

const tidy = (v: number) => Number(v.toPrecision(6));
export const nmc = (_: number, k: number) => NMC_VOLTS[k]!;
export const lco = (_: number, k: number) => LCO_VOLTS[k]!;
/** A 4.35 V pouch: the 4.2 V shape stretched above half charge. */
export const lco435 = (s: number, k: number) => LCO_VOLTS[k]! + Math.max(0, s - 0.5) * 0.3;
export const lto = (_: number, k: number) => LTO_VOLTS[k]!;
export const lfpCurve = fullCellOcv(lfpSafari2011, graphiteSafari2011, LFP_WINDOWS);
export const nmcPublished = fullCellOcv(nmcChen2020, graphiteSiliconChen2020, CHEN_2020_WINDOWS);

export const NMC_LIMITS = [4.2, 2.75, 2.0] as const;
export const LFP_LIMITS = [3.6, 2.5, 2.0] as const;
