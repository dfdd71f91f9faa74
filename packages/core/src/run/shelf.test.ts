import { expect, it } from 'vitest';
import { load, plainCell, thread } from '../../test/build.ts';
import { defaultBoost, simulate } from '../../test/core.ts';
import { shelfHours } from './shelf.ts';

it('shelf time sees a lock-out behind a resistance, at volts that nobody states', () => {
  // Two boosts in a row behind half an ohm: the second draws 20 mA at 5 V until the first locks out at 3.4 V.
  const [own, further, ohms, lockOut] = [1e-3, 20e-3, 0.5, 3.4];
  const watts = (5 * further) / 0.9;
  const cell = plainCell(2, 3, 4.2, 0.05);
  const loss = { basis: 'efficiency' as const, efficiency: 0.9, quiescentCurrent: own };
  const ideal = { rectifierVolts: 0 };
  const first = { ...defaultBoost('first', 'wire', 5), ...ideal, loss, minInput: lockOut };
  const second = {
    ...defaultBoost('second', 'first', 9),
    ...ideal,
    loss: { ...loss, quiescentCurrent: further },
  };
  const wire = {
    id: 'wire',
    name: 'Wire',
    from: 'pack',
    kind: 'direct' as const,
    resistance: ohms,
    grade: 'assumed' as const,
  };
  const doc = thread({
    cell,
    stages: [wire, first, second] as never,
    loads: [load('power', 1, { from: 'second' })],
  });
  const { idle } = simulate(doc);

  // By hand: at each charge the input behind the wire, v = V − R·(own + P/v), its upper root.
  const steps = 200_000;
  const to = (cell.endVolts - 3) / 1.2;
  let hours = 0;
  for (let k = 0; k < steps; k++) {
    const soc = 1 - ((k + 0.5) / steps) * (1 - to);
    const open = 3 + 1.2 * soc - ohms * own;
    const v = (open + Math.sqrt(open * open - 4 * ohms * watts)) / 2;
    const amps = v < lockOut ? own : own + watts / v;
    hours += (((1 - to) / steps) * 2) / amps;
  }
  expect(idle.amps).toBeCloseTo(own + watts / (4.2 - ohms * idle.amps), 9);
  expect(idle.hoursToEnd / hours).toBeCloseTo(1, 3);
});

it('a store under a steady draw and its own drain falls as their sum has it, and for ever where nothing draws', () => {
  // dt = −ds/(I/Q + λs): ln((I/Q + λ·0.9)/(I/Q + λ·0.2))/λ.
  const [charge, amps, lambda] = [7200, 1e-4, 1e-8];
  const rate = amps / charge;
  const hours = Math.log((rate + lambda * 0.9) / (rate + lambda * 0.2)) / lambda / 3600;
  expect(shelfHours(charge, () => amps, lambda, 0.9, 0.2, 4) / hours).toBeCloseTo(1, 9);
  // By itself alone it halves in ln 2/λ, from wherever.
  expect(shelfHours(charge, () => 0, lambda, 0.8, 0.4, 4) * 3600).toBeCloseTo(Math.LN2 / lambda, -2);
  expect(shelfHours(charge, () => 0, 0, 0.8, 0.4, 4)).toBe(Infinity);
  expect(shelfHours(charge, () => amps, 0, 0.4, 0.4, 4)).toBe(0);
});

it('warm in the sun the pack drains sooner: self-discharge and charge are those of its air, also where cells warm themselves', () => {
  const cell = {
    ...plainCell(2, 3, 4.2, 0.05),
    selfDischargePerMonth: 0.03,
    temperature: { selfDischargeDoubles: 10, grade: 'assumed' as const },
  };
  const hours = (air: number, warmth?: object) => {
    const doc = thread({
      cell,
      pack: warmth ? { warmth: warmth as never } : {},
      loads: [load('current', 0.2)],
    });
    return simulate({ ...doc, conditions: { minAir: air, air, maxAir: air } }).idle.hoursToEnd;
  };
  // Twice as fast every ten kelvin.
  expect(hours(25) / hours(45)).toBeCloseTo(4, 6);
  const own = { heatCapacity: 40, resistance: 8, grade: 'assumed' };
  expect(hours(45, own) / hours(45)).toBeCloseTo(1, 6);
});
