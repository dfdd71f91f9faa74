import { describe, expect, it } from 'vitest';
import { demoThreads } from '../demo/threads.ts';
import { plantKey } from './key.ts';

const doc = demoThreads()[0]!;

describe('the key of a plant', () => {
  it('does not hear of names, notes, needs or the order of fields', () => {
    const renamed = structuredClone(doc);
    renamed.name = 'Another';
    renamed.notes = 'and why';
    renamed.goals = { hours: 99 };
    renamed.stages.forEach((s) => (s.name = `${s.name}, again`));
    renamed.pack.cell.name = 'A cell';
    const turned = {
      ...renamed,
      loads: renamed.loads.map((l) => Object.fromEntries(Object.entries(l).reverse())),
    };
    expect(plantKey(turned as typeof doc)).toBe(plantKey(doc));
  });

  it('hears of every number, every id and the conditions', () => {
    const keys = new Set([plantKey(doc)]);
    const tell = (change: (d: typeof doc) => void) => {
      const next = structuredClone(doc);
      change(next);
      keys.add(plantKey(next));
    };
    tell((d) => (d.pack.parallel += 1));
    tell((d) => (d.pack.cell.r0.ohms[3]! *= 1 + 1e-12));
    tell((d) => (d.stages[0]!.id = 'other'));
    tell((d) => (d.loads[0]!.grade = 'assumed'));
    tell((d) => (d.loads[0]!.range.min += 1e-9));
    keys.add(plantKey(doc, { air: 40 }));
    keys.add(plantKey(doc, { resistance: 2 }));
    expect(keys.size).toBe(8);
  });
});
