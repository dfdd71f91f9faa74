import { describe, expect, it } from 'vitest';
import { load, plainCell, seriesOhms, thread } from '../../test/build.ts';
import { defaultBoost, demoThreads, finish, type ThreadDocument } from '../../test/core.ts';
import { changeThread } from '../model/changeThread.ts';
import type { BenchCurve } from '../model/readings.ts';
import { normalQuantile, randomOf } from '../numeric/random.ts';
import { SharedPaths } from '../plant/compile.ts';
import { moduleTest, takeTest } from './claims.ts';
import { curveFrom, overlay } from './curve.ts';
import { explain, type Explanation } from './explain.ts';
import { observed } from './predict.ts';
import { restedCharge } from './rested.ts';
import { schoolsOf } from './schools.ts';

/** 2S of 3 Ah, 50 mΩ each behind 0.1 Ω, 1 A: straight from 8.4 V down to the cut-off. */
function plain(capacityAh = 3): ThreadDocument {
  const cell = { ...plainCell(capacityAh, 3, 4.2, 0.05), grade: 'typical' as const };
  const pack = { series: 2, startSoc: 1, protection: seriesOhms(0.1, 3.2) };
  return thread({ cell, pack, loads: [{ ...load('current', 1), grade: 'measured' }] });
}

/** What a logger would keep of a thread: before it, a while at rest; behind it, rest again. */
function logged(doc: ThreadDocument, rows: number, rest: number, seed = 1): BenchCurve {
  const { course } = observed(doc, {}, new SharedPaths());
  const random = randomOf(seed, 0);
  const seconds: number[] = [];
  const volts: number[] = [];
  const amps: number[] = [];
  const step = course.end / rows;
  for (let s = -rest; s <= course.end + rest; s += step) {
    const on = s >= 0 && s <= course.end;
    const at = course.at(s);
    seconds.push(Number((s + rest).toFixed(3)));
    volts.push((on ? at.volts : at.volts + at.amps * 0.2) + 0.002 * normalQuantile(random()));
    amps.push(on ? at.amps : 0);
  }
  return { name: 'log', seconds, volts, amps };
}

function explained(doc: ThreadDocument): Explanation {
  return finish(explain(doc))!;
}

describe('a curve over the run', () => {
  it('finds where the load came on and where it ended, with and without a current, and lies on what it was made of', () => {
    const doc = plain();
    const { course } = observed(doc, {}, new SharedPaths());
    const curve = logged(doc, 2000, 400);
    const { amps, ...bare } = curve;
    expect(amps).toHaveLength(curve.seconds.length);
    for (const c of [curve, bare]) {
      const laid = overlay(c, course);
      expect(laid.start).toBeCloseTo(400, -1);
      expect(laid.end! / course.end).toBeCloseTo(1, 2);
      // Between two readings, 1/2000 of the run apart: known to half of that.
      expect(Math.abs(laid.end! / course.end - 1)).toBeLessThan(0.001);
      // Its noise, and straight lines between the rows of the run.
      expect(laid.rms).toBeLessThan(0.004);
    }
    // Broken off half-way it has no end.
    const half = curve.seconds.length / 2;
    const cut = { ...bare, seconds: bare.seconds.slice(0, half), volts: bare.volts.slice(0, half) };
    expect(overlay(cut, course).end).toBeUndefined();
  });

  it('a longer log is thinned to what a thread may hold, its dips kept', () => {
    const n = 50_000;
    const log = {
      seconds: Float64Array.from({ length: n }, (_, k) => k),
      volts: Float64Array.from({ length: n }, (_, k) => (k === 33_333 ? 3 : 4 - k / n)),
      amps: new Float64Array(n),
      notes: [],
    };
    const curve = curveFrom(log, 'long', '2026-05-01');
    expect(curve.seconds.length).toBeLessThanOrEqual(6000);
    expect(curve.volts).toContain(3);
    expect(curve.amps).toBeUndefined();
    expect(changeThread(plain(), [{ op: 'add', path: ['curves'], value: [curve] }]).ok).toBe(true);
  });

  it('tells that the capacity is what is off: by its course and its end, the meter’s own gain apart', () => {
    const doc: ThreadDocument = plain();
    const truth = plain(2.79);
    // A meter that reads four thousandths too much.
    const log = logged(truth, 1500, 300);
    const curve = { ...log, volts: log.volts.map((v) => v * 1.004) };
    const found = explained({ ...doc, curves: [curve] });
    expect(found.settled).toBe(true);
    expect(found.moved[0]!.figure.id).toBe('cells.capacity');
    expect(found.moved[0]!.factor).toBeCloseTo(0.93, 2);
    expect(found.after.p90 - found.after.p10).toBeLessThan((found.before.p90 - found.before.p10) / 4);
    expect(Math.abs(found.unexplained!)).toBeLessThan(0.01);
    const fit = found.fits.find((f) => f.step === 'curve:log')!;
    expect(fit.after).toBeLessThan(fit.before / 3);
  });
});

describe('what one thing tells', () => {
  it('a run a third longer than predicted is explained as well as one a little off', () => {
    const doc: ThreadDocument = {
      ...plain(),
      belief: { own: [{ figure: 'cells.capacity', tolerance: 0.6, distribution: 'normal' }] },
    };
    const found = explained({ ...doc, curves: [logged(plain(4), 800, 0)] });
    expect(found.settled).toBe(true);
    expect(found.moved[0]!.factor).toBeCloseTo(4 / 3, 2);
    expect(Math.abs(found.unexplained!)).toBeLessThan(0.02);
  });

  it('volts at rest say the charge, of the pack and of one group', () => {
    // Straight from 3 to 4.2 V: 3.6 V is half; 0.01 of 3.6 V are 3 % of the charge.
    expect(restedCharge(plain(), 'open:pack', 7.2, 0.01)).toMatchObject({ soc: expect.closeTo(0.5, 6) });
    const one = restedCharge(plain(), 'open:cell', 3.6, 0.01)!;
    expect(one.soc).toBeCloseTo(0.5, 6);
    expect(one.error).toBeCloseTo(0.03, 6);
    expect(restedCharge(plain(), 'idle', 3.6)).toBeUndefined();
  });
});

describe('a module against its claims', () => {
  // 5 V from 7.4 V, sold as 25 W, on a chip of 18 W; it lets go behind 3.5 A. Common practice, no source: such modules do at 17.5 W.
  const stage = {
    ...defaultBoost('m', 'pack', 5),
    listing: { outputWatts: 25 },
    chip: { outputWatts: 18 },
    outputLimit: 5,
  };
  const rows = [0, 0.5, 1, 2, 3, 3.5, 3.8, 4.2].map((outputAmps) => {
    const outputVolts = outputAmps <= 3.5 ? 5 - 0.02 * outputAmps : 3.9;
    const loss = 0.05 + 0.1 * outputAmps + 0.05 * outputAmps ** 2;
    return { inputVolts: 7.4, inputAmps: (outputVolts * outputAmps + loss) / 7.4, outputVolts, outputAmps };
  });

  it('says where it let go, what of each claim it holds, and writes a measured table', () => {
    const test = moduleTest(stage, rows)!;
    expect(test.letGo).toBe(3.8);
    expect(test.amps).toBe(3.5);
    expect(test.watts).toBeCloseTo(17.255, 3);
    expect(test.claims.map((c) => [c.by, Number(c.held.toFixed(3))])).toEqual([
      ['listing', 0.7],
      ['chip', 0.972],
      ['stage', 0.7],
    ]);
    expect(test.points).toHaveLength(6);
    const doc = thread({ stages: [stage], loads: [load('current', 1, { from: 'm' })] });
    const next = changeThread(doc, takeTest(doc, 'm', test));
    if (!next.ok) throw new Error(JSON.stringify(next.issues));
    const taken = next.value.doc.stages[0]! as typeof stage;
    expect(taken).toMatchObject({ grade: 'measured', outputLimit: 3.5, loss: { basis: 'points' } });
    expect(taken.loss.quiescentCurrent).toBeCloseTo(0.05 / 7.4, 5);
    // It never let go: then its limit stays.
    const held = moduleTest(stage, rows.slice(0, 5))!;
    expect(held.letGo).toBeUndefined();
    expect(takeTest(doc, 'm', held)[0]!.value).toMatchObject({ outputLimit: 5 });
    expect(moduleTest(stage, rows.slice(0, 2))).toBeUndefined();
  });
});

describe('where practitioners differ', () => {
  it('each choice is costed by a run of its own; choosing it makes the thread so', () => {
    for (const doc of demoThreads().filter((t) => t.name.includes('lock'))) {
      for (const school of schoolsOf(doc)) {
        expect(school.choices.some((c) => c.id === school.usual)).toBe(true);
        for (const choice of school.choices) {
          if (choice.edits.length === 0) continue;
          const next = changeThread(doc, choice.edits);
          if (!next.ok) throw new Error(JSON.stringify(next.issues));
          const again = schoolsOf(next.value.doc).find((s) => s.id === school.id)!;
          const chosen = again.choices.find((c) => c.id === choice.id)!;
          expect(chosen.now, `${doc.name}, ${school.id}: ${choice.name}`).toBe(true);
          expect(chosen.hours / choice.hours, `${school.id}: ${choice.name}`).toBeCloseTo(1, 3);
        }
      }
    }
  });

  it('by hand: a lower cut-off and fuller cells last longer', () => {
    const [trim, cut] = schoolsOf({
      ...plain(),
      pack: { ...plain().pack, cell: { ...plain().pack.cell, fullVolts: 4.2 } },
    });
    expect(cut!.id).toBe('cutoff');
    // A tenth of a volt less, twice the life: common practice, no source.
    expect(trim!.choices[2]!.wear).toBe('about 2.0 times the life standing full');
    expect(trim!.choices[2]!.hours).toBeLessThan(trim!.choices[0]!.hours);
    // 8.4 V less 0.2 V of drop down to 2·v of the cells' own: (8.4 − 0.1 − 2v)/(0.8 V an hour).
    const hours = cut!.choices.map((c) => c.hours);
    expect(hours[3]).toBeCloseTo((8.4 - 0.1 - 6.4) / 0.8, 2);
    expect([...hours].sort((a, b) => b - a)).toEqual(hours);
  });
});
