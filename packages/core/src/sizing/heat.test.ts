import { describe, expect, it } from 'vitest';
import { load, plainCell, thread } from '../../test/build.ts';
import { defaultLinear } from '../model/kinds/linear.ts';
import { simulate } from '../run/rundown.ts';
import { stageEnvelope } from './envelope.ts';
import { airsOf } from './heat.ts';

describe('the air around', () => {
  it('in a closed box is the warmest outside and what the path’s heat adds', () => {
    const around = { minAir: 0, air: 25, maxAir: 40 };
    expect(airsOf(around, 2)).toEqual({ coldest: 0, usual: 25, warmest: 40 });
    expect(airsOf({ ...around, boxResistance: 10 }, 2).box).toBe(60);
  });

  it('of a run counts what is lost, not what the load takes', () => {
    // 2 S of 4 V behind 50 mΩ each, 1 A, 5 V out: 8 V·1 A less 5 W are 3 W at the start and less later.
    const stage = {
      ...defaultLinear('s', 'pack', 5),
      outputLimit: 2,
      quiescentCurrent: 0,
      thermalResistance: 20,
    };
    const doc = thread({
      cell: plainCell(2, 3.5, 4, 0.05),
      pack: { series: 2 },
      stages: [stage],
      loads: [load('current', 1, { from: 's', range: { min: 4.9, max: 5.1 } })],
    });
    const boxed = { ...doc, conditions: { minAir: 0, air: 25, maxAir: 40, boxResistance: 10 } };
    const { heat } = stageEnvelope(boxed, simulate(boxed), 's');
    const { airCelsius, celsius, watts } = heat.find((h) => h.air === 'box')!;
    expect(airCelsius).toBeCloseTo(40 + 10 * 3, 3);
    // Of the 3 W the cells keep 0.1 W.
    expect(watts).toBeCloseTo(2.9, 4);
    expect(celsius).toBeCloseTo(70 + 20 * 2.9, 2);
  });
});
