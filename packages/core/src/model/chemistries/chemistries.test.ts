import { afterEach, describe, expect, it } from 'vitest';
import { demoThreads } from '../../../test/core.ts';
import { fadeAfter } from '../../belief/fade.ts';
import { schoolsOf } from '../../bench/schools.ts';
import { floatLevels } from '../../backup/float.ts';
import { typicalTemperature } from '../../cells/temperature.ts';
import { typicalCold, type Chemistry } from './chemistry.ts';
import { CHEMISTRY, type ChemistryName } from './registry.ts';

/** One that is made up, as its file would have it. */
const sodium: Chemistry = {
  known: { as: 'a sodium cell', full: 3.95 },
  rests: [1.5, 4],
  harm: 1,
  fade: { calendar: 0.05, cycling: 0.2 },
  temperature: typicalCold(12000, [0.9, 0.93, 0.97, 0.99, 1, 1], 10),
  agesFull: false,
  cutoffs: { volts: [1.5, 2, 3.1], usual: 2 },
};
const name = 'sodium' as ChemistryName;
const all = CHEMISTRY as Record<string, Chemistry>;

afterEach(() => {
  delete all[name];
});

describe('a chemistry is one file and one line', () => {
  it('all that depends on it follows: fade, cold, where to stop, whether to stop below full', () => {
    all[name] = sodium;
    // A year at 25 °C and nothing else: what it says.
    expect(fadeAfter({ chemistry: name }, 1, 0, 25).usual.capacity).toBeCloseTo(0.95, 12);
    expect(typicalTemperature(name).minCharge).toBe(-20);
    const lock = demoThreads().find((t) => t.name.includes('lock'))!;
    const cell = { ...lock.pack.cell, chemistry: name, damageVolts: 1 };
    const doc = { ...lock, pack: { ...lock.pack, cell } };
    const schools = schoolsOf(doc);
    expect(schools.find((s) => s.id === 'cutoff')!.usual).toBe('2');
    expect(schools.some((s) => s.id === 'trim')).toBe(false);
    expect(floatLevels(doc, [])).toEqual([]);
    expect(schoolsOf(lock).some((s) => s.id === 'trim')).toBe(true);
  });

  it('each says volts in order, harm below its rest, a fade that is a share', () => {
    for (const { rests, harm, fade, cutoffs, known } of Object.values(all)) {
      expect(rests[0]).toBeLessThan(rests[1]);
      expect(harm).toBeLessThanOrEqual(rests[0]);
      expect(fade.calendar + fade.cycling).toBeLessThan(0.5);
      if (cutoffs) {
        expect([...cutoffs.volts].sort((a, b) => a - b)).toEqual([...cutoffs.volts]);
        expect(cutoffs.volts).toContain(cutoffs.usual);
      }
      if (known) expect(known.full).toBeLessThanOrEqual(rests[1]);
    }
  });
});
