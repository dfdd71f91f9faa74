import type { Inductor } from '../model/parts.ts';
import { E6, seriesValues } from '../design/eSeries.ts';

/** A body of a shielded inductor: what all values wound in it share. */
interface Body {
  /** [mm] length, width, height */
  mm: readonly [number, number, number];
  /** [J] L·Isat²: what the core holds, twice the energy */
  held: number;
  /** [Ω/H] winding resistance per inductance: the space for copper */
  ohmsPerHenry: number;
  /** [K/W] winding above the air */
  thermal: number;
}

/** Generic shielded bodies, from small to large. Typical figures; common practice, no source. */
const BODIES: readonly Body[] = [
  { mm: [3, 3, 1.5], held: 10.6e-6, ohmsPerHenry: 36e3, thermal: 110 },
  { mm: [4, 4, 2], held: 25e-6, ohmsPerHenry: 18e3, thermal: 85 },
  { mm: [5, 5, 3], held: 75e-6, ohmsPerHenry: 7.7e3, thermal: 65 },
  { mm: [6.6, 6.6, 4], held: 160e-6, ohmsPerHenry: 4.6e3, thermal: 50 },
  { mm: [8, 8, 5], held: 340e-6, ohmsPerHenry: 2.7e3, thermal: 40 },
  { mm: [10, 10, 5], held: 560e-6, ohmsPerHenry: 1.9e3, thermal: 32 },
  { mm: [12.5, 12.5, 8], held: 1590e-6, ohmsPerHenry: 1000, thermal: 24 },
];

/** [K] rise at the RMS rating. */
const RATED_RISE = 40;

/** [W/m³] of body at 30 % of saturation as ripple and 500 kHz: ferrite, half the body core. Common practice. */
const CORE_DENSITY = 150e3;
const CORE_FREQUENCY = 5e5;
const CORE_RIPPLE_SHARE = 0.3;

export interface ListedInductor extends Inductor {
  /** “4.7 µH, 5 × 5 × 3 mm” is made of these */
  mm: readonly [number, number, number];
  saturationCurrent: number;
  rmsCurrent: number;
}

/** The generic list: every E6 value that a body takes, 0.47 µH to 470 µH. */
export const INDUCTORS: readonly ListedInductor[] = BODIES.flatMap(({ mm, held, ohmsPerHenry, thermal }) =>
  seriesValues(E6, 0.47e-6, 470e-6).map((inductance): ListedInductor => {
    const resistance = round(ohmsPerHenry * inductance);
    const saturationCurrent = round(Math.sqrt(held / inductance));
    return {
      mm,
      inductance,
      resistance,
      saturationCurrent,
      rmsCurrent: round(Math.sqrt(RATED_RISE / (thermal * resistance))),
      coreLoss: round(CORE_DENSITY * mm[0] * mm[1] * mm[2] * 1e-9),
      coreRipple: round(CORE_RIPPLE_SHARE * saturationCurrent),
      coreFrequency: CORE_FREQUENCY,
      thermalResistance: thermal,
    };
  }),
);

/** What is looked for. */
export interface InductorTask {
  /** [H] at least */
  inductance: number;
  /** [A] */
  peak: number;
  rms: number;
  /** share of saturation and RMS rating that stays free; 0.2 where not said */
  margin?: number;
}

/**
 * Inductors of the list that do it, smallest body first: next value up or the one above, saturation and RMS
 * current with margin.
 */
export function pickInductors(task: InductorTask, most = 6): ListedInductor[] {
  const free = 1 - (task.margin ?? 0.2);
  return INDUCTORS.filter(
    (l) =>
      l.inductance >= task.inductance * 0.98 &&
      l.inductance <= task.inductance * 2.3 &&
      l.saturationCurrent * free >= task.peak &&
      l.rmsCurrent * free >= task.rms,
  ).slice(0, most);
}

function round(value: number): number {
  return Number(value.toPrecision(2));
}

/** Without what only the list has. */
export function bare({ mm, ...inductor }: ListedInductor): Inductor {
  void mm;
  return inductor;
}
