import { isConverter, type Stage } from '../model/kinds/registry.ts';
import type { Surroundings } from '../model/surroundings.ts';
import type { Stress } from '../stages/parts/stress.ts';
import { CORE } from '../stages/point.ts';
import { usesParts } from '../stages/switching.ts';
import { junction } from './thermal.ts';

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
  if (stage.kind === 'direct') return [];
  if (!isConverter(stage) || !usesParts(stage) || !stress) {
    if (!stage.thermalResistance) return [];
    const { thermalResistance: resistance, maxJunction: limit } = stage;
    return [{ name: 'Junction', resistance, watts: lost, ...(limit === undefined ? {} : { limit }) }];
  }
  const parts = stage.parts!;
  const { thermalResistance: resistance, maxJunction: limit } = parts;
  const warm: WarmPart[] = [];
  const ways = namedWays(stage);
  if (parts.integrated) warm.push({ name: 'Package', resistance, watts: stress.heat, limit });
  for (const [name, way, diode] of ways) {
    if (parts.integrated && !diode) continue;
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

function namedWays(stage: Stage): [name: string, way: 'a' | 'b' | 'c' | 'd', diode: boolean][] {
  if (!isConverter(stage) || !stage.parts) return [];
  if (stage.kind === 'buckBoost') {
    const p = stage.parts!;
    return [
      ['S1', 'a', false],
      ['S2', 'b', p.buckLow.type === 'diode'],
      ['S3', 'c', false],
      ['S4', 'd', p.boostHigh.type === 'diode'],
    ];
  }
  const diode = stage.parts!.rectifier.type === 'diode';
  const [main, rect] = stage.kind === 'buck' ? (['a', 'b'] as const) : (['c', 'd'] as const);
  return [
    ['Switch', main, false],
    [diode ? 'Diode' : 'Rectifier switch', rect, diode],
  ];
}

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

/** [°C] of the hottest of several parts, and which. */
export function hottestPart(
  parts: readonly WarmPart[],
  air: number,
): { name: string; celsius: number } | undefined {
  let best: { name: string; celsius: number } | undefined;
  for (const p of parts) {
    const celsius = junction(air, p.resistance, p.watts);
    if (!best || celsius > best.celsius) best = { name: p.name, celsius };
  }
  return best;
}
