import { describe, expect, it } from 'vitest';
import { emptyLawPoint } from '../stages/laws/law.ts';
import { CHARGE_LIMITS, limiterOf, LIMITS, type Held, type LimitEntry, type Trial } from './limits.ts';
import { decides, firstPhase, PHASES, phaseWord } from './phases.ts';
import { sourceLaw } from './source.ts';

const held = (more: Partial<Held> = {}, beyond: 'hard' | 'soft' = 'hard'): Held => ({
  source: sourceLaw({ kind: 'supply', name: 'S', volts: 12, droop: 0, limit: 3, beyond, grade: 'assumed' }),
  ...{ output: Infinity, inputLimit: Infinity, mostHeat: Infinity, minInput: 4, inputVolts: 0 },
  ...{ senseInput: false, set: 8.4, behind: { volts: 0.4, ohms: 0.1 } },
  ...more,
});

const trial = (more: Partial<Trial> = {}): Trial => ({
  ...{ volts: 7, amps: 2, vin: 11, headroom: 3, left: 1.5, loads: 0 },
  point: { ...emptyLawPoint(), inputAmps: 1, room: 5, heat: 2 },
  ...more,
});

const names = (all: readonly { limit: number }[]) => all.map((l) => LIMITS[l.limit]);

describe('the table of what holds a charger', () => {
  it('has of each charger what it is made of, and nothing else', () => {
    const plain = limiterOf(held());
    expect(names(plain.most)).toEqual(['current', 'volts']);
    expect(names(plain.rooms)).toEqual(['headroom', 'ownInput', 'source', 'lockOut', 'load']);
    expect(names(plain.past)).toEqual(['headroom', 'source', 'load']);
    const all = limiterOf(held({ output: 2, mostHeat: 3, inputVolts: 4.5, senseInput: true }, 'soft'));
    expect(names(all.most)).toEqual(['volts', 'output']);
    expect(names(all.rooms)).toEqual(['current', 'headroom', 'ownInput', 'inputVolts', 'heat', 'lockOut']);
    expect(names(limiterOf(held({ set: Infinity })).most)).toEqual(['current']);
  });

  it('allows what is left to each in its own unit', () => {
    const { most, rooms } = limiterOf(held({ inputLimit: 1.25, mostHeat: 3, inputVolts: 4.5 }));
    // (8.4 − 0.4 − 7) V over 0.1 Ω
    expect(most.map((l) => l.at({ volts: 7, amps: 2 }))).toEqual([2, expect.closeTo(10, 9)]);
    const room = (more?: Partial<Trial>) =>
      Object.fromEntries(rooms.map((l) => [LIMITS[l.limit], l.at(trial(more))]));
    expect(room()).toEqual({
      ...{ headroom: 3, ownInput: 0.25, source: 1.5, inputVolts: 6.5, heat: 1, lockOut: 7, load: Infinity },
    });
    // Where loads come first, it is they who leave it no more.
    expect(room({ loads: 0.5 })).toMatchObject({ source: Infinity, load: 1.5 });
  });

  it('takes another one as a row', () => {
    const made: LimitEntry = {
      word: 'by a thermistor',
      phrase: 'gives half in the cold',
      most:
        () =>
        ({ amps }) =>
          amps / 2,
    };
    const { most } = limiterOf(held(), [...LIMITS.map((l) => CHARGE_LIMITS[l]), made]);
    expect(most.at(-1)).toMatchObject({ limit: LIMITS.length });
    expect(most.at(-1)!.at({ volts: 7, amps: 3 })).toBe(1.5);
  });
});

describe('the table of phases', () => {
  const control = {
    ...{ current: 1, sense: 'output' as const, terminate: 0.1, deglitch: 20 },
    precharge: { below: 3, current: 0.1, timer: 2 },
  };

  it('leads from one to the next and back: what is set, what is waited for, for how long', () => {
    expect(firstPhase(control)).toBe('precharge');
    expect(firstPhase({ ...control, precharge: undefined })).toBe('fast');
    const at = { series: 3, again: 12 };
    const told = (['precharge', 'fast', 'done'] as const).map((name) => {
      const { set, watches, waits } = PHASES[name];
      return [set(control).amps, watches!(control, at), waits!.then, waits!.without?.(control) ?? 0];
    });
    expect(told).toEqual([
      [0.1, { ready: 9 }, 'fast', 0],
      [1, { tapered: 0.1, ofBattery: false }, 'done', 20],
      [0, { again: 12 }, 'fast', 0],
    ]);
    expect(PHASES.precharge.late!.after(control)).toBe(2);
    for (const off of ['held', 'noMains'] as const) expect(PHASES[off].set(control).on).toBe(false);
  });

  it('is called by its own word only while its set current flows', () => {
    expect([decides('current', 'precharge'), decides('headroom', 'precharge')]).toEqual([
      'precharge',
      'headroom',
    ]);
    expect(decides('current', 'fast')).toBe('current');
    expect([phaseWord('precharge'), phaseWord('volts')]).toEqual(['precharge', 'constant voltage']);
  });
});
