import type { ThreadDocument } from '../model/thread.ts';
import { conditionsOf, type Conditions } from './conditions.ts';

/** Fields that say something to people and nothing to the numbers. */
const WORDS = new Set([
  ...['name', 'notes', 'source', 'mass', 'charger'],
  ...['lockout', 'inputWires', 'outputWires', 'sense', 'softStart'],
]);

/**
 * Name of a plant: equal for two threads and conditions whose runs are equal bit for bit. Names and notes do not
 * matter; ids and grades do, since results carry them.
 */
export function plantKey(doc: ThreadDocument, conditions: Partial<Conditions> = {}): string {
  const { pack, stages, loads, modes, programme } = doc;
  return hashOf({ pack, stages, loads, modes, programme, conditions: conditionsOf(doc, conditions) });
}

/** Name of everything a run and its checks say of a thread: its own name, notes and what was measured do not matter. */
export function threadKey({ name, notes, readings, curves, graded, ...rest }: ThreadDocument): string {
  void [name, notes, readings, curves, graded];
  return hash(JSON.stringify(rest));
}

/** Name of everything outside the cells. */
export function pathKey({ stages, loads }: ThreadDocument, air: number): string {
  return hashOf({ stages, loads, air });
}

function hashOf(value: unknown): string {
  return hash(JSON.stringify(value, (field, v: unknown) => (WORDS.has(field) ? undefined : sorted(v))));
}

/** Fields in alphabetical order: the same thread written in another order is the same. */
function sorted(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)));
}

/**
 * 106 bits of a text as two runs of a 53-bit multiplicative hash with different seeds; not for secrets.
 * Own construction after the usual multiply-and-xor mixers.
 */
function hash(text: string): string {
  return [0x9e3779b9, 0x85ebca6b]
    .map((seed) => {
      let a = 0xdeadbeef ^ seed;
      let b = 0x41c6ce57 ^ seed;
      for (let k = 0; k < text.length; k++) {
        const c = text.charCodeAt(k);
        a = Math.imul(a ^ c, 2654435761);
        b = Math.imul(b ^ c, 1597334677);
      }
      a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
      b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
      return (4294967296 * (2097151 & b) + (a >>> 0)).toString(36);
    })
    .join('-');
}

/** Name of what was measured of a thread. */
export function readingsKey({ readings, curves }: ThreadDocument): string {
  return hash(JSON.stringify([readings, curves]));
}
