import { describe, expect, it } from 'vitest';
import { defaultBoost } from '../../model/kinds/boost.ts';
import { defaultBuck } from '../../model/kinds/buck.ts';
import { defaultBuckBoost } from '../../model/kinds/buckBoost.ts';
import { defaultSepic } from '../../model/kinds/sepic.ts';
import type { Converter } from '../../model/kinds/registry.ts';
import type { Diode, StageParts } from '../../model/parts.ts';
import { warmParts } from '../../sizing/heat.ts';
import { partsFor } from '../../sizing/suggest.ts';
import { CAPACITOR, CONDUCTION, COPPER, CORE, GATE, OVERLAP, RECTIFIER } from '../point.ts';
import { namedWays, partsLaw } from '../traits.ts';
import { BODY } from './losses.ts';
import { stressOf, type Stress } from './stress.ts';

const DIODE: Diode = { type: 'diode', forwardVolts: 0.35, resistance: 0.05, maxVolts: 40, maxAmps: 5 };

function withParts<C extends Converter>(
  stage: C,
  low: number,
  high: number,
  iout: number,
  diode: boolean,
): C {
  const parts = partsFor(stage, { low, high }, iout) as StageParts;
  const [field, power] =
    'rectifier' in parts ? (['rectifier', parts.main] as const) : (['boostHigh', parts.boostLow] as const);
  return { ...stage, parts: { ...parts, [field]: diode ? DIODE : power } } as C;
}

/** [W] of dead time in the switches that stand in for diodes: written for each kind from its own currents. */
function deadTime(stage: Converter, s: Stress): number {
  const { deadTime: td } = stage.parts!;
  const [first, second] = [s.current[0]!, s.current[1]!];
  return s.frequency * td * BODY * (Math.abs(first) + Math.abs(second));
}

/**
 * Heat in the package, written out: what its switches conduct, their edges and gates, dead time where a switch stands
 * in for the diode, and the controller's own draw. Windings, core, capacitors and diodes stand beside it.
 */
function packageHeat(stage: Converter, s: Stress, vin: number, diode: boolean): number {
  const switches = s.losses[CONDUCTION]! + s.losses[OVERLAP]! + s.losses[GATE]!;
  const own = vin * stage.loss.quiescentCurrent;
  return switches + own + (diode ? 0 : deadTime(stage, s));
}

const CASES: [string, Converter, number, number, number][] = [
  ['buck 12 → 3.3 V 2 A', defaultBuck('s', 'pack', 3.3), 12, 3.3, 2],
  ['boost 3.7 → 12 V 0.4 A', defaultBoost('s', 'pack', 12), 3.7, 12, 0.4],
  ['boost 7 → 12 V 1 A', defaultBoost('s', 'pack', 12), 7, 12, 1],
  ['buck-boost, stepping up', defaultBuckBoost('s', 'pack', 9), 6, 9, 0.8],
  ['SEPIC 4 → 5 V 0.6 A', defaultSepic('s', 'pack', 5), 4, 5, 0.6],
];

describe('heat in the package', () => {
  for (const [name, kind, vin, vout, iout] of CASES) {
    for (const diode of [false, true]) {
      it(`${name}, ${diode ? 'with a diode' : 'synchronous'}: what its own parts turn into heat, no more and no less`, () => {
        const stage = withParts(kind, 0.8 * vin, 1.2 * vin, iout, diode);
        const s = stressOf(partsLaw(stage), vin, vout, iout)!;
        expect(s.discontinuous).toBe(false);
        expect(s.heat).toBeCloseTo(packageHeat(stage, s, vin, diode), 9);
        expect(s.heat).toBeGreaterThan(0.01);
        // The whole loss: package, diodes by themselves, windings, core, capacitors.
        const diodes = diode ? namedWays(stage).filter((w) => w.part.type === 'diode') : [];
        const beside = diodes.reduce((sum, w) => sum + s.ways[w.way].watts, 0);
        const wound = s.losses[COPPER]! + s.losses[CORE]! + s.losses[CAPACITOR]!;
        expect(s.heat + beside + wound).toBeCloseTo(vin * s.inputAmps - vout * iout, 9);
        if (diode) expect(beside).toBeCloseTo(s.losses[RECTIFIER]!, 9);
      });
    }
  }

  it('in several packages each switch has its own, and they sum to what conducts and switches but for the gates', () => {
    const stage = withParts(defaultBuck('s', 'pack', 3.3), 10, 14, 2, false);
    stage.parts!.integrated = false;
    const s = stressOf(partsLaw(stage), 12, 3.3, 2)!;
    const warm = warmParts(stage, s, 0).filter((w) => w.name !== 'Inductor');
    expect(warm.map((w) => w.name)).toEqual(['Switch', 'Rectifier switch']);
    const sum = warm.reduce((total, w) => total + w.watts, 0);
    expect(sum).toBeCloseTo(s.losses[CONDUCTION]! + s.losses[OVERLAP]! + s.losses[RECTIFIER]!, 9);
  });

  it('a winding warms by its RMS current and its core', () => {
    const stage = withParts(defaultBoost('s', 'pack', 12), 3, 4.2, 0.4, false);
    const { inductor } = stage.parts!;
    stage.parts!.inductor = { ...inductor, inductance: inductor.inductance / 6, thermalResistance: 60 };
    stage.parts!.lightLoad = 'forced';
    const s = stressOf(partsLaw(stage), 3.7, 12, 0.4)!;
    expect(s.inductor.rms).toBeGreaterThan(1.05 * s.inductor.mean);
    const part = warmParts(stage, s, 0).find((w) => w.name === 'Inductor')!;
    expect(part.watts).toBeCloseTo(s.losses[COPPER]! + s.losses[CORE]!, 9);
  });
});

describe('forced conduction with a valley below zero', () => {
  it('the ways’ means carry what the ripple loses: what they take in is what is given and lost in them', () => {
    for (const kind of [defaultBuck('s', 'pack', 3.3), defaultBoost('s', 'pack', 20)]) {
      const stage = withParts(kind as Converter, 10, 14, 1, false);
      stage.parts!.lightLoad = 'forced';
      stage.parts!.minOnTime = 0;
      const vout = stage.outputVolts;
      const s = stressOf(partsLaw(stage), 12, vout, 1e-3)!;
      expect(s.inductor.valley).toBeLessThan(-0.05);
      const conduction = s.losses[CONDUCTION]! + s.losses[COPPER]!;
      const taken = 12 * s.ways.a.mean - vout * 1e-3;
      expect(taken / conduction).toBeGreaterThan(0.97);
      expect(taken / conduction).toBeLessThan(1.03);
    }
  });
});

describe('parts beyond all sense', () => {
  it('have no period rather than one of negative length: pulses behind 100 Ω', () => {
    const stage = withParts(defaultBuck('s', 'pack', 11.9), 16, 26, 1, false);
    const possible = () => {
      const { inputAmps, period, losses } = partsLaw(stage).at(25.5, 11.9, 6e-5);
      return inputAmps !== Infinity && period.frequency > 0 && Math.min(...losses) >= 0;
    };
    Object.assign(stage.parts!, { lightLoad: 'pulses', pulsePeak: 0.37 });
    stage.parts!.inductor.inductance = 22e-6;
    expect(possible()).toBe(true);
    stage.parts!.inductor.resistance = 100;
    expect(possible()).toBe(false);
    expect(partsLaw(stage).at(25.5, 11.9, 6e-5).inputAmps).toBe(Infinity);
  });

  it('nor one of negative duty: a SEPIC whose switch has 100 Ω', () => {
    const stage = withParts(defaultSepic('s', 'pack', 5), 10, 20, 0.1, false);
    stage.parts!.lightLoad = 'emulation';
    (stage.parts as { main: { resistance: number } }).main.resistance = 100;
    const law = partsLaw(stage);
    for (const vout of [1, 2, 3, 4, 5]) {
      const { inputAmps, losses } = law.at(18.5, vout, 0.097);
      expect(inputAmps === Infinity || Math.min(...losses) >= 0).toBe(true);
    }
  });
});

it('with nothing to give a stage in pulses or emulation has no period at all, and takes its own draw', () => {
  for (const lightLoad of ['pulses', 'emulation'] as const) {
    const stage = withParts(defaultBuck('s', 'pack', 5), 8, 14, 1, false);
    stage.parts!.lightLoad = lightLoad;
    const { inputAmps } = partsLaw(stage).at(12, 5, 0);
    expect(inputAmps / stage.loss.quiescentCurrent).toBeCloseTo(1, 3);
  }
});
