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

/** [A²s] that melt a fuse whose data sheet is not given: 0.8·I²·1 s, a fast one; the same as above. Common practice, no source. */
export function usualMelting(rating: number): number {
  return 0.8 * rating * rating;
}

/** Share of its melting i²t that a fuse stands time and again. Common practice, no source. */
export const PULSE_SHARE = 0.3;

/** A class of fuses: between which times [s] it melts at a multiple of its rating. */
interface FuseClass {
  name: string;
  source: string;
  /** rising by the multiple; Infinity where it need not melt */
  times: readonly { multiple: number; least: number; most: number }[];
}

/** Usual classes; the figures are the standards' gates, single makes lie between. */
export const FUSE_CLASSES: readonly FuseClass[] = [
  {
    name: 'blade',
    source: 'ISO 8820-3 (from memory)',
    times: [
      { multiple: 1.1, least: 360_000, most: Infinity },
      { multiple: 1.35, least: 0.75, most: 600 },
      { multiple: 1.6, least: 0.25, most: 50 },
      { multiple: 2, least: 0.15, most: 5 },
      { multiple: 3.5, least: 0.04, most: 0.5 },
      { multiple: 6, least: 0.02, most: 0.1 },
    ],
  },
  {
    name: 'quick 5 × 20 mm',
    source: 'IEC 60127-2 sheet 2 (from memory)',
    times: [
      { multiple: 1.5, least: 3600, most: Infinity },
      { multiple: 2.1, least: 0, most: 1800 },
      { multiple: 2.75, least: 0.05, most: 2 },
      { multiple: 4, least: 0.01, most: 0.3 },
      { multiple: 10, least: 0, most: 0.02 },
    ],
  },
];

/**
 * [s] at most until a fuse of a class melts; Infinity where the standard lets it hold.
 * @param multiple of the rating that flows, > 0
 */
export function meltsWithin({ times }: FuseClass, multiple: number): number {
  return times.findLast((t) => t.multiple <= multiple)?.most ?? Infinity;
}
