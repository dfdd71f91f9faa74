/**
 * Reads a number as engineers type it: SI prefixes (`4.7 µ`, `10k`), RKM code (`4k7`, `2R2`, `4u7`),
 * a decimal comma (`3,3`) and an optional unit that must match the one expected.
 *
 * RKM code after IEC 60062 (from memory): the prefix letter, or R for the bare unit, stands where the
 * decimal point would be. SI prefixes are case sensitive where they must be (m is milli, M is mega);
 * K is accepted for kilo because nobody means kelvin here.
 */

const PREFIX: Record<string, number> = {
  p: 1e-12,
  n: 1e-9,
  u: 1e-6,
  µ: 1e-6,
  μ: 1e-6,
  m: 1e-3,
  k: 1e3,
  K: 1e3,
  M: 1e6,
  G: 1e9,
};

/** A unit's other spellings. Key: the unit as the model writes it. */
const SPELLINGS: Record<string, readonly string[]> = {
  Ω: ['Ω', 'Ω', 'ohm', 'ohms', 'R'],
  '°C': ['°C', 'C', 'degC'],
  'mm²': ['mm²', 'mm2'],
  '%': ['%'],
  h: ['h', 'hr', 'hours'],
  months: ['months', 'month'],
  'W/A²': ['W/A²', 'W/A2'],
  'A²s': ['A²s', 'A2s'],
};

export type ParsedQuantity = { ok: true; value: number } | { ok: false; reason: string };

/**
 * Parse `text` as a quantity in `unit`.
 * @param text what was typed, for example `4u7`, `550m`, `1.2 A`, `3,3`
 * @param unit the unit expected ('' for a plain number). For hours and seconds, `d`, `h`, `min` and `s` are converted.
 * @returns the value in `unit`, or the reason why it could not be read, in words for the person.
 */
export function parseQuantity(text: string, unit: string): ParsedQuantity {
  const typed = text.trim().replace(/\s+/g, ' ').replace(/[−–]/g, '-');
  if (typed === '') return { ok: false, reason: 'Type a number.' };
  const duration = unit === 'h' || unit === 's' ? parseDuration(typed) : undefined;
  if (duration !== undefined) return finish(unit === 'h' ? duration : 3600 * duration, text);

  const percent = unit === '' ? /^(-?[\d.,]+)\s*%$/.exec(typed) : null;
  if (percent) return finish(Number(percent[1]!.replace(',', '.')) / 100, text);

  const body = stripUnit(typed, unit);
  const rkm = /^(-?)(\d+)([pnuµμmkKMGR])(\d+)$/.exec(body);
  if (rkm) {
    const scale = rkm[3] === 'R' ? 1 : PREFIX[rkm[3]!]!;
    return finish(Number(`${rkm[1]}${rkm[2]}.${rkm[4]}`) * scale, text);
  }
  const plain = /^([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+-]?\d+)?) ?([pnuµμmkKMGR]?)$/.exec(body);
  if (!plain) {
    const wanted = unit ? ` in ${unit}` : '';
    return { ok: false, reason: `“${text.trim()}” is not a number${wanted}. Try 4.7, 4,7, 4k7 or 550m.` };
  }
  const scale = plain[2] === '' || plain[2] === 'R' ? 1 : PREFIX[plain[2]!]!;
  return finish(Number(plain[1]!.replace(',', '.')) * scale, text);
}

function finish(value: number, text: string): ParsedQuantity {
  if (!Number.isFinite(value)) return { ok: false, reason: `“${text.trim()}” is not a finite number.` };
  // Scaling by a power of ten leaves binary dust (550 * 1e-3); twelve digits are more than anybody types.
  return { ok: true, value: Number(value.toPrecision(12)) };
}

function stripUnit(text: string, unit: string): string {
  if (unit === '') return text;
  for (const spelling of SPELLINGS[unit] ?? [unit]) {
    // `4R7` keeps its R: only a spelling at the very end is a unit, and R alone is left to the RKM rule.
    if (spelling !== 'R' && text.length > spelling.length && text.endsWith(spelling)) {
      return text.slice(0, -spelling.length).trimEnd();
    }
  }
  return text;
}

function parseDuration(text: string): number | undefined {
  // As a clock has it: 4:06, 4:06:30.
  const clock = /^(\d+):([0-5]\d)(?::([0-5]\d))?$/.exec(text);
  if (clock) return Number(clock[1]) + Number(clock[2]) / 60 + Number(clock[3] ?? 0) / 3600;
  const parts = /^(?:([\d.,]+) ?d)? ?(?:([\d.,]+) ?h)? ?(?:([\d.,]+) ?min)? ?(?:([\d.,]+) ?s)?$/.exec(text);
  if (!parts || !parts.slice(1).some(Boolean)) return undefined;
  const [days, hours, minutes, seconds] = parts.slice(1).map((p) => (p ? Number(p.replace(',', '.')) : 0));
  const total = days! * 24 + hours! + minutes! / 60 + seconds! / 3600;
  return Number.isFinite(total) ? total : undefined;
}
