import { describe, expect, it } from 'vitest';
import { defaultBuck, defaultDirect, defaultLinear, type Charging, type Source } from '../../test/core.ts';
import { ChargerLaw } from './law.ts';
import { LIMITS } from './limits.ts';
import { sourceLaw } from './source.ts';
import { ChargePoint } from './point.ts';

const supply = (more: Partial<Source> = {}) =>
  ({
    kind: 'supply',
    name: 'S',
    volts: 12,
    droop: 0,
    limit: 3,
    beyond: 'hard',
    grade: 'assumed',
    ...more,
  }) as Source;

/** A buck of exactly 90 %, set to 8.4 V and 2 A, behind a supply of 12 V and 3 A. */
const buck = (more: Partial<Charging> = {}, stage: object = {}): Charging => ({
  source: supply(),
  stage: {
    ...defaultBuck('c', 'source', 8.4),
    ...{ minInput: 6, maxInput: 30, inputLimit: 50, outputLimit: 10, maxDuty: 1, pathResistance: 0 },
    ...{ loss: { basis: 'efficiency', efficiency: 0.9, quiescentCurrent: 0 }, thermalResistance: 1 },
    ...stage,
  } as Charging['stage'],
  control: { current: 2, sense: 'output' },
  meanwhile: 'off',
  from: 0,
  ...more,
});

/** What it gives at so many volts of the pack. */
function at(
  charging: Charging,
  volts: number,
  setting: { on: boolean; amps: number; mains?: boolean } = { on: true, amps: 2 },
  load?: Parameters<ChargerLaw['solve']>[2],
  others = 0,
) {
  const law = new ChargerLaw(charging, 25);
  law.share(others);
  const point = new ChargePoint();
  law.solve(volts, setting, load, point);
  return { ...point, limit: LIMITS[point.limit]!, law };
}

/** [W] in by the books: pack, charger, diode, cable, droop. */
const lost = (p: Omit<ChargePoint, 'limit' | 'clear'>) =>
  p.loss.reduce((a, b) => a + b, 0) + p.diodeLoss + p.cableLoss + p.droopLoss;

describe('a source that sags by its own size', () => {
  it('shorted gives twice its limit where nobody says more, however small it is', () => {
    for (const limit of [0.22, 2]) {
      const law = sourceLaw(supply({ volts: 6, limit, beyond: 'soft' }));
      expect(law.volts(limit)).toBe(6);
      expect(law.volts(1.5 * limit)).toBeCloseTo(3, 9);
      expect(law.most).toBeCloseTo(2 * limit, 9);
    }
    // 5 V cells behind a linear charger: 220 mA at 6 V do not give 448.
    const small = {
      ...buck({ source: supply({ volts: 6, limit: 0.22, beyond: 'soft' }) }),
      stage: defaultLinear('c', 'source', 4.2),
    };
    expect(at(small, 3.7, { on: true, amps: 0.448 }).outAmps).toBeLessThan(0.31);
  });
});

describe('what holds a charger back', () => {
  it('the current it is set to, at its output or at its input', () => {
    const out = at(buck(), 7);
    expect([out.limit, out.outAmps]).toEqual(['current', 2]);
    // 14 W by 90 % and 12 V.
    expect(out.inAmps).toBeCloseTo(14 / 0.9 / 12, 9);
    const sensed = at(buck({ control: { current: 1, sense: 'input' } }), 7, { on: true, amps: 1 });
    expect(sensed.limit).toBe('current');
    expect(sensed.inAmps).toBeCloseTo(1, 9);
    expect(sensed.outAmps).toBeCloseTo((12 * 0.9) / 7, 8);
  });

  it('the volts it holds, a diode behind it taken off', () => {
    const near = at(buck(), 8.4 * (1 - 1e-9));
    expect(near.limit).toBe('volts');
    expect(near.outAmps).toBeLessThan(0.01);
    expect(at(buck(), 8.5)).toMatchObject({ limit: 'full', outAmps: 0 });
    const diode = { volts: 0.3, resistance: 0.1 };
    // At 8 V there is 0.1 V for 0.1 Ω: 1 A.
    const behind = at(buck({ diode } as Partial<Charging>), 8);
    expect(behind.limit).toBe('volts');
    expect(behind.outAmps).toBeCloseTo(1, 3);
    expect(behind.diodeLoss).toBeCloseTo(0.3 * behind.outAmps + 0.1 * behind.outAmps ** 2, 9);
    expect(behind.law.ceiling).toBeCloseTo(8.1, 9);
  });

  it('a diode before it: what the source stands at less its drop, by whatever kind of source', () => {
    const inputDiode = { volts: 0.5, resistance: 0.1 };
    const contacts = { contacts: 4, contactResistance: 0.02 };
    for (const source of [supply({}), supply({ droop: 0.3 }), supply({ limit: 1, beyond: 'soft' })]) {
      const p = at(buck({ source, inputDiode, contacts } as Partial<Charging>), 7);
      expect(p.outAmps).toBeGreaterThan(1);
      expect(p.nodeVolts - p.inVolts).toBeCloseTo(0.5 + 0.1 * p.inAmps, 9);
      expect(p.sourceVolts - p.nodeVolts).toBeCloseTo(0.08 * p.inAmps, 9);
      expect(p.sourceVolts).toBeCloseTo(sourceLaw(source).volts(p.sourceAmps), 9);
    }
    // Bare: 12 V less the drop, and through all ohms.
    const bare = {
      ...buck({ inputDiode, contacts }),
      stage: { ...defaultDirect('c', 'source'), resistance: 0.5 },
    };
    delete (bare as Partial<Charging>).control;
    const p = at(bare, 8, { on: true, amps: Infinity });
    expect(p.outAmps).toBeCloseTo(Math.min(3, (12 - 0.5 - 8) / 0.68), 6);
    expect(p.law.ceiling).toBeCloseTo(11.5, 9);
  });

  it('its own output, its own input, and what it is told to take at most', () => {
    expect(at(buck({}, { outputLimit: 1.5 }), 7)).toMatchObject({ limit: 'output', outAmps: 1.5 });
    const own = at(buck({}, { inputLimit: 0.8 }), 7);
    expect(own.limit).toBe('ownInput');
    expect(own.inAmps).toBeCloseTo(0.8, 8);
    const told = at(buck({ control: { current: 2, sense: 'output', inputLimit: 0.5 } }), 7);
    expect(told.limit).toBe('ownInput');
    expect(told.outAmps).toBeCloseTo((0.5 * 12 * 0.9) / 7, 8);
  });

  it('the source: hard at its amperes, soft down to where it sags, and one that lets go gives nothing', () => {
    const hard = at(buck({ source: supply({ limit: 1 }) }), 7);
    expect(hard.limit).toBe('source');
    expect(hard.sourceAmps).toBeCloseTo(1, 8);
    expect(hard.outAmps).toBeCloseTo((12 * 0.9) / 7, 7);
    expect(at(buck({ source: supply({ limit: 1, beyond: 'hiccup' }) }), 7)).toMatchObject({
      limit: 'letsGo',
      outAmps: 0,
    });
    // 12 V less 2 Ω beyond 1 A: (12 − 2·(I − 1))·I·0.9 = 14 W.
    const soft = at(buck({ source: supply({ limit: 1, beyond: 'soft', sag: 2 }) }), 7);
    const amps = (14 - Math.sqrt(14 ** 2 - 8 * (14 / 0.9))) / 4;
    expect(soft).toMatchObject({ limit: 'current', outAmps: 2 });
    expect(soft.inAmps).toBeCloseTo(amps, 8);
    expect(soft.inVolts).toBeCloseTo(12 - 2 * (amps - 1), 8);
  });

  it('input volts that it keeps up, and its lock-out: behind a cable and droop of 1.5 Ω', () => {
    const ohms = { source: supply({ droop: 1.5 }) };
    const kept = at(buck({ ...ohms, control: { current: 2, sense: 'output', inputVolts: 10.5 } }), 7);
    expect(kept.limit).toBe('inputVolts');
    expect(kept.inVolts).toBeCloseTo(10.5, 7);
    // (12 − 10.5)/1.5 = 1 A of input.
    expect(kept.outAmps).toBeCloseTo((10.5 * 0.9) / 7, 6);
    const edge = at(buck(ohms, { minInput: 11 }), 7);
    expect(edge.limit).toBe('lockOut');
    expect(edge.inAmps).toBeCloseTo(2 / 3, 6);
  });

  it('headroom: a linear charger needs its drop above the pack', () => {
    const linear = buck({
      source: supply({ volts: 9, droop: 0 }),
      stage: {
        ...defaultLinear('c', 'source', 8.8),
        ...{ dropoutVolts: 0.2, dropoutResistance: 0.5, outputLimit: 5, quiescentCurrent: 0 },
        ...{ minInput: 3, maxInput: 30, thermalResistance: 1 },
      },
    });
    // 9 − 0.2 − 0.5·I = 8.3: 1 A.
    const p = at(linear, 8.3);
    expect(p.limit).toBe('headroom');
    expect(p.outAmps).toBeCloseTo(1, 6);
  });

  it('its heat: what it may lose by its thermal resistance', () => {
    const p = at(buck({}, { thermalResistance: 80, maxJunction: 125 }), 7);
    expect(p.limit).toBe('heat');
    expect(p.heat).toBeCloseTo((125 - 25) / 80, 6);
    // A ninth of what it gives is lost.
    expect((7 * p.outAmps) / 9).toBeCloseTo(1.25, 5);
  });

  it('others on the same source, loads that come first, and no mains', () => {
    const beside = at(
      buck({ source: supply({ limit: 1.5, droop: 0.2 }) }),
      7,
      { on: true, amps: 2 },
      undefined,
      1,
    );
    expect(beside.limit).toBe('source');
    expect(beside.inAmps).toBeCloseTo(0.5, 7);
    // Others droop it by 0.2 V, its own 0.5 A by 0.1 V.
    expect(beside.inVolts).toBeCloseTo(11.7, 7);
    const load = { first: true, amps: () => 2.2 };
    const first = at(buck({ meanwhile: 'path' } as Partial<Charging>), 7, { on: true, amps: 2 }, load);
    expect(first.limit).toBe('load');
    expect(first.inAmps).toBeCloseTo(0.8, 7);
    expect(first.loadAmps).toBeCloseTo(2.2, 9);
    expect(at(buck(), 7, { on: true, amps: 2, mains: false })).toMatchObject({
      limit: 'off',
      outAmps: 0,
      supplied: 0,
    });
    expect(at(buck(), 7, { on: false, amps: 0 })).toMatchObject({ limit: 'off', outAmps: 0 });
  });
});

describe('the books of a charger', () => {
  it('what is supplied is what reaches the pack and what is lost, with every loss in', () => {
    const wall = { standby: 0.2, perWatt: 0.05, perSquareWatt: 0.002 };
    const charging = buck({
      source: supply({ droop: 0.3, wall }),
      inputDiode: { volts: 0.4, resistance: 0.05 },
      diode: { volts: 0.3, resistance: 0.1 },
      contacts: { contacts: 4, contactResistance: 0.02 },
    } as Partial<Charging>);
    const p = at(charging, 7);
    const given = p.sourceVolts * p.sourceAmps + p.droopLoss;
    expect(p.supplied).toBeCloseTo(given + p.wallLoss, 9);
    expect(given).toBeCloseTo(7 * p.outAmps + lost(p), 9);
    // Of what its terminals give, by their curve: common practice, no source.
    const watts = p.sourceVolts * p.sourceAmps;
    expect(Math.abs(p.wallLoss - (0.2 + 0.05 * watts + 0.002 * watts ** 2)) / p.wallLoss).toBeLessThan(0.06);
    expect(p.cableLoss).toBeCloseTo(0.08 * p.inAmps ** 2, 9);
    expect(p.sourceVolts - p.nodeVolts).toBeCloseTo(0.08 * p.inAmps, 9);
  });

  it('where it goes from all to nothing is within what it is told to hold', () => {
    const knee = new ChargerLaw(buck(), 25).kneeOf({ on: true, amps: 2 })!;
    expect(knee.hi).toBeCloseTo(8.4, 9);
    expect(knee.lo).toBeLessThan(knee.hi);
    expect(knee.lo).toBeGreaterThan(8.39);
    expect(new ChargerLaw(buck(), 25).kneeOf({ on: false, amps: 0 })).toBeUndefined();
    expect(at(buck(), knee.lo - 1e-6)).toMatchObject({ limit: 'current' });
    expect(at(buck(), (knee.lo + knee.hi) / 2).outAmps).toBeCloseTo(1, 2);
  });
});
