import { expect, it } from 'vitest';
import { load, plainCell, thread } from '../../test/build.ts';
import { defaultBoost, simulate } from '../../test/core.ts';

it('shelf time sees a lock-out behind a resistance, at volts that nobody states', () => {
  // Two boosts in a row behind half an ohm: the second draws 20 mA at 5 V until the first locks out at 3.4 V.
  const [own, further, ohms, lockOut] = [1e-3, 20e-3, 0.5, 3.4];
  const cell = plainCell(2, 3, 4.2, 0.05);
  const loss = { basis: 'efficiency' as const, efficiency: 1, quiescentCurrent: own };
  const ideal = { resistance: 0, pathResistance: 0, rectifierVolts: 0 };
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

  // By hand: at each charge the input behind the wire, v = V − R·(own + 5·further/v), its upper root.
  const steps = 200_000;
  const to = (cell.endVolts - 3) / 1.2;
  let hours = 0;
  for (let k = 0; k < steps; k++) {
    const soc = 1 - ((k + 0.5) / steps) * (1 - to);
    const open = 3 + 1.2 * soc - ohms * own;
    const v = (open + Math.sqrt(open * open - 4 * ohms * 5 * further)) / 2;
    const amps = v < lockOut ? own : own + (5 * further) / v;
    hours += (((1 - to) / steps) * 2) / amps;
  }
  expect(idle.amps).toBeCloseTo(own + (5 * further) / 4.18769, 6);
  expect(idle.hoursToEnd / hours).toBeCloseTo(1, 3);
});
