import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import {
  guessColumns,
  logLines,
  lossFit,
  readLog,
  separatorOf,
  socFromRest,
  type LogLines,
  type ReadLog,
} from '../src/logs.ts';
import { dischargeFit, inputFit, relaxFit, standbyFit } from '../src/logs/fits.ts';
import { issueSentence, type Outcome } from '../src/model/issue.ts';
import { pchip } from '../src/numeric/pchip.ts';
import { levenberg } from '../src/numeric/levenberg.ts';
import { caseOf, input, meets, type Case } from './cases.ts';

function value<T>(outcome: Outcome<T>): T {
  if (!outcome.ok) throw new Error(outcome.issues.map(issueSentence).join('; '));
  return outcome.value;
}

function linesOf(text: string): LogLines {
  const separator = separatorOf(text);
  return logLines(text.split(/\r?\n/).map((l) => l.split(separator)));
}

const file = (c: Case) => readFileSync(new URL(`./reference/logs/${c.id}.csv`, import.meta.url), 'utf8');
const readAll = (text: string, needs: 'current' | 'volts' = 'current'): ReadLog => {
  const lines = linesOf(text);
  return value(readLog(lines, value(guessColumns(lines, needs)), { broken: 'mend' }));
};
const ocvOf = (c: Case) => {
  const table = (c.inputs.ocv as unknown as { value: [number, number][] }).value;
  return pchip(
    table.map(([z]) => z),
    table.map(([, v]) => v),
  );
};
const bench = (id: string) => caseOf('H9_bench', id);

describe('what one log tells, against least squares of another program', () => {
  it('H9-CAP-1: capacity and resistance of a noisy discharge', () => {
    const c = bench('H9-CAP-1');
    const found = dischargeFit(readAll(file(c)), ocvOf(c), input(c, 'soc_start'));
    const results = {
      capacity: found.capacity.value,
      R0: found.resistance.value,
      capacity_standard_error: found.capacity.error,
      R0_standard_error: found.resistance.error,
      rms_residual: found.rms,
    };
    // Two lines have one time: of those the later counts here, both there.
    meets(c, results, ['rows']);
    expect(found.rows).toBe(453);
    expect(found.settled).toBe(true);
  });

  it('H9-CONV-1: loss of a boost from twenty points', () => {
    const c = bench('H9-CONV-1');
    const { rows } = linesOf(file(c));
    const [vin, iin, vout, iout] = [0, 1, 2, 3].map((k) => rows.map((r) => Number(r[k]!.replace(',', '.'))));
    const found = lossFit(
      rows.map((_, k) => ({
        inputVolts: vin![k]!,
        inputAmps: iin![k]! / 1000,
        outputVolts: vout![k]!,
        outputAmps: iout![k]! / 1000,
      })),
    );
    const parts = [found.fixed, found.perOutputAmp, found.perInputAmpSquared];
    meets(c, {
      P0: parts[0]!.value,
      k1: parts[1]!.value,
      k2: parts[2]!.value,
      standard_errors: parts.map((p) => p.error),
      rms_residual: found.rms,
      worst_row: found.worst,
      efficiency_of_rows_first_last: [found.efficiency[0]!, found.efficiency.at(-1)!],
    });
  });

  it('H9-IDLE-1: standby current from four days of rest', () => {
    const c = bench('H9-IDLE-1');
    const found = standbyFit(readAll(file(c), 'volts'), ocvOf(c), input(c, 'capacity'));
    meets(c, {
      current: found.current.value,
      current_standard_error: found.current.error,
      soc_start: found.startSoc.value,
      days_from_start_to_soc_5_percent: found.hoursTo(0.05) / 24,
    });
  });

  it('H9-SYS-1: cell, converter and standby from one run with steps', () => {
    const c = bench('H9-SYS-1');
    const text = file(c);
    const log = readAll(text);
    const watts = linesOf(text).rows.map((r) => Number(r[3]));
    const cell = dischargeFit(log, ocvOf(c), input(c, 'soc_start'));
    const path = inputFit(log, watts);
    meets(c, {
      capacity: cell.capacity.value,
      R0: cell.resistance.value,
      capacity_standard_error: cell.capacity.error,
      R0_standard_error: cell.resistance.error,
      efficiency: path.efficiency.value,
      efficiency_standard_error: path.efficiency.error,
      standby_current: path.standby.value,
      standby_standard_error: path.standby.error,
    });
  });

  it('H9-RELAX-1: a rest that was too short', () => {
    const c = bench('H9-RELAX-1');
    const log = readAll(file(c), 'volts');
    const found = relaxFit({ ...log, seconds: log.seconds.map((s) => s + 5) });
    const ocv = ocvOf(c);
    meets(c, {
      Vinf: found.volts.value,
      Vinf_standard_error: found.volts.error,
      tau: found.tau.value,
      soc: socFromRest(ocv, found.volts.value, 0.001).soc,
      soc_from_last_reading: socFromRest(ocv, log.volts.at(-1)!, 0.001).soc,
    });
  });

  it('H9-REST-1: state of charge from volts at rest, its flat spots said', () => {
    const c = bench('H9-REST-1');
    const volts = (c.inputs.rest_voltages as unknown as { value: number[] }).value;
    const found = volts.map((v) => socFromRest(ocvOf(c), v, input(c, 'reading_error')));
    meets(c, { soc: found.map((f) => f.soc), soc_error: found.map((f) => f.error) });
    expect(found.every((f) => !f.flat)).toBe(true);
    expect(socFromRest(pchip([0, 0.2, 0.9, 1], [3, 3.28, 3.3, 3.4]), 3.29, 0.005).flat).toBe(true);
  });
});

describe('the search', () => {
  it('finds the bottom of a curved valley, and says when its rounds run out', () => {
    // Rosenbrock 1960: 10(y − x²), 1 − x; least at (1, 1). From memory.
    const valley = ([x, y]: ArrayLike<number> & Iterable<number>) =>
      Float64Array.of(10 * (y! - x! * x!), 1 - x!, 0);
    const found = levenberg(valley, [-1.2, 1], [1, 1]);
    expect(found.status).toBe('converged');
    expect([...found.values]).toEqual([1, 1].map((v) => expect.closeTo(v, 6)));
    // No least: ever smaller the further it goes.
    const slope = ([x]: ArrayLike<number> & Iterable<number>) => Float64Array.of(Math.exp(-x! / 1e3), 0);
    expect(levenberg(slope, [0], [1]).status).toBe('unfinished');
  });
});

describe('logs of bad days', () => {
  const rows = (
    from: number,
    count: number,
    time: (k: number) => string,
    volts = (k: number) => 4 - k / 200,
  ) => Array.from({ length: count }, (_, k) => `${time(from + k)};${volts(from + k)};1`);
  const at = (k: number) => new Date(Date.UTC(2025, 9, 26, 1, 30) + 60_000 * k);
  const wall = (k: number) => {
    // Summer time ends at 3:00, an hour of the wall's clock comes again.
    const d = new Date(at(k).getTime() - (k >= 90 ? 3600_000 : 0));
    return d.toISOString().slice(0, 19);
  };
  const head = ['t;U [V];I [A]'];

  it('an hour that comes again as summer time ends is counted on, and told', () => {
    const log = readAll([...head, ...rows(0, 150, wall)].join('\n'));
    expect(log.seconds.at(-1)).toBe(149 * 60);
    expect(log.notes).toEqual([{ what: 'summerTime', line: 92, by: 3600 }]);
    // With its zone the clock goes back for no such reason.
    const zoned = rows(0, 150, (k) => `${wall(k)}Z`);
    const found = readAll([...head, ...zoned].join('\n'));
    expect(found.notes[0]!.what).toBe('restart');
  });

  it('midnight, a restart, a gap and a spike', () => {
    const clock = (k: number) => new Date(at(k).getTime() + 21.5 * 3600_000).toISOString().slice(11, 19);
    expect(readAll([...head, ...rows(0, 150, clock)].join('\n'))).toMatchObject({
      notes: [{ what: 'midnight', by: 86400 }],
    });
    const twice = [...rows(0, 20, (k) => `${k * 60}`), ...rows(0, 100, (k) => `${k * 60}`)];
    const restarted = readAll([...head, ...twice].join('\n'));
    expect(restarted.seconds).toHaveLength(100);
    expect(restarted.notes).toEqual([{ what: 'restart', line: 22, by: 20 }]);
    const paused = readAll([...head, ...rows(0, 100, (k) => `${k * 60 + (k > 50 ? 7200 : 0)}`)].join('\n'));
    expect(paused.notes).toEqual([{ what: 'gap', line: 53, by: 7260 }]);
    const spiked = rows(
      0,
      100,
      (k) => `${k * 60}`,
      (k) => (k === 40 ? 9.99 : 4 - k / 200),
    );
    const clean = readAll([...head, ...spiked].join('\n'));
    expect(clean.notes).toEqual([{ what: 'spikes', by: 1 }]);
    expect(Math.max(...clean.volts)).toBe(4);
  });

  it('units behind the numbers, days with dots, months first with slashes', () => {
    const lines = Array.from(
      { length: 20 },
      (_, k) => `26.10.2025 1:${String(k).padStart(2, '0')}\t${3700 - k} mV\t0,25A`,
    );
    const log = readAll(['Datum\tSpannung\tStrom', ...lines].join('\n'));
    expect(log.volts[1]).toBeCloseTo(3.699, 9);
    expect(log.amps[3]).toBe(0.25);
    expect(log.seconds.at(-1)).toBe(19 * 60);
    const us = Array.from(
      { length: 20 },
      (_, k) => `10/26/2025 13:00:${String(k).padStart(2, '0')},3.7,250mA`,
    );
    const other = readAll(['date,volts,current', ...us].join('\n'));
    expect(other.seconds.at(-1)).toBe(19);
    expect(other.amps[0]).toBe(0.25);
  });
});
