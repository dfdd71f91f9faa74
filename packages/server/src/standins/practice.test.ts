import { explain, observedOf, planOf, type Explanation } from '@mile-thread/core/bench';
import { demoThreads } from '@mile-thread/core';
import type { BenchCurve, BenchReading, ThreadDocument } from '@mile-thread/core/model';
import { finish } from '@mile-thread/core/solve';
import { describe, expect, it } from 'vitest';
import { Bench } from './bench.ts';

/** Hidden truths that are sought; fifty by `npm run soak`. */
const SEEDS = Number(process.env.SEEDS ?? 6);

/** The microscope, its figures within wide tolerances. */
const doc: ThreadDocument = {
  ...demoThreads().find((t) => t.name.includes('microscope'))!,
  belief: { byGrade: { measured: 0.05, published: 0.1, typical: 0.15, claimed: 0.2, assumed: 0.25 } },
};

/** A bench whose clock is turned by hand. */
function benchOf(thread: ThreadDocument, seed: number, faulty = false) {
  let seconds = 0;
  const bench = new Bench(thread, { seed, faulty }, () => seconds);
  const ask = (role: Parameters<Bench['ask']>[0], line: string) => bench.ask(role, line);
  const read = (line: string) => Number(ask('meter', line));
  return { bench, ask, read, wait: (by: number) => (seconds += by) };
}

/** What a person reads who does the plan in order, and logs the run-down. */
function practise(
  thread: ThreadDocument,
  seed: number,
): { readings: BenchReading[]; curves: BenchCurve[]; hours: number } {
  const { bench, ask, read, wait } = benchOf(thread, seed);
  const readings: BenchReading[] = [];
  const take = (step: string, value: number, accuracy: number) => {
    if (value > 0) readings.push({ step, value, accuracy });
  };
  ask('meter', 'CONF:VOLT');
  for (const { id } of planOf(thread)) {
    const [what, of = ''] = id.split(':');
    if (what === 'set') {
      ask('meter', `LEADS rail:${of}`);
      take(id, read('READ?'), 0.001);
    } else if (what === 'idle') {
      ask('meter', 'LEADS pack');
      take(id, read('MEAS:CURR?'), 0.002);
    } else if (what === 'draw' || what === 'sag' || what === 'rail') {
      ask('hands', 'PACK:FILL');
      ask('hands', `LOADS ${id.split(':').at(-1) || 'on'}`);
      ask('meter', what === 'rail' ? `LEADS rail:${of}` : 'LEADS pack');
      take(id, read(what === 'draw' ? 'MEAS:CURR?' : 'MEAS:VOLT?'), what === 'draw' ? 0.002 : 0.001);
      ask('hands', 'LOADS off');
    }
  }
  ask('hands', 'PACK:FILL');
  ask('hands', 'LOADS on');
  ask('meter', 'LEADS pack');
  const hours = observedOf(bench.world.truth).values.get('run')!;
  const curve = { seconds: [] as number[], volts: [] as number[], amps: [] as number[] };
  const step = (hours * 3600) / 300;
  for (let k = 0; k < 320; k++) {
    curve.seconds.push(k * step);
    curve.volts.push(read('MEAS:VOLT?'));
    curve.amps.push(read('MEAS:CURR?'));
    wait(step);
  }
  return { readings, curves: [{ name: 'run', accuracy: 0.001, ...curve }], hours };
}

function explained(thread: ThreadDocument): Explanation {
  return finish(explain(thread))!;
}

describe('a plan practised on stand-ins', () => {
  it(
    'finds the hidden truth: every figure within its 95 %, the run-down nearer than before',
    { timeout: 400_000 },
    () => {
      const within = new Map<string, number>();
      let [nearer, settled] = [0, 0];
      for (let seed = 1; seed <= SEEDS; seed++) {
        const { readings, curves, hours } = practise(doc, seed);
        const found = explained({ ...doc, readings, curves });
        const { truth } = new Bench(doc, { seed }, () => 0).world;
        if (found.settled) settled++;
        for (const m of found.moved) {
          const { id } = m.figure;
          const hit = Math.abs(m.score - truth.scores.get(id)!) <= 1.96 * m.doubt;
          within.set(id, (within.get(id) ?? 0) + (hit ? 1 : 0));
        }
        if (Math.abs(found.after.value - hours) < Math.abs(found.before.value - hours)) nearer++;
      }
      expect(settled).toBe(SEEDS);
      // Of fifty forty-five; of fewer 95 of 100 less three deviations of such a count.
      const least = SEEDS >= 50 ? 0.9 : 0.95 - 3 * Math.sqrt((0.95 * 0.05) / SEEDS);
      expect(nearer).toBeGreaterThanOrEqual(least * SEEDS);
      for (const [id, hits] of within) expect(hits, id).toBeGreaterThanOrEqual(least * SEEDS);
    },
  );
});
