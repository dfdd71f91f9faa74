import { efficiencyMap, type EfficiencyMap, type MapRange } from '@mile-thread/core';
import type { Stage } from '@mile-thread/core/model';

/** The map a stage would have: for readings not yet taken over. @param air [°C] */
export function map(stage: Stage, range: MapRange, air: number): EfficiencyMap {
  return efficiencyMap(stage, range, 40, air);
}
