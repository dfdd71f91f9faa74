import { SeriesLaw } from '../laws/series.ts';
import { afterEach, describe, expect, it } from 'vitest';
import { load, thread } from '../../../test/build.ts';
import { findings } from '../../checks/checks.ts';
import { decodeThread } from '../../model/decode.ts';
import { Quantity } from '../../model/fields.ts';
import { StageBase } from '../../model/kinds/base.ts';
import { defaultBoost } from '../../model/kinds/boost.ts';
import { defaultBuck } from '../../model/kinds/buck.ts';
import { defaultLinear } from '../../model/kinds/linear.ts';
import { isRegulated, type Stage } from '../../model/kinds/registry.ts';
import type { Diode } from '../../model/parts.ts';
import { stageEnvelope } from '../../sizing/envelope.ts';
import { partsFor } from '../../sizing/suggest.ts';
import { simulate } from '../../run/rundown.ts';
import { MODE, MODES } from '../modes.ts';
import { CONVERSION, StagePoint } from '../point.ts';
import { highestOutput, neededInput, passesInput, stageSolver } from '../traits.ts';
import type { Kind } from './kind.ts';
import { registerKind } from './registry.ts';

/** A made-up kind: a coupling that gives a fixed share of its volts and as much more current, less what it keeps. */
class ShareStage extends StageBase {
  declare kind: 'share';
  @Quantity('', 0.1, 0.9, 'Share of the input volts at the output')
  share!: number;
  @Quantity('W', 0, 1, 'What it keeps for itself')
  keeps!: number;
}

declare module '../../model/kinds/registry.ts' {
  interface StageTypes {
    share: ShareStage;
  }
}

const share: Kind<ShareStage> = {
  kind: 'share',
  model: ShareStage,
  label: 'Share',
  create: (id, from) => ({
    id,
    from,
    kind: 'share',
    name: 'Share',
    share: 0.5,
    keeps: 0.1,
    maxInput: 60,
    grade: 'assumed',
  }),
  compile: (stage) => ({
    filter: 0,
    law: new SeriesLaw(0, 0, 0, 0, false),
    mostHeat: Infinity,
    bends: () => [],
    solve(vin, rail, out) {
      const vout = stage.share * vin;
      const iout = rail(vout);
      out.set(vin, stage.share * iout + stage.keeps / vin, vout, iout, MODE.direct, 0);
      out.loss[CONVERSION] = stage.keeps;
    },
  }),
  ownDraw: () => 0,
  sizable: false,
  picture: { shape: 'wire' },
  usualOutput: (rail) => rail / 2,
};

describe('a kind is its own file and one line', () => {
  // Files of one worker share what they import: nothing made up stays for the next.
  let letGo: (() => void) | undefined;
  afterEach(() => letGo?.());

  it('a made-up one is read from a file, runs, is sized and checked, with nothing else touched', () => {
    letGo = registerKind(share);
    expect(() => registerKind(share)).toThrow(/there is a kind share/);
    const stage = share.create('half', 'pack', 0) as Stage;
    const doc = thread({
      pack: { series: 4 },
      stages: [stage, { ...defaultLinear('low', 'half', 3.3) }],
      loads: [load('current', 0.2, { from: 'low', range: { min: 3, max: 3.5 } })],
    });
    expect(decodeThread(doc)).toMatchObject({ ok: true });
    const bad = { ...doc, stages: [{ ...stage, share: 2 }] };
    expect(decodeThread(bad)).toMatchObject({ ok: false });
    const run = simulate(doc);
    expect(run.ledger.closure).toBeLessThan(1e-9);
    expect(run.ledger.entries.find((e) => e.element === 'half')!.joules).toBeCloseTo(
      0.1 * run.usefulEnd.time,
      3,
    );
    expect(stageEnvelope(doc, run, 'half').mostAmps).toBeCloseTo(0.2 + 60e-6, 6);
    expect(isRegulated(stage)).toBe(false);
    expect(findings(doc, run).some((f) => /NaN|undefined/.test(f.reason))).toBe(false);
  });

  it('modes are one table: the index stored is the place in it', () => {
    MODES.forEach((m, k) => expect(MODE[m]).toBe(k));
  });
});

describe('traits', () => {
  const diode: Diode = { type: 'diode', forwardVolts: 0.55, resistance: 0.1 };

  it('a linear stage draws its load and its own current', () => {
    const stage = { ...defaultLinear('l', 'pack', 3.3), quiescentCurrent: 4e-3 };
    const out = new StagePoint();
    stageSolver(stage)(5, () => 0.1, out);
    expect(out.inputAmps).toBeCloseTo(0.104, 12);
    expect(neededInput({ ...stage, dropoutVolts: 0.3, dropoutResistance: 2 }, 0.1)).toBeCloseTo(3.8, 12);
  });

  it('a linear stage folds back where what it burns, its own draw too, heats its junction to the limit', () => {
    // 1 W at 100 K/W from 25 °C to 125 °C: 10 V · 50 mA go into it, so that 5 V · 100 mA are left.
    const stage = {
      ...defaultLinear('l', 'pack', 5),
      quiescentCurrent: 0.05,
      thermalResistance: 100,
      maxJunction: 125,
    };
    const solve = stageSolver(stage, 25);
    const point = new StagePoint();
    solve(10, (v) => (v / 5) * 0.099, point);
    expect(MODES[point.mode]).toBe('regulating');
    solve(10, (v) => (v / 5) * 0.101, point);
    expect(MODES[point.mode]).toBe('thermalLimit');
    expect(10 * point.inputAmps - point.outputVolts * point.outputAmps).toBeCloseTo(1, 9);
  });

  it('what a boost passes through is less by its rectifier, by its parts where they are in use', () => {
    const boost = { ...defaultBoost('b', 'pack', 5), rectifierVolts: 0.35, passResistance: 0.09 };
    expect(passesInput(boost)).toEqual({ volts: 0.35, resistance: 0.09 });
    expect(highestOutput(boost, 8.4)).toBeCloseTo(8.05, 12);
    expect(highestOutput(boost, 4.2)).toBe(5);
    const parts = { ...partsFor(boost, { low: 3, high: 4.2 }, 0.5), rectifier: diode, used: true };
    const real = { ...boost, parts };
    expect(passesInput(real)!.volts).toBe(0.55);
    expect(passesInput(real)!.resistance).toBeCloseTo(0.1 + parts.inductor.resistance, 12);
    expect(highestOutput(real, 8.4)).toBeCloseTo(7.85, 12);
  });

  it('a buck drops out where it says it needs more, at both depths', () => {
    const buck = { ...defaultBuck('b', 'pack', 6), maxDuty: 0.9, minInput: 3 };
    const parts = { ...partsFor(buck, { low: 7, high: 12 }, 1), rectifier: diode, used: true };
    for (const stage of [buck, { ...buck, parts }]) {
      const needs = neededInput(stage, 1.2)!;
      const mode = (vin: number) => {
        const out = new StagePoint();
        stageSolver(stage)(vin, () => 1.2, out);
        return MODES[out.mode];
      };
      expect(mode(needs * (1 + 1e-9))).toBe('buck');
      expect(mode(needs * (1 - 1e-9))).toBe('dropout');
    }
  });
});
