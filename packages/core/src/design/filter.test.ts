import { expect, it } from 'vitest';
import { filterPeak, quietDamping, RINGS } from './filter.ts';

it('what is offered against ringing ends it, as small as does, and from the usual four times up', () => {
  const place = { source: 0.01, load: 5 };
  const bare = { inductance: 1e-6, resistance: 1e-3, capacitance: 10e-6, esr: 1e-3 };
  expect(filterPeak(bare, place).gain).toBeGreaterThan(5);
  const { capacitance, resistance } = quietDamping(bare, place);
  const damped = { ...bare, dampingCapacitance: capacitance, dampingResistance: resistance };
  expect(filterPeak(damped, place).gain).toBeLessThanOrEqual(RINGS);
  // Four times its own still rises to 1.5, and five are just not enough.
  expect(capacitance / bare.capacitance).toBe(6);
  // One that loses more by itself needs less beside it.
  expect(quietDamping({ ...bare, esr: 0.15 }, place).capacitance).toBeLessThan(capacitance);
  expect(quietDamping({ ...bare, esr: 0.5 }, place).capacitance / bare.capacitance).toBe(4);
});
