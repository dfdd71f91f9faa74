import { describe, expect, it } from 'vitest';
import { Joint, CARRIES } from '../src/plant/joint.ts';
import { dipChance } from '../src/backup/years.ts';
import {
  backupFindings,
  backupOf,
  demoThreads,
  goneOf,
  heldFrom,
  finish,
  holdField,
  lowestLevel,
  outage,
  randomYear,
  shareRange,
  yearsOf,
  type ThreadDocument,
} from './core.ts';

const HOUR = 3600;
const YEAR = 8766 * HOUR;

/** The door lock, its pack always as full as its charger makes it while there is mains. */
function keptFull(watts: number): ThreadDocument {
  const lock = demoThreads().find((t) => t.name.includes('lock'))!;
  const control = { ...lock.charging!.control!, current: 4 };
  delete control.terminate;
  delete control.timer;
  const [first] = lock.loads;
  const doc: ThreadDocument = {
    ...lock,
    loads: [{ ...first!, draw: 'power', power: watts }],
    charging: {
      ...lock.charging!,
      control,
      meanwhile: 'battery',
      source: {
        name: 'Strong',
        kind: 'supply',
        volts: 24,
        droop: 0,
        limit: 20,
        beyond: 'hard',
        grade: 'assumed',
      },
    },
  };
  delete doc.programme;
  delete doc.modes;
  delete doc.loads[0]!.draws;
  delete doc.loads[0]!.peaks;
  return doc;
}

describe('outages as chance brings them', () => {
  const chance = { perYear: 9, half: 1.25, sixth: 3 };
  it('so many a year, half of them and one in six as long as stated; the same each time', () => {
    const years = Array.from({ length: 500 }, (_, k) => randomYear({ ...chance, perYear: 2 }, k));
    const hours = years.flat().map((g) => (g.to - g.from) / HOUR);
    const share = (of: number) => hours.filter((h) => h > of).length / hours.length;
    // Three standard deviations of a Poisson count, and of shares.
    expect(Math.abs(hours.length - 1000)).toBeLessThan(3 * Math.sqrt(1000));
    expect(Math.abs(share(1.25) - 1 / 2)).toBeLessThan(3 * Math.sqrt(0.25 / 1000));
    expect(Math.abs(share(3) - 1 / 6)).toBeLessThan(3 * Math.sqrt(5 / 36 / 1000));
    // Of a Poisson process the gaps are exponential: their deviation is their mean.
    const starts = years.flatMap((y, k) => y.map((g) => g.from + k * YEAR));
    const gaps = starts.slice(1).map((s, k) => s - starts[k]!);
    const mean = gaps.reduce((a, b) => a + b, 0) / gaps.length;
    const deviation = Math.sqrt(gaps.reduce((s, g) => s + (g - mean) ** 2, 0) / gaps.length);
    expect(deviation / mean).toBeGreaterThan(0.9);
    expect(deviation / mean).toBeLessThan(1.1);
    expect(randomYear(chance, 3)).toEqual(randomYear(chance, 3));
    expect(randomYear(chance, 3)).not.toEqual(randomYear(chance, 4));
  });

  it('a pack that is full whenever mains goes drops its load in just the years with an outage longer than it holds', () => {
    const doc = keptFull(4);
    const alone = outage(doc, [{ from: 48 * HOUR, to: 1000 * HOUR }], 1000 * HOUR);
    const holds = alone.dark[0]!.from - 48 * HOUR;
    expect(holds / HOUR).toBeGreaterThan(4);
    // One outage in some of those that last a median of half of that, so that there are years of both kinds.
    const odds = { perYear: 3, half: holds / HOUR / 3, sixth: holds / HOUR / 1.2 };
    const years = finish(yearsOf({ ...doc, backup: { span: 24, outages: [], chance: odds } }, 0, 30, 0.5));
    const longer = (y: number) => randomYear(odds, y).some((g) => g.to - g.from > holds);
    expect(years.filter((y) => y.drops > 0).map((y) => y.year)).toEqual(
      years.map((y) => y.year).filter(longer),
    );
    const dropped = years.filter((y) => y.drops > 0).length;
    expect(dropped).toBeGreaterThan(5);
    expect(dropped).toBeLessThan(25);
    for (const y of years) {
      const beyond = randomYear(odds, y.year).reduce((s, g) => s + Math.max(0, g.to - g.from - holds), 0);
      expect(y.dark / HOUR).toBeCloseTo(beyond / HOUR, 1);
    }
    const dips = years.reduce((s, y) => s + y.dips, 0) / years.reduce((s, y) => s + y.outages, 0);
    expect(Math.abs(dips - 0.5)).toBeLessThan(0.2);
  });

  it('an interval of a share: 8 of 100', () => {
    // Wilson's interval of 8 in 100 at 95 %: 4.1 to 15.0 % (Newcombe, Stat. Med. 17 (1998) 857, from memory for the form).
    const { low, high } = shareRange(8, 100);
    expect(low).toBeCloseTo(0.0411, 4);
    expect(high).toBeCloseTo(0.15, 4);
    expect(shareRange(0, 100).low).toBe(0);
  });

  it('a transfer dips for as much of the time as the rail is asked for too much', () => {
    const task = { rail: 12, farads: 1e-3, esr: 0, watts: 0, seconds: 1e-3, backup: 12, ohms: 1e-3 };
    // V² = V0² − 2·P·t/C: 11 V is met by 11.5 W.
    const asked = [
      { watts: 11.4, share: 0.9 },
      { watts: 11.6, share: 0.07 },
      { watts: 30, share: 0.03 },
      { watts: 30, share: 0 },
    ];
    expect(dipChance({ task, wanted: 11, asked })).toBeCloseTo(0.1, 9);
  });
});

describe('timelines', () => {
  it('outages that recur are laid among those stated, up to its end', () => {
    const { gone, merged } = goneOf({
      span: 60,
      outages: [
        { from: 5, hours: 1 },
        { from: 21, hours: 4 },
      ],
      recurring: { from: 0, hours: 2, every: 24 },
    });
    expect(merged).toBe(false);
    expect(gone.map((g) => [g.from / HOUR, g.to / HOUR])).toEqual([
      [0, 2],
      [5, 6],
      [21, 26],
      [48, 50],
    ]);
  });

  it('an adapter that lets go leaves all to the battery where it is asked for too much', () => {
    const way = { volts: 0, ohms: 0.1 };
    const joint = (letsGo: boolean, amps: number) => {
      const j = new Joint(0, way, way, letsGo);
      j.adapterVolts = 12;
      j.most = 1;
      j.solve(11.5, () => amps);
      return j;
    };
    expect(joint(true, 0.9)).toMatchObject({ carries: CARRIES.adapter, full: false });
    expect(joint(false, 1.2)).toMatchObject({ carries: CARRIES.both });
    const let_go = joint(true, 1.2);
    expect(let_go).toMatchObject({ carries: CARRIES.battery, amps: 0, full: true });
    expect(let_go.battery).toBeCloseTo(1.2, 6);
    expect(let_go.volts).toBeCloseTo(11.5 - 0.12, 6);
  });
});

describe('what a pack holds by charge and age, and where it may stand', () => {
  const lock = demoThreads().find((t) => t.name.includes('lock'))!;
  const found = backupOf(lock);

  it('a field: never longer with less charge or older cells; its first row is that of new cells', () => {
    const { soc, left, seconds } = finish(holdField(lock));
    expect(seconds[0]).toEqual(found.holds[0]!.seconds);
    for (let a = 0; a < left.length; a++) {
      for (let k = 0; k < soc.length; k++) {
        if (k > 0) expect(seconds[a]![k]!).toBeLessThanOrEqual(seconds[a]![k - 1]!);
        // In the last of the charge it is the cut-off's own ways that count.
        if (a > 0 && soc[k]! > 0.1) expect(seconds[a]![k]!).toBeLessThan(seconds[a - 1]![k]!);
      }
    }
    // 80 % of the charge is the aged case.
    const aged = found.holds.find((h) => h.name === 'aged')!;
    expect(seconds[left.findIndex((l) => Math.abs(l - 0.8) < 1e-9)]).toEqual(aged.seconds);
  });

  it('stands no fuller than it must: the lowest level that still holds as wanted, taken with a click', () => {
    const wanted = 6 * HOUR;
    const level = lowestLevel(found.levels, wanted)!;
    expect(level.volts).toBeCloseTo(4.05, 9);
    expect(level.aged).toBeGreaterThanOrEqual(wanted);
    expect(heldFrom(found.holds[1]!, level.soc)).toBe(level.aged);
    expect(lowestLevel(found.levels, 1000 * HOUR)).toBeUndefined();
    const doc = { ...lock, backup: { ...lock.backup!, hold: 6 } };
    const word = backupFindings(doc, found).find((f) => f.id === 'stands-full:backup')!;
    expect(word.severity).toBe('note');
    expect(word.action!.edits[0]).toMatchObject({ path: ['charging', 'stage', 'outputVolts'] });
    // Where it begins anew goes down with it.
    expect(word.action!.edits[1]).toMatchObject({ path: ['charging', 'control', 'recharge'], value: 3.95 });
    expect((word.action!.edits[0] as { value: number }).value / lock.pack.series).toBeCloseTo(level.volts, 2);
  });
});
