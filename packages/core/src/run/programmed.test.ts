import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { load, plainCell, seriesOhms, thread } from '../../test/build.ts';
import { caseOf, cases, input, meets, type Case } from '../../test/cases.ts';
import { anyProgramme } from '../../test/programmes.ts';
import { scheduled } from '../../test/schedules.ts';
import { CELL_LIBRARY } from '../cells/library.ts';
import { demoThreads } from '../demo/threads.ts';
import { decodeThread } from '../model/decode.ts';
import { defaultBuckBoost, type BuckBoostStage } from '../model/kinds/buckBoost.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { readingOf } from './reading/reading.ts';
import type { Ledger } from './account/account.ts';
import type { RunResult } from './account/result.ts';
import { simulate } from './rundown.ts';
import { ROW } from './account/series.ts';

/** A converter that only has its loss polynomial. */
function converter(c: Case) {
  return (loss: object): BuckBoostStage => ({
    ...defaultBuckBoost('conv', 'pack', input(c, 'converter_output_voltage')),
    ...{ minInput: 0.5, inputLimit: 1000, bothLoss: 0, pathResistance: 0 },
    ...{ maxBuckDuty: 0.999, minBoostDuty: 0.001, maxBoostDuty: 0.98 },
    loss: {
      basis: 'polynomial',
      ...{ fixed: 0, perOutputAmp: 0, perInputAmp: 0, perInputAmpSquared: 0, quiescentCurrent: 0 },
      ...loss,
    },
  });
}

const WH = 3600;

function sumOf({ entries }: Ledger, element: string, mechanism?: string): number {
  const of = entries.filter((e) => e.element === element && (!mechanism || e.mechanism === mechanism));
  return of.reduce((sum, e) => sum + e.joules, 0);
}

describe('programmes, against cycles taken one by one elsewhere', () => {
  for (const c of cases('H1_schedules')) {
    it(`${c.id}: ${c.description}`, () => {
      const doc = scheduled(c, converter(c));
      const run = simulate(doc);
      const { period, ledger } = timed(doc, run);
      const { worked } = run;
      const charge = doc.pack.cell.capacityAh * doc.pack.parallel;
      // The ledger's energies end with the timeline where that is survived: afterwards nothing flows in these cases.
      const ended = run.usefulEnd.load !== undefined;
      const reading = readingOf(run);
      const volts = reading.column(ROW.packVolts);
      const first = volts.filter((_, k) => reading.time(k) <= period * (1 + 1e-9) && k <= reading.last);
      meets(
        c,
        {
          end_reason: ended ? 'cutoff' : 'timeline-over',
          runtime: run.usefulEnd.time / 3600,
          ends_in_state: worked!.endsIn,
          soc_end: run.socAtUseful,
          charge_from_pack: charge * (doc.pack.startSoc - run.socAtUseful),
          energy_to_each_state: worked!.modes.map((m) => m.delivered / WH),
          energy_to_load: worked!.modes.reduce((sum, m) => sum + m.delivered, 0) / WH,
          heat_in_cells: (sumOf(ledger, 'cells') - sumOf(ledger, 'cells', 'self-discharge')) / WH,
          heat_in_series_resistance: sumOf(ledger, 'protection', 'resistance') / WH,
          ocv_energy_taken: (ledger.stored - ledger.left) / WH,
          converter_loss: sumOf(ledger, 'conv') / WH,
          worst_terminal_voltage_first_cycle: Math.min(...first),
          worst_terminal_voltage_of_each_state_whole_run: worked!.modes.map((m) => m.lowest?.volts ?? 0),
          peak_pack_current: run.worstCell.amps * doc.pack.parallel,
        },
        Object.keys(c.expected).filter((name) => name.startsWith('terminal_') || name.startsWith('branch')),
      );
      expect(ledger.closure).toBeLessThan(1e-6);
    });
  }
});

it('a plan by clock that starts in the middle is the plan turned to its start', () => {
  const c = caseOf('H1_schedules', 'H1-DAY-1');
  const doc = scheduled(c, converter(c));
  const hours = (mode: string, h: number) => ({ mode, seconds: 3600 * h });
  const plan = { segments: [hours('day', 11), hours('evening', 4), hours('night', 9)], startsAt: 9000 };
  const run = simulate({ ...doc, programme: { ...plan, after: 'repeat' } });
  // From 09:30 of a day that begins at 07:00: the case's own list.
  expect(run.usefulEnd.time).toBe(simulate(doc).usefulEnd.time);
  const late = decodeThread({ ...doc, programme: { ...plan, startsAt: 86400, after: 'repeat' } });
  expect(late.ok ? [] : late.issues.map((i) => i.path)).toEqual(['programme.startsAt']);
});

it('A-PULSE-1: pulses of 2 A on the published cell, against piecewise adaptive integration', () => {
  const c = caseOf('A_pulses', 'A-PULSE-1');
  const [period, duty] = [input(c, 'period'), input(c, 'duty')];
  const on = { mode: 'on', seconds: duty * period };
  const off = { mode: 'off', seconds: (1 - duty) * period };
  const range = { min: input(c, 'cutoff_voltage'), max: 9 };
  const draws = [{ mode: 'off', value: input(c, 'current_off') }];
  const doc: ThreadDocument = {
    ...thread({
      cell: CELL_LIBRARY['polymer-850-published']!,
      pack: { protection: seriesOhms(0, 0.1) },
      loads: [{ ...load('current', input(c, 'current_on'), { range }), draws }],
    }),
    modes: [
      { id: 'on', name: 'On' },
      { id: 'off', name: 'Off' },
    ],
    programme: { segments: [on, off], after: 'repeat' },
  };
  const run = simulate(doc);
  // What simpler estimates would say is no result of a run.
  const others = Object.keys(c.expected).filter((name) => !name.startsWith('dynamic'));
  meets(
    c,
    {
      dynamic_runtime: run.usefulEnd.time / 3600,
      dynamic_energy_out: sumOf(run.ledger, 'load') / WH,
      dynamic_heat: sumOf(run.ledger, 'cells') / WH,
      dynamic_soc_end: run.socAtUseful,
    },
    others,
  );
  expect(run.worked!.cycles + 1).toBe(275);
});

function timed(doc: ThreadDocument, run: RunResult) {
  const period = doc.programme!.segments.reduce((sum, s) => sum + s.seconds, 0);
  return { period, ledger: run.ledger };
}

/** Relative difference of two runs' useful ends. */
function apart(a: RunResult, b: RunResult): number {
  return Math.abs(a.usefulEnd.time - b.usefulEnd.time) / b.usefulEnd.time;
}

it('a day of draws that hardly move the branches is taken in few steps, which miss neither their heat nor the end', () => {
  // 0.3…2 mA out of 3.3 Ah: the branches follow by microvolts, and are settled long before a stretch is over.
  const modes = Array.from({ length: 6 }, (_, k) => ({ id: `m${k}`, name: `Mode ${k}` }));
  const draws = modes.map(({ id }, k) => ({ mode: id, value: 0.3e-3 * (1 + k) }));
  const doc: ThreadDocument = {
    ...thread({
      cell: CELL_LIBRARY['26650-lfp']!,
      pack: { startSoc: 0.02 },
      loads: [load('current', 1, { draws })],
    }),
    modes,
    programme: { segments: modes.map(({ id }) => ({ mode: id, seconds: 1440 })), after: 'repeat' },
  };
  const run = simulate(doc, { everyCycle: true });
  const fine = simulate(doc, { everyCycle: true, maxSoc: 1e-6, growth: 1.4, effort: 1e9 });
  expect(run.deadEnd.time / fine.deadEnd.time).toBeCloseTo(1, 7);
  for (const mechanism of ['resistance', 'fast branch', 'slow branch']) {
    const heat = sumOf(fine.ledger, 'cells', mechanism);
    expect(heat).toBeGreaterThan(0);
    expect(sumOf(run.ledger, 'cells', mechanism) / heat, mechanism).toBeCloseTo(1, 2);
  }
  expect(run.ledger.closure).toBeLessThan(1e-9);
});

describe('any programme', () => {
  const designs = fc.sample(anyProgramme, { numRuns: 30, seed: 8 });

  it('ends within 0.5 % of cycle by cycle, with the account closed to 1e-6 and the same in every mode', () => {
    let skipped = 0;
    for (const doc of designs) {
      const run = simulate(doc);
      const every = simulate(doc, { everyCycle: true });
      expect(apart(run, every)).toBeLessThan(5e-3);
      expect(run.ledger.closure).toBeLessThan(1e-6);
      expect(every.ledger.closure).toBeLessThan(1e-9);
      expect(run.deadEnd.reason).toBe(every.deadEnd.reason);
      run.worked!.modes.forEach((m, k) => {
        const other = every.worked!.modes[k]!;
        expect(Math.abs(m.joules - other.joules)).toBeLessThan(5e-3 * every.ledger.stored);
        expect(Math.abs(m.seconds - other.seconds)).toBeLessThan(5e-3 * every.usefulEnd.time);
      });
      skipped += run.counts.skipped;
    }
    expect(skipped).toBeGreaterThan(50 * designs.length);
  });

  it('a stretch cut in two is the same stretch; modes in another order end within 0.5 %', () => {
    for (const doc of designs.slice(0, 12)) {
      const run = simulate(doc);
      const [first, ...rest] = doc.programme!.segments;
      const half = { ...first!, seconds: first!.seconds / 2 };
      const cut = simulate({ ...doc, programme: { segments: [half, half, ...rest], after: 'repeat' } });
      expect(apart(cut, run)).toBeLessThan(1e-6);
      const turned = simulate({ ...doc, programme: { segments: [...rest, first!], after: 'repeat' } });
      expect(apart(turned, run)).toBeLessThan(5e-3);
    }
  });

  it('one that is steady in disguise is the steady run', () => {
    for (const doc of designs.slice(0, 12)) {
      const same = (l: ThreadDocument['loads'][number]) => ({
        ...l,
        draws: doc.modes!.map(({ id }) => ({ mode: id, value: 0.3 })),
      });
      const disguised = { ...doc, loads: doc.loads.map(same) };
      const { programme, modes, ...plain } = disguised;
      void [programme, modes];
      const steady = simulate({
        ...plain,
        loads: doc.loads.map(({ draws, ...l }) => (void draws, { ...l, [l.draw]: 0.3 })),
      });
      expect(apart(simulate(disguised), steady)).toBeLessThan(1e-6);
    }
  });
});

it('a mode that draws nothing is no end; a programme that draws nothing at all is', () => {
  const doc = thread({
    cell: { ...plainCell(1, 3, 4, 0.05), selfDischargePerMonth: 0 },
    loads: [load('current', 0.5, { range: { min: 0, max: 9 } })],
  });
  const modes = [
    { id: 'on', name: 'On' },
    { id: 'off', name: 'Off' },
  ];
  const off = doc.loads.map((l) => ({ ...l, draws: [{ mode: 'off', value: 0 }] }));
  const segments = modes.map(({ id }) => ({ mode: id, seconds: 60 }));
  const run = simulate({ ...doc, loads: off, modes, programme: { segments, after: 'repeat' } });
  // 1 Ah at 0.5 A every other minute: four hours, less the last minute off.
  expect(run.deadEnd.reason).toBe('empty');
  expect(run.deadEnd.time).toBeCloseTo(4 * 3600 - 60, 3);
  const never = segments.slice(1);
  expect(
    simulate({ ...doc, loads: off, modes, programme: { segments: never, after: 'repeat' } }).deadEnd.reason,
  ).toBe('nothingDraws');
});

it('where the loads switch, two rows have one time: the instants looked at hold the extremes themselves', () => {
  const doc = demoThreads().find((t) => t.programme)!;
  const run = simulate(doc);
  const reading = readingOf(run);
  const amps = reading.stage(0, 'inputAmps');
  const looked = reading.instants(0).map((row) => reading.at(row, amps));
  expect(Math.max(...looked)).toBe(reading.extremes(amps).most);
  expect(Math.min(...looked)).toBe(reading.extremes(amps).least);
  expect(reading.instants(0, 100).length).toBeLessThan(200);
});
