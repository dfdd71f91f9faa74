import { demoThreads, findings, type Finding, type Severity } from '@mile-thread/core';
import { backupFindings, backupOf, charge, chargeFindings } from '@mile-thread/core/charging';
import { simulate } from '@mile-thread/core/solve';
import { describe, expect, it } from 'vitest';
import { standing, STEPS } from './places.ts';

const finding = (id: string, severity: Severity = 'fails') =>
  ({ id, severity, element: 'x', title: 't', reason: 'r' }) as Finding;

describe('places of a thread', () => {
  it('have keys, names and addresses of their own, in the order of the work', () => {
    for (const of of ['id', 'name', 'key', 'route'] as const)
      expect(new Set(STEPS.map((s) => s[of])).size).toBe(STEPS.length);
    expect(STEPS.map((s) => s.key)).toEqual(STEPS.map((s) => s.key).sort());
  });

  it('every finding of every demo thread is mended at one of them, and at one only', () => {
    let seen = 0;
    for (const doc of demoThreads()) {
      const all = [
        ...findings(doc, simulate(doc)),
        ...(doc.charging ? chargeFindings(doc, charge(doc)) : []),
        ...(doc.backup ? backupFindings(doc, backupOf(doc)) : []),
      ];
      for (const f of all) {
        expect(
          STEPS.filter((s) => s.mends(f)).map((s) => s.id),
          f.id,
        ).toHaveLength(1);
        seen++;
      }
    }
    expect(seen).toBeGreaterThan(10);
  });

  it.each([
    ['need:cells', 'needs'],
    ['cycles:pack', 'needs'],
    ['drop-out:camera-rail', 'path'],
    ['trip:protection', 'path'],
    ['junction:camera-rail', 'sizing'],
    ['ratings:lamp-rail', 'sizing'],
    ['broken-off:run', 'run'],
    ['charge-rate:cells', 'charge'],
    ['over-charged:cells', 'charge'],
    ['dropped:backup', 'outage'],
  ])('%s belongs to %s', (id, place) => {
    expect(STEPS.filter((s) => s.mends(finding(id))).map((s) => s.id)).toEqual([place]);
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
