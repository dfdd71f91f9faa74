import { describe, expect, it } from 'vitest';
import { demoThreads } from '../demo/threads.ts';
import { applyEdits } from '../model/edit.ts';
import { backupOf } from '../backup/backup.ts';
import { charge } from '../run/charge.ts';
import { simulate } from '../run/rundown.ts';
import { chargeFindings } from './charging/charging.ts';
import { backupFindings } from './charging/backup.ts';
import { findings } from './checks.ts';
import { found, type Family, type Said } from './finding.ts';

const said = (id: string, more: Partial<Said> = {}): Said => ({
  ...{ id, severity: 'tight', element: 'cells', title: id, reason: id },
  ...more,
});
const action = { label: 'mend', edits: [] };

describe('what families find', () => {
  const families: Family<string>[] = [
    { place: 'path', check: (of) => [said(`late:${of}`, { from: 9 }), said(`early:${of}`, { from: 2 })] },
    {
      place: 'sizing',
      check: (of) => [
        said(`worst:${of}`, { severity: 'danger', place: 'needs', action, tried: true }),
        said(`offered:${of}`, { severity: 'note', action }),
      ],
    },
  ];

  it('is mended where its family is, or where it says; worst first, then by when it begins', () => {
    expect(found(families, 'x').map((f) => [f.id, f.place])).toEqual([
      ['worst:x', 'needs'],
      ['early:x', 'path'],
      ['late:x', 'path'],
      ['offered:x', 'sizing'],
    ]);
  });

  it('keeps a way out only where it is worth offering, and asks only where there is one', () => {
    const asked: string[] = [];
    const all = found(families, 'x', (s) => (asked.push(s.id), s.tried !== true));
    expect(asked.sort()).toEqual(['offered:x', 'worst:x']);
    expect(all.filter((f) => f.action).map((f) => f.id)).toEqual(['offered:x']);
    expect(all.some((f) => 'tried' in f)).toBe(false);
  });
});

describe('where the findings of a thread are mended', () => {
  const door = demoThreads().find((t) => t.backup)!;

  it('those of a charge at the charger, a threshold out of reach among them; those without mains at the outage', () => {
    const high = applyEdits(door, [
      { op: 'replace', path: ['charging', 'control', 'recharge'], value: 4.2 },
      { op: 'add', path: ['backup', 'hold'], value: 4000 },
    ]);
    const charging = chargeFindings(high, charge(high));
    expect(charging.map((f) => f.id)).toContain('begins-anew:charger');
    expect(new Set(charging.map((f) => f.place))).toEqual(new Set(['charge']));
    const backup = backupFindings(high, backupOf(high));
    expect(backup.map((f) => f.id)).toContain('hold-new:backup');
    expect(new Set(backup.map((f) => f.place))).toEqual(new Set(['outage']));
  });

  it('those of a run by what they are about', () => {
    const places = new Map<string, string>();
    const cold = { minAir: -15, air: 25, maxAir: 90 };
    for (const doc of demoThreads())
      for (const at of [doc, { ...doc, goals: { ...doc.goals, hours: 90_000 }, conditions: cold }])
        for (const f of findings(at, simulate(at), { actions: false }))
          places.set(f.id.split(':')[0]!, f.place);
    const some = Object.fromEntries(
      ['need', 'waits', 'idle', 'under-volts', 'junction', 'hot'].map((id) => [id, places.get(id)]),
    );
    expect(some).toEqual({
      need: 'needs',
      waits: 'needs',
      idle: 'path',
      'under-volts': 'path',
      junction: 'sizing',
      hot: 'path',
    });
  });
});
