import { demoThreads } from '@mile-thread/core';
import {
  changeThread,
  loadAmps,
  loadLaw,
  STAGE_KINDS,
  type Edit,
  type Load,
  type StageKind,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { describe, expect, it } from 'vitest';
import { beliefEdit, surroundingsEdit, toleranceEdit } from './belief.ts';
import * as commands from './commands.ts';
import { groupEdit, oddEdit } from './groups.ts';
import {
  drawIn,
  endProgramme,
  modeAt,
  moveSegment,
  nearestIn,
  setDraw,
  startProgramme,
} from './programme.ts';

const microscope = demoThreads().find((d) => d.name.includes('microscope'))!;
const sampler = demoThreads().find((d) => d.programme)!;

function changed(doc: ThreadDocument, edits: Edit[]): ThreadDocument {
  const next = changeThread(doc, edits);
  if (!next.ok) throw new Error(JSON.stringify(next.issues));
  return next.value.doc;
}

describe('changes of a path', () => {
  it('a stage of any kind and a load are added where they are wanted, whole and with a free id', () => {
    for (const kind of Object.keys(STAGE_KINDS) as StageKind[]) {
      const { id, edits } = commands.addStage(microscope, kind, 'pack');
      const doc = changed(microscope, edits);
      expect(doc.stages.at(-1)).toMatchObject({ id, kind, from: 'pack' });
      const load = commands.addLoad(doc, id);
      expect(changed(doc, load.edits).loads.at(-1)).toMatchObject({ id: load.id, from: id });
    }
    const first = commands.addLoad(microscope, 'pack');
    const doc = changed(microscope, first.edits);
    expect(commands.addLoad(doc, 'pack').id).not.toBe(first.id);
    // Its range lies around the volts of its rail.
    const { min, max } = doc.loads.at(-1)!.range;
    const volts = commands.railVolts(doc, 'pack');
    expect(min).toBeLessThan(volts);
    expect(max).toBeGreaterThan(volts);
  });

  it('what hung on a stage that goes hangs where it hung; a meeting of source and battery too', () => {
    const inner = microscope.stages.find((s) => microscope.loads.some((l) => l.from === s.id))!;
    const doc = changed(microscope, commands.removeNode(microscope, inner.id));
    expect(doc.stages.some((s) => s.id === inner.id)).toBe(false);
    for (const l of microscope.loads.filter((x) => x.from === inner.id))
      expect(doc.loads.find((x) => x.id === l.id)!.from).toBe(inner.from);
    const door = demoThreads().find((d) => d.charging?.join?.at)!;
    const at = door.charging!.join!.at!;
    const stage = door.stages.find((s) => s.id === at);
    if (stage) {
      const edit = commands.removeNode(door, at).find((e) => e.path[0] === 'charging') as { value: string };
      expect(edit.value).toBe(stage.from);
    }
    expect(commands.removeNode(microscope, 'nowhere')).toEqual([]);
  });

  it('nothing can be hung on itself or on what hangs on it', () => {
    const chain = changed(
      microscope,
      commands.addStage(microscope, 'linear', microscope.stages[0]!.id).edits,
    );
    const last = chain.stages.at(-1)!;
    const parents = commands.possibleParents(chain, microscope.stages[0]!.id).map((p) => p.id);
    expect(parents).toContain('pack');
    expect(parents).not.toContain(microscope.stages[0]!.id);
    expect(parents).not.toContain(last.id);
    expect(commands.possibleParents(chain, last.id).map((p) => p.id)).toContain(microscope.stages[0]!.id);
    const moved = changed(chain, commands.moveNode(chain, last.id, 'pack'));
    expect(moved.stages.at(-1)!.from).toBe('pack');
  });

  it('a swapped stage keeps its place and name; letters follow the list', () => {
    const stage = microscope.stages[1]!;
    const doc = changed(microscope, commands.swapStage(microscope, stage.id, 'linear'));
    expect(doc.stages[1]).toMatchObject({ id: stage.id, name: stage.name, from: stage.from, kind: 'linear' });
    expect(commands.stageLetter(microscope, stage.id)).toBe('B');
  });

  it('a load that keeps something else constant draws about the same at the middle of its range', () => {
    const load: Load = {
      ...microscope.loads[0]!,
      ...{ draw: 'current', current: 0.5, range: { min: 4, max: 6 } },
      draws: [{ mode: 'a', value: 0.2 }],
    };
    const { power, resistance, string, ...plain } = load;
    void [power, resistance, string];
    for (const draw of ['power', 'resistance', 'string', 'current'] as const) {
      const [edit] = commands.changeDraw(plain as Load, draw);
      const next = (edit as { value: Load }).value;
      const { law, value, slope, factor } = loadLaw(next);
      expect(factor * loadAmps(law, value, slope, 5), draw).toBeCloseTo(0.5, 2);
      // What was stated for a mode in amperes is still amperes.
      expect(next.draws![0]).toEqual({ mode: 'a', value: 0.2, draw: 'current' });
    }
  });
});

describe('what is believed of a thread', () => {
  it('a tolerance is stated, changed and taken back, and nothing is left where nothing is said', () => {
    const bare = { ...microscope, belief: undefined } as ThreadDocument;
    const one = changed(bare, [toleranceEdit(bare, 'cells.capacity', 0.2)]);
    expect(one.belief!.own).toEqual([{ figure: 'cells.capacity', tolerance: 0.2 }]);
    const two = changed(one, [toleranceEdit(one, 'cells.capacity', 0.1)]);
    expect(two.belief!.own).toEqual([{ figure: 'cells.capacity', tolerance: 0.1 }]);
    expect(changed(two, [toleranceEdit(two, 'cells.capacity', undefined)]).belief).toBeUndefined();
    const graded = changed(bare, [beliefEdit(bare, { byGrade: { measured: 0.02 } })]);
    expect(graded.belief!.byGrade).toEqual({ measured: 0.02 });
    expect(changed(graded, [beliefEdit(graded, { byGrade: undefined })]).belief).toBeUndefined();
  });

  it('the air is stated whole once a part of it is, the others as they were', () => {
    const bare = { ...microscope, conditions: undefined } as ThreadDocument;
    const cold = changed(bare, [surroundingsEdit(bare, { minAir: -12 })]);
    expect(cold.conditions).toMatchObject({ minAir: -12 });
    const warm = changed(cold, [surroundingsEdit(cold, { maxAir: 44 })]);
    expect(warm.conditions).toMatchObject({ minAir: -12, maxAir: 44, air: cold.conditions!.air });
  });
});

describe('groups and cells that differ', () => {
  it('those before one that is said are listed as usual, those behind it are not; none, none', () => {
    const doc = changed(microscope, [groupEdit(microscope, 1, { capacity: 0.8 })]);
    expect(doc.pack.groups).toEqual([
      { capacity: 1, resistance: 1 },
      { capacity: 0.8, resistance: 1 },
    ]);
    const both = changed(doc, [groupEdit(doc, 0, { startSoc: 0.9 })]);
    expect(both.pack.groups![0]).toEqual({ capacity: 1, resistance: 1, startSoc: 0.9 });
    const back = changed(both, [groupEdit(both, 1, { capacity: 1 })]);
    expect(back.pack.groups).toHaveLength(1);
    expect(changed(back, [groupEdit(back, 0, { startSoc: undefined })]).pack.groups).toBeUndefined();
  });

  it('odd cells begin as one at 80 %, and go', () => {
    const wide = { ...microscope, pack: { ...microscope.pack, parallel: 3 } };
    const doc = changed(wide, [oddEdit(wide, { resistance: 2 })]);
    expect(doc.pack.odd).toEqual({ count: 1, capacity: 0.8, resistance: 2 });
    expect(changed(doc, [oddEdit(doc, { count: 2 })]).pack.odd!.count).toBe(2);
    expect(changed(doc, [oddEdit(doc, undefined)]).pack.odd).toBeUndefined();
  });
});

describe('what the loads do', () => {
  it('a programme begins with work and rest, everything off in the rest, and goes without a trace', () => {
    const bare = { ...microscope, modes: undefined, programme: undefined } as ThreadDocument;
    const doc = changed(bare, startProgramme(bare));
    expect(doc.programme!.segments).toEqual([
      { mode: 'work', seconds: 60 },
      { mode: 'rest', seconds: 600 },
    ]);
    for (const l of doc.loads) expect(drawIn(l, 'rest').value).toBe(0);
    expect(drawIn(doc.loads[0]!, 'work')).toEqual({
      value: doc.loads[0]![doc.loads[0]!.draw as 'current'],
      draw: doc.loads[0]!.draw,
    });
    const after = changed(doc, endProgramme(doc));
    expect([after.programme, after.modes, after.loads.some((l) => l.draws)]).toEqual([
      undefined,
      undefined,
      false,
    ]);
  });

  it('peaks, waits and what loads do while charging go with the modes they hang on', () => {
    const mode = sampler.modes![0]!.id;
    const doc = {
      ...sampler,
      goals: { ...sampler.goals, wait: { hours: 72, mode } },
      charging: sampler.charging && { ...sampler.charging, mode },
    } as ThreadDocument;
    const paths = endProgramme(doc).map((e) => e.path.join('.'));
    expect(paths).toContain('goals.wait');
    if (doc.charging) expect(paths).toContain('charging.mode');
    const peaked = doc.loads.filter((l) => l.peaks?.some((p) => p.mode));
    for (const l of peaked) expect(paths).toContain(`loads.${l.id}.peaks`);
  });

  it('stretches change places with their neighbours, and none beyond the ends', () => {
    const before = sampler.programme!.segments.map((s) => s.mode);
    const after = changed(sampler, moveSegment(sampler, 0, 1)).programme!.segments.map((s) => s.mode);
    expect([after[0], after[1]]).toEqual([before[1], before[0]]);
    expect(moveSegment(sampler, 0, -1)).toEqual([]);
    expect(moveSegment(sampler, before.length - 1, 1)).toEqual([]);
  });

  it('a time has its mode, from where the run starts in its cycle; a mode has its nearest time', () => {
    const doc = {
      ...sampler,
      modes: [
        { id: 'a', name: 'A' },
        { id: 'b', name: 'B' },
      ],
      programme: {
        segments: [
          { mode: 'a', seconds: 100 },
          { mode: 'b', seconds: 300 },
        ],
        after: 'repeat' as const,
      },
    };
    expect([0, 99, 101, 399, 401].map((t) => modeAt(doc, t)!.id)).toEqual(['a', 'a', 'b', 'b', 'a']);
    const late = { ...doc, programme: { ...doc.programme, startsAt: 350 } };
    expect([0, 49, 51, 149, 151].map((t) => modeAt(late, t)!.id)).toEqual(['b', 'b', 'a', 'a', 'b']);
    const stays = { ...doc, programme: { ...doc.programme, after: 'stay' as const } };
    expect(modeAt(stays, 5000)!.id).toBe('b');
    expect(nearestIn(doc, 'a', 390, 1e5)).toBe(450);
    expect(nearestIn(doc, 'a', 190, 1e5)).toBe(50);
    expect(nearestIn(doc, 'a', 390, 420)).toBe(50);
    expect(nearestIn(stays, 'b', 5000, 1000)).toBe((400 + 1000) / 2);
    expect(nearestIn({ ...doc, programme: undefined } as ThreadDocument, 'a', 0, 9)).toBeUndefined();
  });

  it('a draw of a mode is set beside the others, in its own way of drawing', () => {
    const load = sampler.loads[0]!;
    const [edit] = setDraw(load, 'new', 0.3, 'power');
    const draws = (edit as { value: NonNullable<Load['draws']> }).value;
    expect(draws.at(-1)).toEqual({ mode: 'new', value: 0.3, draw: 'power' });
    expect(draws).toHaveLength((load.draws?.length ?? 0) + 1);
    const [again] = setDraw({ ...load, draws }, 'new', 0.4);
    expect((again as { value: NonNullable<Load['draws']> }).value.at(-1)).toEqual({
      mode: 'new',
      value: 0.4,
      draw: 'power',
    });
  });
});
