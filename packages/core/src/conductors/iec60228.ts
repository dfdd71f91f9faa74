/**
 * [mm², Ω/km] Largest DC resistance at 20 °C of plain annealed copper conductors.
 * Source: IEC 60228, table 1 (class 1, solid) and table 3 (class 5, flexible); from memory.
 */
const CLASS_1: readonly (readonly [number, number])[] = [
  [0.5, 36.0],
  [0.75, 24.5],
  [1.0, 18.1],
  [1.5, 12.1],
  [2.5, 7.41],
  [4, 4.61],
  [6, 3.08],
  [10, 1.83],
];

const CLASS_5: readonly (readonly [number, number])[] = [
  [0.5, 39.0],
  [0.75, 26.0],
  [1.0, 19.5],
  [1.5, 13.3],
  [2.5, 7.98],
  [4, 4.95],
  [6, 3.3],
  [10, 1.91],
];

/** [Ω·mm²/m] Flexible copper outside the table: the class 5 value of 1 mm² with its stranding allowance. */
const FLEXIBLE_RESISTIVITY = 0.0195;

/** [Ω/m] Largest resistance of a solid, class 1 conductor at 20 °C; NaN where the table has no such section. @param section [mm²] */
export function class1Resistance(section: number): number {
  const row = CLASS_1.find(([s]) => Math.abs(s - section) < 1e-9);
  return row ? row[1] / 1000 : NaN;
}

/**
 * [Ω/m] Largest resistance of a class 5 conductor at 20 °C; sections not in the table by resistivity.
 * @param section [mm²] > 0
 */
export function class5Resistance(section: number): number {
  const row = CLASS_5.find(([s]) => Math.abs(s - section) < 1e-9);
  return row ? row[1] / 1000 : FLEXIBLE_RESISTIVITY / section;
}
