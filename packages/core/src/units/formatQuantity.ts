const PREFIXES: readonly (readonly [number, string])[] = [
  [1e9, 'G'],
  [1e6, 'M'],
  [1e3, 'k'],
  [1, ''],
  [1e-3, 'm'],
  [1e-6, 'µ'],
  [1e-9, 'n'],
  [1e-12, 'p'],
];

/** Units that read badly with a prefix (`mh`, `k°C`): shown plainly. */
const NO_PREFIX = new Set([
  '',
  'h',
  '%',
  '°C',
  'K',
  'K/W',
  'mm²',
  'mm',
  'm',
  '°',
  'Ah',
  'Wh',
  'A²s',
  'A/V²',
  'kg',
  'g',
]);

/** `C` is a rate or a charge: rates are shown plainly and none is this small, charges of gates all are. */
const LEAST_RATE = 1e-4;

/**
 * Write a value with its unit in engineering notation: `550 mA`, `9.00 V`, `4.70 kΩ`.
 * @param value in `unit`
 * @param unit '' for a plain number
 * @param digits significant digits, 3 by default
 * @returns text with a no-break space before the unit; a dash for a value that is not finite
 */
export function formatQuantity(value: number, unit: string, digits = 3): string {
  if (!Number.isFinite(value)) return '–';
  const space = unit === '' ? '' : '\u00a0';
  if (NO_PREFIX.has(unit) || (unit === 'C' && Math.abs(value) >= LEAST_RATE))
    return `${significant(value, digits)}${space}${unit}`;
  const size = Math.abs(value);
  if (size < 1e-12) return `0${space}${unit}`;
  // Rounding may carry into the next prefix (999.6 m → 1.00): decide on the rounded size.
  const rounded = Number(size.toPrecision(digits));
  const [scale, prefix] = PREFIXES.find(([s]) => rounded >= s) ?? PREFIXES[PREFIXES.length - 1]!;
  return `${significant(value / scale, digits)}${space}${prefix}${unit}`;
}

/** Digits by which two values that differ are told apart, at most. */
const APART = 6;

/** Two values that are set against each other, with as many digits as tell them apart: `16.02 V` and `16.00 V`. */
export function formatApart(a: number, b: number, unit: string): [string, string] {
  for (let digits = 3; ; digits++) {
    const pair: [string, string] = [formatQuantity(a, unit, digits), formatQuantity(b, unit, digits)];
    if (pair[0] !== pair[1] || digits === APART) return pair;
  }
}

function significant(value: number, digits: number): string {
  if (value === 0) return '0';
  const magnitude = Math.floor(Math.log10(Math.abs(Number(value.toPrecision(digits)))));
  return value.toFixed(Math.min(12, Math.max(0, digits - 1 - magnitude)));
}

/**
 * Shortest text that reads back as the same value, for editing: `0.55` → `550m`, `9` → `9`.
 * @param value in `unit`; a unit without prefixes is written plainly.
 */
export function editableQuantity(value: number, unit: string): string {
  const tidy = Number(value.toPrecision(10));
  const size = Math.abs(tidy);
  if (size === 0 || NO_PREFIX.has(unit) || (size >= 0.1 && size < 1e4)) return String(tidy);
  const [scale, prefix] = PREFIXES.find(([s]) => size >= s * 0.9999999999) ?? PREFIXES[PREFIXES.length - 1]!;
  return `${Number((tidy / scale).toPrecision(10))}${prefix}`;
}

/** [h] five years: beyond, what a cell loses by itself is not known well enough for a figure. Common practice, no source. */
const SHELF = 5 * 365.25 * 24;

/** How long something keeps that lies there, in words. @param hours [h] */
export function formatShelf(hours: number): string {
  return hours > SHELF && hours < Infinity ? `over 5\u00a0years` : formatDuration(hours);
}

/**
 * Write a duration in the words of the trade: `4 h 18 min`, `42 s`, `19 days`, `14 months`.
 * @param hours [h] 0 or more; Infinity reads `no end`
 */
export function formatDuration(hours: number): string {
  if (Number.isNaN(hours)) return '–';
  if (hours === Infinity) return 'no end';
  if (hours < 1 / 60) return `${Math.round(hours * 3600)}\u00a0s`;
  if (hours < 48) {
    const minutes = Math.round(hours * 60);
    const h = Math.floor(minutes / 60);
    const m = minutes % 60;
    if (h === 0) return `${m}\u00a0min`;
    return m === 0 ? `${h}\u00a0h` : `${h}\u00a0h ${m}\u00a0min`;
  }
  const days = hours / 24;
  if (days < 10) {
    const whole = Math.floor(Math.round(hours) / 24);
    const h = Math.round(hours) - 24 * whole;
    return h === 0 ? `${whole}\u00a0days` : `${whole}\u00a0days ${h}\u00a0h`;
  }
  // A winter against another is a matter of days.
  if (days < 300) return `${Math.round(days)}\u00a0days`;
  const months = days / (365.25 / 12);
  if (months < 36) return `${Math.round(months)}\u00a0months`;
  return `${(months / 12).toFixed(months < 120 ? 1 : 0)}\u00a0years`;
}
