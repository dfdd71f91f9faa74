import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { load, plainCell, thread } from '../../test/build.ts';
import { anyWhole } from '../../test/everything.ts';
import { defaultBoost, defaultBuck, demoThreads, refusal, refusalWords, simulate } from '../../test/core.ts';
import type { ThreadDocument } from '../model/thread.ts';

const cell = {
  ...plainCell(2, 3, 4.2, 0.05),
  mass: 0.046,
  body: { kind: 'cylinder', diameter: 0.018, height: 0.065 },
} as const;

/** What is said of it; it names what needs it. */
const said = (doc: ThreadDocument) => {
  const found = refusal(doc);
  return found && refusalWords(doc, found).replaceAll('\u00a0', ' ');
};

describe('what rules a thread out before it is run', () => {
  it('volts: a rail that a full pack does not reach, a stage that never starts; not what only dims, or does not count', () => {
    const range = { min: 8.5, max: 20 };
    const pack = { series: 2 };
    expect(said(thread({ cell, pack, loads: [load('power', 1, { range })] }))).toBe(
      'Load needs 8.50 V; a full pack brings its rail to 8.40 V at the most.',
    );
    expect(
      refusal(thread({ cell, pack, loads: [load('power', 1, { range: { min: 8.3, max: 20 } })] })),
    ).toBeUndefined();
    expect(
      refusal(thread({ cell, pack, loads: [load('power', 1, { range, below: 'dims' })] })),
    ).toBeUndefined();
    const spare = load('power', 1, { id: 'spare', range, essential: false });
    expect(refusal(thread({ cell, pack, loads: [load('power', 1), spare] }))).toBeUndefined();
    // A buck from 4.2 V for 5 V gives no more than it gets; a boost does, where it starts.
    const buck = { ...defaultBuck('s', 'pack', 5), minInput: 3 };
    const fed = load('power', 1, { from: 's', range: { min: 4.75, max: 5.25 } });
    expect(said(thread({ cell, stages: [buck], loads: [fed] }))).toContain('to 4.20 V at the most');
    const boost = { ...defaultBoost('s', 'pack', 5), minInput: 2.5 };
    expect(refusal(thread({ cell, stages: [boost], loads: [fed] }))).toBeUndefined();
    expect(said(thread({ cell, stages: [{ ...boost, minInput: 4.5 }], loads: [fed] }))).toMatch(
      /, which feeds Load, starts at 4\.50 V; a full pack brings it 4\.20 V at the most\.$/,
    );
  });

  it('current: what its loads take in a mode that lasts longer than the board waits', () => {
    const protection = {
      cutoffVolts: 2.5,
      tripCurrent: 3,
      tripDelay: 2,
      resistance: 0,
      quiescentCurrent: 0,
      grade: 'assumed',
    } as const;
    const modes = [{ id: 'go', name: 'Full speed' }];
    const seconds = (s: number) => ({
      segments: [
        { mode: 'go', seconds: s },
        { mode: 'go', seconds: 1 },
      ],
      after: 'repeat' as const,
    });
    const doc = { ...thread({ cell, pack: { protection }, loads: [load('power', 13)] }), modes };
    expect(said({ ...doc, programme: seconds(10) })).toBe(
      'Its loads take 3.10 A of a full pack at the least in Full speed; its board opens at 3.00 A.',
    );
    expect(refusal({ ...doc, programme: seconds(1.5) })).toBeUndefined();
    expect(refusal({ ...doc, loads: [load('power', 12.5)] })).toBeUndefined();
    // A current takes at least what it is at the least volts it works at; a resistance the square of that.
    const least = { range: { min: 2.8, max: 5 } };
    expect(refusal({ ...doc, loads: [load('current', 4.4, least)] })).toBeUndefined();
    expect(refusal({ ...doc, loads: [load('current', 4.6, least)] })?.why).toBe('current');
    expect(refusal({ ...doc, loads: [load('resistance', 0.63, least)] })).toBeUndefined();
    expect(refusal({ ...doc, loads: [load('resistance', 0.61, least)] })?.why).toBe('current');
  });

  it('mass and room', () => {
    const pack = { series: 2, parallel: 3 };
    const doc = thread({ cell, pack, loads: [load('power', 1)] });
    const goals = (more: object) => ({ ...doc, goals: { ...doc.goals, ...more } });
    expect(said(goals({ mass: 0.27 }))).toBe('Its cells weigh 0.276 kg; 0.270 kg are allowed.');
    expect(refusal(goals({ mass: 0.28 }))).toBeUndefined();
    const room = (length: number) => ({ room: { length, width: 0.042, height: 0.07 } });
    expect(refusal(goals(room(0.07)))).toBeUndefined();
    // Two in each of two rows
    expect(said(goals(room(0.045)))).toBe('The room holds 4 of its 6 cells.');
    expect(refusal(goals(room(0.001)))).toEqual({ why: 'room', cells: 6, holds: 0 });
  });

  it('no demo is refused; what is, is of no use in a run either, from its first cycle on', () => {
    for (const doc of demoThreads()) expect(refusal(doc)).toBeUndefined();
    const seen = new Set<string>();
    fc.assert(
      fc.property(anyWhole, fc.double({ min: 0.5, max: 3, noNaN: true }), (any, by) => {
        // More volts and less current than there are, time and again.
        const loads = any.loads.map((l) => ({
          ...l,
          range: { min: l.range.min * by, max: Math.max(l.range.max, l.range.min * by * 1.1) },
        }));
        const { protection } = any.pack;
        const doc = {
          ...any,
          loads,
          pack: protection
            ? {
                ...any.pack,
                protection: {
                  ...protection,
                  tripCurrent: protection.tripCurrent / (by * by),
                  shortCurrent: protection.shortCurrent,
                },
              }
            : any.pack,
        };
        const found = refusal(doc);
        if (found?.why !== 'volts' && found?.why !== 'current') return;
        seen.add(found.why);
        const period = doc.programme?.segments.reduce((s, x) => s + x.seconds, 0) ?? 0;
        expect(simulate(doc).usefulEnd.time).toBeLessThanOrEqual(period + (protection?.tripDelay ?? 0));
      }),
      { numRuns: 150, seed: 3, endOnFailure: true },
    );
    expect([...seen].sort()).toEqual(['current', 'volts']);
  });
});
