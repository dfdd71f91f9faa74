import { demoThreads, WORK_PLACES, type Finding, type Severity } from '@mile-thread/core';
import { describe, expect, it } from 'vitest';
import { standing, STEPS } from './places.ts';

const finding = (id: string, severity: Severity = 'fails') =>
  ({ id, severity, place: 'path', element: 'x', title: 't', reason: 'r' }) as Finding;

describe('places of a thread', () => {
  it('have keys, names and addresses of their own, in the order of the work', () => {
    for (const of of ['id', 'name', 'key', 'route'] as const)
      expect(new Set(STEPS.map((s) => s[of])).size).toBe(STEPS.length);
    expect(STEPS.map((s) => s.key)).toEqual(STEPS.map((s) => s.key).sort());
  });

  it('are one for each place at which findings are mended, and the bench', () => {
    expect(STEPS.map((s) => s.id).sort()).toEqual([...WORK_PLACES, 'bench'].sort());
  });

  it('lead to the first stage that can be sized, and nowhere where there is none', () => {
    const doc = demoThreads()[0]!;
    const sizing = STEPS.find((s) => s.id === 'sizing')!;
    expect(sizing.to(doc)).toMatch(/^sizing\//);
    expect(sizing.to({ ...doc, stages: [] })).toBeUndefined();
    const planned = (id: string, d: typeof doc) => STEPS.find((s) => s.id === id)!.planned!(d);
    const { charging, backup, ...bare } = doc;
    void [charging, backup];
    expect([planned('charge', bare as typeof doc), planned('outage', bare as typeof doc)]).toEqual([
      false,
      false,
    ]);
    const door = demoThreads().find((d) => d.backup)!;
    expect([planned('charge', door), planned('outage', door)]).toEqual([true, true]);
  });
});

describe('how a place stands', () => {
  it('by its worst kind and how many of it; notes do not count', () => {
    const of = (...severities: Severity[]) => standing(severities.map((s, k) => finding(`a:${k}`, s)));
    expect(of()).toEqual({ worst: 'met', count: 0 });
    expect(of('note', 'note')).toEqual({ worst: 'met', count: 0 });
    expect(of('tight', 'note', 'tight')).toEqual({ worst: 'tight', count: 2 });
    expect(of('tight', 'fails', 'tight')).toEqual({ worst: 'fails', count: 1 });
    expect(of('fails', 'danger', 'fails', 'danger')).toEqual({ worst: 'danger', count: 2 });
  });
});
