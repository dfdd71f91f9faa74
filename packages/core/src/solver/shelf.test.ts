import { expect, it } from 'vitest';
import { load, plainCell, thread } from '../../test/build.ts';
import { defaultBoost, simulate } from '../../test/core.ts';

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
