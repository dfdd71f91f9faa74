import fc from 'fast-check';
import { anyThread } from './arbitrary.ts';
import { decodeThread, fieldsOf, ThreadDocument, type FieldMeta } from './core.ts';

/** A number of a document: where it stands, and what the model allows there. */
interface Place {
  holder: Record<string, unknown>;
  field: string;
  meta: FieldMeta;
}

/** Every single number of a value that a model class describes. */
function places(model: new () => object, value: unknown): Place[] {
  if (typeof value !== 'object' || value === null) return [];
  const holder = value as Record<string, unknown>;
  return [...fieldsOf(model)].flatMap(([field, meta]): Place[] => {
    const inner = holder[field];
    if (inner === undefined) return [];
    if (meta.type === 'quantity' || meta.type === 'whole') return [{ holder, field, meta }];
    if (meta.type !== 'part' && meta.type !== 'parts') return [];
    const entries = meta.type === 'part' ? [inner] : (inner as unknown[]);
    return entries.flatMap((entry) => places(classOf(meta, entry), entry));
  });
}

function classOf(meta: FieldMeta, entry: unknown): new () => object {
  const variants = meta.variants?.();
  if (!variants) return meta.of!();
  return variants.classes[(entry as Record<string, string>)[variants.property]!]!;
}

/** A number the model allows, mostly at or near one of its ends. @param share 0…1 @param way which end, or between */
function extreme({ meta }: Place, share: number, way: number): number {
  const { min = 0, max = 1 } = meta;
  const low = min > 0 ? min : max * 1e-7;
  const between = low * (max / low) ** share;
  const value = way === 0 ? min : way === 1 ? max : way === 2 ? low * (max / low) ** (0.15 * share) : between;
  return meta.type === 'whole' ? Math.round(value) : value;
}

/** Any design with a few of its numbers pushed to what the model still allows; always a valid one. */
export const extremeThread: fc.Arbitrary<ThreadDocument> = fc
  .tuple(
    anyThread,
    fc.array(fc.tuple(fc.nat(), fc.double({ min: 0, max: 1, noNaN: true }), fc.integer({ min: 0, max: 4 })), {
      minLength: 1,
      maxLength: 8,
    }),
  )
  .map(([doc, pushes]) => {
    let pushed = structuredClone(doc);
    for (const [which, share, way] of pushes) {
      const next = structuredClone(pushed);
      const all = places(ThreadDocument, next).filter((p) => p.field !== 'version');
      const place = all[which % all.length]!;
      place.holder[place.field] = extreme(place, share, way);
      if (decodeThread(next).ok) pushed = next;
    }
    return pushed;
  });

/** Everything numeric in a value, with where it stands. */
export function numbersIn(value: unknown, path = ''): { path: string; value: number }[] {
  if (typeof value === 'number') return [{ path, value }];
  if (value instanceof Float64Array)
    return Array.from(value, (v, k) => ({ path: `${path}[${k}]`, value: v }));
  if (typeof value !== 'object' || value === null) return [];
  return Object.entries(value).flatMap(([k, v]) => numbersIn(v, `${path}.${k}`));
}

/** Where a NaN stands in a value, however large it is; undefined where there is none. */
export function nanIn(value: unknown, path = ''): string | undefined {
  if (typeof value === 'number') return Number.isNaN(value) ? path : undefined;
  if (value instanceof Float64Array) {
    const at = value.findIndex(Number.isNaN);
    return at < 0 ? undefined : `${path}[${at}]`;
  }
  if (typeof value !== 'object' || value === null) return undefined;
  for (const [k, v] of Object.entries(value)) {
    const found = nanIn(v, `${path}.${k}`);
    if (found !== undefined) return found;
  }
  return undefined;
}
