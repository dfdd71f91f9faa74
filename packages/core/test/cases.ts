import { readFileSync } from 'node:fs';
import { expect } from 'vitest';

interface Tolerance {
  kind: 'rel' | 'abs' | 'exact' | 'informational';
  value: number;
}
interface Expected {
  value: number | number[] | string[] | string | boolean;
  tolerance?: Tolerance;
  tol_rel?: number;
  tol_abs?: number;
}
export interface Case {
  id: string;
  description: string;
  inputs: Record<string, { value: never } | string>;
  expected: Record<string, Expected>;
  source: string;
}

/** The independent cases of a file; each carries its source and method. */
export function cases(file: string): Case[] {
  const data = JSON.parse(readFileSync(new URL(`./reference/${file}.json`, import.meta.url), 'utf8'));
  return Array.isArray(data) ? data : data.cases;
}

/** One of them. */
export function caseOf(file: string, id: string): Case {
  return cases(file).find((c) => c.id === id)!;
}

/** An input's number. */
export function input(c: Case, name: string, otherwise?: number): number {
  const field = c.inputs[name];
  if (field === undefined && otherwise !== undefined) return otherwise;
  if (typeof field !== 'object') throw new Error(`${c.id}: no input ${name}`);
  return field.value;
}

/**
 * Compare results with a case, each at its own stated tolerance. Every expected value must be met by a
 * result, or stand in `elsewhere`: nothing is passed over silently.
 */
export function meets(c: Case, results: Record<string, unknown>, elsewhere: string[] = []): void {
  for (const [name, wanted] of Object.entries(c.expected)) {
    if (elsewhere.includes(name) || wanted.tolerance?.kind === 'informational') continue;
    expect(results, `${c.id} has a result for ${name}`).toHaveProperty(name);
    const got = results[name];
    if (Array.isArray(wanted.value)) {
      wanted.value.forEach((w: number | string, k) => {
        const own = (got as (number | string)[])[k]!;
        if (typeof w === 'number') close(`${c.id} ${name}[${k}]`, own as number, w, wanted);
        else expect(own, `${c.id} ${name}[${k}]`).toEqual(w);
      });
    } else if (typeof wanted.value === 'number')
      close(`${c.id} ${name}`, got as number, wanted.value, wanted);
    else expect(got, `${c.id} ${name}`).toBe(wanted.value);
  }
}

function close(what: string, got: number, wanted: number, { tolerance, tol_rel, tol_abs }: Expected): void {
  const room =
    tolerance !== undefined
      ? tolerance.kind === 'rel'
        ? tolerance.value * Math.abs(wanted)
        : (tolerance.value ?? 0)
      : Math.max((tol_rel ?? 0) * Math.abs(wanted), tol_abs ?? 0);
  expect(Math.abs(got - wanted), `${what}: ${got} against ${wanted} ± ${room}`).toBeLessThanOrEqual(room);
}
