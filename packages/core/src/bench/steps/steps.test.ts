import { afterEach, describe, expect, it } from 'vitest';
import { demoThreads, finish, type ThreadDocument } from '../../../test/core.ts';
import { compare } from '../compare.ts';
import { explain } from '../explain.ts';
import { planOf } from '../plan.ts';
import { observed, predictions } from '../predict.ts';
import { SharedPaths } from '../../plant/compile.ts';
import { PLAN_PARTS } from '../step.ts';
import { around, MINUS, PACK, type StepKind } from './kind.ts';
import { kindOf, readAt, STEP_KINDS } from './registry.ts';

/** A kind that is made up, as its file would have it: the pack's volts at half of its run. */
const halfway: StepKind = {
  name: 'halfway',
  part: 'run',
  instrument: 'volts',
  unit: 'V',
  shows: ({ run }) => [['halfway', run.ledger.stored / 1e4]],
  steps: (_, found) => [
    {
      id: 'halfway',
      title: 'Half way',
      how: 'Read it.',
      probes: [PACK, MINUS],
      predicted: found.get('halfway')!,
      settles: 'What is stored.',
    },
  ],
};
const known = STEP_KINDS.length;
afterEach(() => {
  STEP_KINDS.length = known;
});

const lock = () => demoThreads().find((t) => t.name.includes('lock'))!;
/** One with stages, loads and a charger, but without peaks or modes: it runs fast. */
function steady(): ThreadDocument {
  const { programme, modes, ...doc } = lock();
  const loads = doc.loads.map(({ draws, peaks, ...l }) => l);
  return { ...doc, loads };
}

describe('a kind of step is one file and one line', () => {
  it('is in the plan with its range, is compared and explains as any other', () => {
    STEP_KINDS.push(halfway);
    const doc = steady();
    const found = predictions(doc);
    const step = planOf(doc, found).find((s) => s.id === 'halfway')!;
    expect(step).toMatchObject({ part: 'run', instrument: 'volts', unit: 'V' });
    // What is stored goes with the capacity, whose tolerance is in the range.
    expect(step.predicted!.p90).toBeGreaterThan(step.predicted!.value);
    const value = step.predicted!.value * 0.9;
    expect(compare(step, [{ step: 'halfway', value }]).off).toBeLessThan(-1);
    const read: ThreadDocument = { ...doc, readings: [{ step: 'halfway', value }] };
    const explained = finish(explain(read))!;
    const capacity = explained.moved.find((m) => m.figure.kind === 'capacity')!;
    expect(capacity.score).toBeLessThan(0);
  });
});

describe('the kinds of steps', () => {
  const plans = [lock(), steady()].map((doc) => ({ doc, plan: planOf(doc) }));

  it('give every step of a plan by its id, none that another could take for its own', () => {
    for (const { plan } of plans) {
      const ids = plan.map((s) => s.id);
      expect(new Set(ids).size).toBe(ids.length);
      for (const id of ids) {
        const of = STEP_KINDS.filter(({ name }) => id === name || id.startsWith(`${name}:`));
        expect(of).toHaveLength(1);
        expect(kindOf(id)).toBe(of[0]);
      }
    }
    expect(kindOf('nowhere')).toBeUndefined();
  });

  it('stand in the order in which they are safe', () => {
    for (const { plan } of plans) {
      const parts = plan.map((s) => PLAN_PARTS.indexOf(s.part));
      expect(parts).toEqual([...parts].sort((a, b) => a - b));
    }
  });

  it('show a value for each step that has a range, and nothing else is a figure without a step', () => {
    for (const { doc, plan } of plans) {
      const { values } = observed(doc, {}, new SharedPaths(), 0);
      for (const id of values.keys()) expect(kindOf(id), id).toBeDefined();
      for (const step of plan) {
        const { shows } = kindOf(step.id)!;
        if (shows && step.predicted)
          expect(values.get(step.id), step.id).toBeCloseTo(step.predicted.value, 9);
      }
    }
  });

  it('know which figures are read where, and what is seen to before', () => {
    expect(readAt('setPoint', 's1')).toEqual(['set:s1', 'rail:s1:']);
    expect(readAt('openVolts', 'source')).toEqual(['source:open', 'source:half']);
    expect(readAt('capacity', 'cells')).toEqual([]);
    expect(kindOf('draw:burst')!.hands).toEqual({ pack: 'full', loads: true });
    expect(kindOf('charge:current')!.hands).toEqual({ pack: 0.5, charger: true });
    expect(kindOf('source:half')!.hands!.onSource!(lock())).toBeGreaterThan(0);
    expect(kindOf('trip')!.hands).toEqual({ watched: true });
    expect(kindOf('steps:s1')!.instrument).toBe('amps');
  });

  it('a range of so many within is that of eight of ten', () => {
    // 95 of 100 within 1.96 deviations, taken as 2; eight of ten within 1.2816.
    expect(around(10, 2).p90).toBeCloseTo(11.2815515655, 9);
  });
});
