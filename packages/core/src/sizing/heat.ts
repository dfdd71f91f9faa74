import { isConverter, type Stage } from '../model/kinds/registry.ts';
import type { Surroundings } from '../model/surroundings.ts';
import type { Stress } from '../stages/parts/stress.ts';
import { CORE } from '../stages/point.ts';
import { usesParts } from '../stages/switching.ts';
import { namedWays } from '../stages/traits.ts';
import { junction } from '../design/thermal.ts';

/** A part that gets warm. */
export interface WarmPart {
  /** “Package”, “S3”, “Inductor” */
  name: string;
  /** [K/W] to the air */
  resistance: number;
  /** [W] */
  watts: number;
  /** [°C] */
  limit?: number;
}

/**
 * Parts of a stage that warm up, at one operating point. One package holds all switches; else each by itself.
 * @param lost [W] of the whole stage, for stages without parts
 */
export function warmParts(stage: Stage, stress: Stress | undefined, lost: number): WarmPart[] {
  if (!isConverter(stage) || !usesParts(stage) || !stress) {
    if (!('thermalResistance' in stage) || !stage.thermalResistance) return [];
    const { thermalResistance: resistance, maxJunction: limit } = stage;
    return [{ name: 'Junction', resistance, watts: lost, ...(limit === undefined ? {} : { limit }) }];
  }
  const parts = stage.parts!;
  const { thermalResistance: resistance, maxJunction: limit } = parts;
  const warm: WarmPart[] = [];
  if (parts.integrated) warm.push({ name: 'Package', resistance, watts: stress.heat, limit });
  for (const { name, way, part } of namedWays(stage)) {
    if (parts.integrated && part.type !== 'diode') continue;
    warm.push({ name, resistance, watts: stress.ways[way].watts, limit });
  }
  const { inductor } = parts;
  if (inductor.thermalResistance) {
    // Of a SEPIC's two the first, which carries the input, is looked at, with half of their core loss.
    const copper = inductor.resistance * stress.inductor.rms ** 2;
    const core = stress.losses[CORE]! / (stress.secondInductor ? 2 : 1);
    warm.push({ name: 'Inductor', resistance: inductor.thermalResistance, watts: copper + core });
  }
  return warm;
}

/** Whether anything of a stage is known to warm up. */
export function warmsUp(stage: Stage): boolean {
  if (isConverter(stage) && usesParts(stage)) return true;
  return 'thermalResistance' in stage && !!stage.thermalResistance;
}

/** Their names. */
export const AIRS = ['coldest', 'usual', 'warmest', 'box'] as const;

/** Airs a stage is judged in, by name. [°C] */
export interface Airs {
  coldest: number;
  usual: number;
  warmest: number;
  /** warmest outside, inside a closed box with the path's heat; absent in the open */
  box?: number;
}

/** @param heat [W] that stays in the box: the whole path's loss, the loads' power not counted */
export function airsOf(s: Surroundings, heat: number): Airs {
  const airs = { coldest: s.minAir, usual: s.air, warmest: s.maxAir };
  return s.boxResistance ? { ...airs, box: junction(s.maxAir, s.boxResistance, heat) } : airs;
}

/** A part and how hot it gets. [°C] [W] */
export interface Hot {
  name: string;
  celsius: number;
  watts: number;
  limit?: number;
}

/** [K] least room of parts below their limits; undefined where none has one. */
export function heatRoom(parts: readonly WarmPart[], air: number): number | undefined {
  let least: number | undefined;
  for (const { limit, resistance, watts } of parts) {
    if (limit === undefined) continue;
    const room = limit - junction(air, resistance, watts);
    if (least === undefined || room < least) least = room;
  }
  return least;
}

/** The hottest of several parts. */
export function hottestPart(parts: readonly WarmPart[], air: number): Hot | undefined {
  let best: WarmPart | undefined;
  let celsius = -Infinity;
  for (const part of parts) {
    const own = junction(air, part.resistance, part.watts);
    if (best && !(own > celsius)) continue;
    best = part;
    celsius = own;
  }
  if (!best) return undefined;
  const { name, watts, limit } = best;
  return limit === undefined ? { name, celsius, watts } : { name, celsius, watts, limit };
}
