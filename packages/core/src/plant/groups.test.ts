import { describe, expect, it } from 'vitest';
import { plainCell } from '../../test/build.ts';
import { cellTable } from './cellTable.ts';
import { Groups, groupsOn } from './groups.ts';

/** 3 V to 4 V straight, 0.1 Ω. Three groups: usual and full; 80 % and full; usual, half full and with thrice the resistance. */
const cell = cellTable(plainCell(2, 3, 4, 0.1));
const three = [
  { capacity: 1, resistance: 1, startSoc: 1 },
  { capacity: 0.8, resistance: 1, startSoc: 1 },
  { capacity: 1, resistance: 3, startSoc: 0.5 },
];

describe('groups in series that differ', () => {
  const groups = new Groups(cell, three);
  /** All pass the same charge: state of each once `q` of a usual cell has gone; the third is the first to be empty. */
  const after = (q: number) => [1 - q, 1 - q / 0.8, 0.5 - q];
  /** State of the pack: of what the weakest allows, from full to empty of whichever comes first. */
  const pack = (q: number) => {
    const full = groups.at(1, NaN).map((g) => g.soc);
    const empty = groups.at(0, NaN).map((g) => g.soc);
    return (1 - q - empty[0]!) / (full[0]! - empty[0]!);
  };

  it.each([0, 0.2, 0.45])('stand where the charge that has passed leaves each: %f', (q) => {
    groups.at(pack(q), NaN).forEach((g, k) => expect(g.soc).toBeCloseTo(after(q)[k]!, 9));
  });

  it('empty of the first ends them, and full is where the first is full', () => {
    expect(Math.min(...groups.at(0, NaN).map((g) => g.soc))).toBeCloseTo(0, 9);
    expect(Math.max(...groups.at(1, NaN).map((g) => g.soc))).toBeCloseTo(1, 9);
  });

  it('lose their volts by their own resistance: three times as much in the third', () => {
    const amps = 1.2;
    const volts = after(0.2).map((z, k) => 3 + z - amps * 0.1 * three[k]!.resistance);
    const mean = volts.reduce((a, b) => a + b) / 3;
    const got = groups.at(pack(0.2), mean);
    got.forEach((g, k) => expect(g.volts).toBeCloseTo(volts[k]!, 8));
    expect(groups.lowest(pack(0.2), mean)).toBeCloseTo(Math.min(...volts), 8);
    expect(groups.highest(pack(0.2), mean)).toBeCloseTo(Math.max(...volts), 8);
    // Charging it is the third that stands highest above its rest.
    const charging = after(0.2).map((z, k) => 3 + z + amps * 0.1 * three[k]!.resistance);
    expect(groups.highest(pack(0.2), charging.reduce((a, b) => a + b) / 3)).toBeCloseTo(
      Math.max(...charging),
      8,
    );
  });

  it('the first at rest at a voltage, and what each holds above one, are each its own', () => {
    // 3.2 V is 20 % of the third, which is there first: 0.3 has passed.
    expect(groups.firstAt(3.2)).toBeCloseTo(pack(0.3), 9);
    const area = (z: number) => 3 * z + z ** 2 / 2;
    const at = after(0.1);
    const above = groups.above(pack(0.1), 3.3);
    // By its charge over the pack's window: what a group holds is its integral by its own capacity.
    const window = groups.at(1, NaN)[0]!.soc - groups.at(0, NaN)[0]!.soc;
    three.forEach((g, k) => {
      const wanted = (g.capacity * Math.max(0, area(at[k]!) - area(0.3))) / window / 3;
      expect(above[k]!).toBeCloseTo(wanted, 6);
    });
    expect(groups.between(0.2, 0.6)).toBeCloseTo(area(0.6) - area(0.2), 9);
  });

  it('are made once for the same curves and the same groups', () => {
    expect(groupsOn(cell, three)).toBe(groupsOn(cell, structuredClone(three)));
    expect(groupsOn(cell, three.slice(1))).not.toBe(groupsOn(cell, three));
  });
});
