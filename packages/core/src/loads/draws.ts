import { floatsOf } from '../numeric/floats.ts';
import type { Load } from '../model/load.ts';
import type { Peak } from '../model/peak.ts';
import { loadLaw, statedLaw, type LoadLaw } from './current.ts';

/** What every load draws at a time, as numbers. */
export interface Draws {
  /** equal for equal draws */
  readonly name: string;
  readonly laws: Uint8Array;
  readonly values: Float64Array;
  readonly slopes: Float64Array;
  readonly factors: Float64Array;
}

/** The draws of laws, one a load. */
export function drawsOf(all: readonly LoadLaw[]): Draws {
  return {
    name: all.map((l) => (l.factor === 0 ? '0' : `${l.law}:${l.value}:${l.slope}*${l.factor}`)).join(),
    laws: Uint8Array.from(all, (l) => l.law),
    values: floatsOf(all, (l) => l.value),
    slopes: floatsOf(all, (l) => l.slope),
    factors: floatsOf(all, (l) => l.factor),
  };
}

/** Laws out of draws. */
export function lawsOf(draws: Draws): LoadLaw[] {
  return Array.from(draws.laws, (law, k) => ({
    law,
    value: draws.values[k]!,
    slope: draws.slopes[k]!,
    factor: draws.factors[k]!,
  }));
}

/** What a load draws in a mode; as usual where it does not say, and without a mode. @param mode its id */
export function lawIn(load: Load, mode: string | undefined): LoadLaw {
  const own = load.draws?.find((d) => d.mode === mode);
  return own ? statedLaw(load, own.draw ?? load.draw, own.value) : loadLaw(load);
}

/** What a load draws while a peak lasts. @param law its draw otherwise */
export function lawAtPeak(load: Load, { value, draw, factor }: Peak, law: LoadLaw): LoadLaw {
  if (value === undefined) return { ...law, factor: law.factor * factor! };
  return statedLaw(load, draw ?? load.draw, value);
}

/** Every load as usual, or as in a mode. */
export function drawsIn(loads: readonly Load[], mode?: string): Draws {
  return drawsOf(loads.map((l) => lawIn(l, mode)));
}

/** Nothing drawn by anything. */
export function allOff(draws: Draws): Draws {
  return { ...draws, name: 'off', factors: new Float64Array(draws.factors.length) };
}

/** The same with every factor so many times. */
export function scaled(draws: Draws, by: number): Draws {
  return drawsOf(lawsOf(draws).map((l) => ({ ...l, factor: l.factor * by })));
}
