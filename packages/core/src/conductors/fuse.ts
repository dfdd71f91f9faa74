/** Fuses and what melts instead of them. */

/** [A] fusing current of a wire. @param diameter [m]. I = 80·d^1.5, d in mm, copper. Preece (from memory). */
export function preece(diameter: number): number {
  return 80 * (diameter * 1000) ** 1.5;
}

/**
 * [A] that melts a copper wire in `seconds`, below about ten: A·√(log10(1 + (1083 − Ta)/(234 + Ta))/(33·t)), A in
 * circular mils. Onderdonk (from memory).
 * @param area [mm²] @param air [°C]
 */
export function onderdonk(area: number, seconds: number, air: number): number {
  return circularMils(area) * Math.sqrt(Math.log10(1 + (1083 - air) / (234 + air)) / (33 * seconds));
}

/** [cmil] of an area [mm²]. */
export function circularMils(area: number): number {
  const diameter = Math.sqrt((4 * area) / Math.PI);
  return (diameter / 0.0254) ** 2;
}

/** Ratings blade and cartridge fuses come in. [A] Common practice, no source. */
export const FUSES: readonly number[] = [
  0.1, 0.125, 0.16, 0.2, 0.25, 0.315, 0.4, 0.5, 0.63, 0.8, 1, 1.25, 1.6, 2, 2.5, 3.15, 4, 5, 6.3, 7.5, 10, 15,
  20, 25, 30, 40,
];

/** Share of its rating a fuse may carry for long, and what a short peak may reach. Common practice, no source. */
const CONTINUOUS = 0.75;
const PEAK = 1.5;

/**
 * Smallest fuse for a current, its short peaks and its inrush; undefined beyond the list.
 * @param inrushSquared [A²s] melting energy of the inrush; a fuse's is taken as 0.8·I²·10 ms, a fast one
 */
export function fuseFor(continuous: number, peak: number, inrushSquared: number): number | undefined {
  return FUSES.find(
    (r) => continuous <= CONTINUOUS * r && peak <= PEAK * r && 2 * inrushSquared <= 0.8 * 100 * r * r * 0.01,
  );
}
