import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import {
  fromDischarges,
  guessColumns,
  logLines,
  readLog,
  recordFrom,
  separatorOf,
  sumOf,
  thinned,
  ThinnedRows,
  type Log,
} from '../src/logs.ts';
import { issueSentence, type Outcome } from '../src/model/issue.ts';
import { caseOf, input, meets } from './cases.ts';
import { load, plainCell, thread } from './build.ts';
import { cellCurve } from '../src/sizing/cellCurve.ts';
import { CELL_LIBRARY, decodeThread, simulate } from './core.ts';

/** Lines of a file as a reader of separated values gives them. */
function linesOf(text: string): string[][] {
  const separator = separatorOf(text);
  return text.split(/\r?\n/).map((l) => l.split(separator));
}

const file = (name: string) => readFileSync(new URL(`./reference/logs/${name}`, import.meta.url), 'utf8');

function logOf(text: string): Log {
  const lines = logLines(linesOf(text));
  return value(readLog(lines, value(guessColumns(lines))));
}

function value<T>(outcome: Outcome<T>): T {
  if (!outcome.ok) throw new Error(outcome.issues.map(issueSentence).join('; '));
  return outcome.value;
}

const told = (outcome: Outcome<unknown>) =>
  outcome.ok ? 'taken' : outcome.issues.map(issueSentence).join('; ');

describe('integrals of logs, against another reader', () => {
  for (const id of ['H9-INT-1', 'H9-INT-2']) {
    const c = caseOf('H9_logs', id);
    it(`${id}: ${c.description}`, () => {
      const sum = sumOf(logOf(file(`${id}.csv`)));
      meets(c, {
        rows: sum.rows,
        duration: sum.seconds / 3600,
        charge: sum.charge / 3600,
        energy: sum.energy / 3600,
        largest_gap: sum.gap,
        mean_voltage: sum.meanVolts,
        peak_current: sum.mostAmps,
      });
    });
  }
});

describe('a log that runs newest first', () => {
  it.each(['H9-INT-1', 'H9-INT-2'])('%s turned comes to the same, and is told', (id) => {
    const [head = '', ...lines] = file(`${id}.csv`).trim().split(/\r?\n/);
    const comments = lines.filter((l) => !/^[\d"]/.test(l));
    const rows = lines.filter((l) => /^[\d"]/.test(l));
    const turned = [head, ...comments, ...rows.reverse()].join('\n');
    const read = readLog(logLines(linesOf(turned)), value(guessColumns(logLines(linesOf(turned)))), {
      broken: 'mend',
    });
    const straight = logOf(file(`${id}.csv`));
    expect(sumOf(value(read)).seconds).toBe(sumOf(straight).seconds);
    expect(sumOf(value(read)).charge / sumOf(straight).charge).toBeCloseTo(1, 2);
    expect(value(read).notes[0]).toEqual({ what: 'newestFirst', by: rows.length });
  });
});

describe('rows of a recording in bounded room', () => {
  it('a day at twenty a second: a few thousand rows stand for all, each dip among them, the newest last', () => {
    const most = 2000;
    const all = new ThinnedRows(most);
    const dips = new Set([17, 40_000, 123_456, 299_999]);
    for (let k = 0; k < 300_000; k++) {
      const volts = 12 - k * 1e-6 - (dips.has(k) ? 3 : 0);
      all.push([k / 20, volts, 1]);
      if (k % 997 === 0) expect(all.rows.at(-1)![0]).toBe(k / 20);
    }
    expect(all.count).toBe(300_000);
    expect(all.rows.length).toBeLessThanOrEqual(most + 1);
    for (const k of dips) expect(all.rows.some(([s, v]) => s === k / 20 && v < 10)).toBe(true);
    const times = all.rows.map((r) => r[0]);
    expect(times.every((s, k) => k === 0 || s > times[k - 1]!)).toBe(true);
    expect(times[0]).toBeLessThan(60);
    // As fine at the beginning as at the end.
    const before = (share: number) => times.filter((s) => s < share * 15_000).length / times.length;
    expect(before(0.25)).toBeCloseTo(0.25, 1);
    expect(before(0.75)).toBeCloseTo(0.75, 1);
  });

  it('few rows stay all; of many the first, the last, and the lowest and the highest of each stretch', () => {
    expect(thinned([3, 1, 2], 4)).toEqual([0, 1, 2]);
    expect(thinned([5, 1, 4, 9, 2, 2, 8, 3], 6)).toEqual([0, 1, 3, 4, 6, 7]);
    expect(thinned([5, 6, 7, 8, 9], 4)).toEqual([0, 4]);
  });
});

/** Volts of a cell in two discharges, with noise of a meter's last digit. */
function discharge(amps: number, ohms: (z: number) => number, capacity = 2, rows = 400): Log {
  const ocv = (z: number) => 3.2 + 0.9 * z + 0.1 * Math.sin(6 * z);
  const z = Array.from({ length: rows }, (_, k) => 1 - (0.98 * k) / (rows - 1));
  return {
    seconds: Float64Array.from(z, (s) => ((1 - s) * capacity * 3600) / amps),
    volts: Float64Array.from(z, (s) => Number((ocv(s) - amps * ohms(s)).toFixed(3))),
    amps: new Float64Array(rows).fill(amps),
  };
}

describe('a cell from two discharges', () => {
  const c = caseOf('H9_logs', 'H9-TWO-1');
  const logs = [logOf(file('H9-TWO-1_low.csv')), logOf(file('H9-TWO-1_high.csv'))];
  const curves = value(fromDischarges(logs, { chemistry: 'NMC', capacityAh: input(c, 'capacity') }));

  it(`H9-TWO-1: ${c.description}`, () => {
    const over = (list: number[]) =>
      (c.inputs.soc_points as unknown as { value: number[] }).value.map((z) => {
        const i = curves.soc.findIndex((s) => s >= z);
        const f = (z - curves.soc[i - 1]!) / (curves.soc[i]! - curves.soc[i - 1]!);
        return list[i - 1]! + f * (list[i]! - list[i - 1]!);
      });
    meets(c, {
      R0: over(curves.ohms),
      OCV: over(curves.ocv),
      charge_low: sumOf(logs[0]!).charge / 3600,
      charge_high: sumOf(logs[1]!).charge / 3600,
    });
    // The logs are rounded to 0.1 mV; the curves are straight between their knots.
    expect(curves.residual.rms).toBeLessThan(0.003);
  });

  it('the record runs: a run of it is the log again, and a file takes it', () => {
    const cell = recordFrom(curves, { name: 'Own', chemistry: 'NMC', endVolts: 3, date: '2026-05-01' });
    const doc = thread({ cell, loads: [load('current', 2.6)] });
    expect(decodeThread(doc).ok).toBe(true);
    expect(cell.grade).toBe('measured');
    const run = simulate(doc);
    const log = logs[1]!;
    const end = log.seconds[log.volts.findIndex((v) => v <= 3)]! || log.seconds.at(-1)!;
    expect(run.deadEnd.time / end).toBeCloseTo(1, 1);
  });

  it('whichever log comes first, and noise of a millivolt is no refusal', () => {
    const rising = (z: number) => 0.05 + 0.02 * (1 - z);
    const pair = [discharge(2, rising), discharge(0.4, rising)];
    const found = value(fromDischarges(pair, { chemistry: 'NMC', capacityAh: 2 }));
    const at = (z: number) => found.ohms[found.soc.indexOf(z)]!;
    expect(at(0.5)).toBeCloseTo(rising(0.5), 3);
    expect(at(0.9)).toBeCloseTo(rising(0.9), 3);
    expect(found.amps).toEqual([0.4, 2].map((a) => expect.closeTo(a, 9)));
    expect(value(fromDischarges([...pair].reverse(), { chemistry: 'NMC', capacityAh: 2 }))).toEqual(found);
  });

  it('refuses what the data cannot carry, and says why', () => {
    const ohms = () => 0.06;
    const [slow, fast] = [discharge(0.4, ohms), discharge(2, ohms)];
    const of = (logs: Log[], chemistry: 'NMC' | 'LFP' = 'NMC') => told(fromDischarges(logs, { chemistry }));
    expect(of([slow])).toMatch(/one alone cannot tell resistance/);
    expect(of([slow, discharge(0.5, ohms)])).toMatch(/factor of 1.5/);
    expect(of([slow, fast], 'LFP')).toMatch(/V at rest.*perhaps another chemistry/);
    // The faster one stands higher: not from full, or another cell.
    expect(of([slow, { ...fast, volts: fast.volts.map((v) => v + 0.3) }])).toMatch(
      /more volts at 2 A than at 0.4 A/,
    );
    expect(of([slow, discharge(2, ohms, 0.6)])).toMatch(
      /31 % of the charge|30 % of the charge|29 % of the charge/,
    );
  });
});

it('a cell compared with itself is level', () => {
  for (const cell of Object.values(CELL_LIBRARY)) {
    const copy = JSON.parse(JSON.stringify(cell)) as typeof cell;
    expect(cellCurve(copy, 0.5 * cell.capacityAh, 5)).toEqual(cellCurve(cell, 0.5 * cell.capacityAh, 5));
  }
});

describe('a cell from more than two discharges', () => {
  const rising = (z: number) => 0.05 + 0.02 * (1 - z);

  it('three currents by least squares: nearer the truth than the two of them that are off', () => {
    const exact = [0.4, 1, 2].map((amps) => discharge(amps, rising));
    const off = exact.map((log, k) => ({ ...log, volts: log.volts.map((v) => v + [0.01, -0.02, 0.01][k]!) }));
    const at = (logs: Log[]) => {
      const found = value(fromDischarges(logs, { chemistry: 'NMC', capacityAh: 2 }));
      return { ohms: found.ohms[found.soc.indexOf(0.5)]!, open: found.ocv[found.soc.indexOf(0.5)]! };
    };
    // By hand: of 0.4, 1, 2 A about their mean 17/15, Σ(i − ī)·v = −0.01·0.7333 + 0.02·0.1333 + 0.01·0.8667 = 0.004, over 1.3067.
    expect(at(off).ohms - at(exact).ohms).toBeCloseTo(-0.004 / 1.3067, 4);
    const misses = value(fromDischarges(off, { chemistry: 'NMC', capacityAh: 2 })).misses;
    expect(misses.map((m) => m.amps)).toEqual([0.4, 1, 2].map((a) => expect.closeTo(a, 6)));
    // What is left over of the middle one: −20 mV less what the line takes up, −(0 + 0.0031·0.1333).
    const middle = misses[1]!.volts[40]!;
    expect(middle).toBeCloseTo(-0.02 - (0.004 / 1.3067) * (1 - 17 / 15), 3);
  });

  it('a log in the cold tells by what factor resistance rises and charge falls, the resistance taken out', () => {
    const warm = [0.4, 2].map((amps) => discharge(amps, rising));
    // In the cold three times the ohms and nine tenths of the charge: the same course over its own charge.
    const cold = { ...discharge(1, (z) => 3 * rising(z), 1.8), celsius: -10 };
    const found = value(fromDischarges([...warm, cold], { chemistry: 'NMC', capacityAh: 2 }));
    expect(found.warmth!.celsius).toEqual([-10, 25]);
    expect(found.warmth!.resistance[0]).toBeCloseTo(3, 1);
    expect(found.warmth!.capacity[0]).toBeCloseTo(0.9, 2);
    expect(found.warmth!.resistance[1]).toBe(1);
    const cell = recordFrom(found, { name: 'Own', chemistry: 'NMC', endVolts: 3, date: '2026-05-01' });
    expect(decodeThread(thread({ cell, loads: [load('current', 1)] })).ok).toBe(true);
    expect(told(fromDischarges([warm[0]!, cold], { chemistry: 'NMC' }))).toMatch(/in a room, 18 to 32 °C/);
    const high = { ...cold, volts: cold.volts.map((v) => v + 1) };
    expect(told(fromDischarges([...warm, high], { chemistry: 'NMC' }))).toMatch(
      /log at -10 °C.*more volts than/,
    );
  });
});

describe('a log that cannot be read', () => {
  const good = ['t (s);U (V);I (A)', ...Array.from({ length: 20 }, (_, k) => `${k * 60};${4 - k / 100};1`)];
  const read = (lines: string[]) => {
    const all = logLines(linesOf(lines.join('\n')));
    const columns = guessColumns(all);
    return columns.ok ? readLog(all, columns.value) : columns;
  };

  it('says what is missing, and which line is wrong', () => {
    expect(told(read(good))).toBe('taken');
    expect(told(read(good.map((l) => l.split(';').slice(0, 2).join(';'))))).toMatch(/column of current/);
    expect(told(read(good.with(9, '480;four;1')))).toMatch(/line 10: given "four"; allowed: volts/);
    expect(told(read(['# a note', '', ...good.with(9, '480;four;1')]))).toMatch(/line 12: given "four"/);
    expect(told(read([...good.slice(0, 15), '840;3.8']))).toMatch(
      /line 16: given nothing; allowed: a current/,
    );
    expect(told(read([...good, ...good.slice(1)]))).toMatch(/line 22: given a clock that goes back/);
    expect(told(read(good.slice(0, 4)))).toMatch(/at least 8 lines/);
    const many = good.slice(0, 1).concat(Array.from({ length: 500_000 }, (_, k) => `${k};3.7;1`));
    expect(told(read(many))).toMatch(/at most 200000: keep every tenth/);
  });

  it('a comma is the decimal sign where something else parts the fields', () => {
    const comma = good.map((l) => l.replace(/;1$/, ';0.5').replace(/\./g, ','));
    expect(separatorOf(comma.join('\n'))).toBe(';');
    expect(value(read(comma)).amps[3]).toBe(0.5);
    expect(separatorOf('# note; of two\nt,U,I\n0,4.1,1')).toBe(',');
    expect(separatorOf('t\tU\tI\n0\t4,1\t1')).toBe('\t');
  });

  it('a current that is negative throughout is turned round; two lines of one time are the later', () => {
    const log = value(read([...good.map((l) => l.replace(/;1$/, ';-1')), '1140;3.5;-1']));
    expect(log.amps.every((a) => a === 1)).toBe(true);
    expect(log.volts.at(-1)).toBe(3.5);
    expect(log.seconds).toHaveLength(20);
  });
});

describe('a cell alone', () => {
  it('by hand: a straight curve and one resistance give charge, energy and heat until the end voltage', () => {
    // 4 V to 3 V over 2 Ah, 0.1 Ω, 1 A: 3.01 V at the terminals at 3.11 V inside, after 0.89 of the charge.
    const curve = cellCurve(plainCell(2, 3, 4, 0.1), 1, 25);
    expect(curve.ah).toBeCloseTo(1.78, 6);
    expect(curve.wh).toBeCloseTo(1.78 * ((3.9 + 3.01) / 2), 6);
    expect(curve.heat).toBeCloseTo(0.1 * 1.78, 6);
    expect(curve.ends).toBe('cutoff');
    expect(curve.volts.at(-1)).toBeCloseTo(3.01, 4);
  });

  it('every cell of the library gives less in the cold and at more current, and what it is rated for at 0.2 C', () => {
    for (const cell of Object.values(CELL_LIBRARY)) {
      const { capacityAh: c } = cell;
      const usual = cellCurve(cell, 0.2 * c, 25);
      expect(usual.ah / c, cell.name).toBeGreaterThan(0.9);
      expect(usual.ah / c, cell.name).toBeLessThan(1.001);
      expect(cellCurve(cell, c, 25).wh, cell.name).toBeLessThan(usual.wh);
      expect(cellCurve(cell, 0.2 * c, -10).wh, cell.name).toBeLessThanOrEqual(usual.wh);
    }
  });
});
