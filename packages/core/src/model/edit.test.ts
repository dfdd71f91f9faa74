import fc from 'fast-check';
import { expect, it } from 'vitest';
import '../stages/kinds/registry.ts';
import { demoThreads } from '../demo/threads.ts';
import { changeThread } from './changeThread.ts';
import { decodeThread } from './decode.ts';
import { applyEdits, changeOf, type Edit } from './edit.ts';
import { overlap, placesChanged } from './places.ts';

function frozen<T>(value: T): T {
  if (typeof value === 'object' && value !== null) {
    Object.values(value).forEach(frozen);
    Object.freeze(value);
  }
  return value;
}
const [doc] = frozen(demoThreads());
const stageIds = doc!.stages.map((s) => s.id);

const edit: fc.Arbitrary<Edit> = fc.oneof(
  fc
    .tuple(fc.constantFrom(...stageIds), fc.double({ min: 1, max: 20, noNaN: true }))
    .map(([id, value]): Edit => ({ op: 'replace', path: ['stages', id, 'outputVolts'], value })),
  fc.constantFrom(...stageIds).map((id): Edit => ({ op: 'remove', path: ['stages', id] })),
  fc
    .nat(2)
    .map((k): Edit => ({ op: 'add', path: ['loads', k], value: { ...doc!.loads[0], id: `new-${k}` } })),
  fc
    .constantFrom(...doc!.loads.map((l) => l.id))
    .map((id): Edit => ({ op: 'add', path: ['loads', id], value: { ...doc!.loads[0], id: `before-${id}` } })),
  fc.constant<Edit>({ op: 'remove', path: ['pack', 'leads', 0] }),
  fc.constant<Edit>({ op: 'remove', path: ['pack', 'fuse'] }),
  fc.string().map((value): Edit => ({ op: 'replace', path: ['notes'], value })),
);

it('the way back leads back, whatever was done, and nothing is changed in place', () => {
  fc.assert(
    fc.property(fc.array(edit, { minLength: 1, maxLength: 6 }), (edits) => {
      const change = changeOf(doc!, edits);
      if (!change.ok) return;
      const back = applyEdits(frozen(change.value.doc), change.value.undo);
      expect(back).toEqual(doc);
      expect(back.loads.map((l) => l.id)).toEqual(doc!.loads.map((l) => l.id));
    }),
    { numRuns: 300, seed: 5 },
  );
});

it('an entry is named by its id, wherever it stands by then; one that is gone is refused by its place', () => {
  const last = stageIds.at(-1)!;
  const edits: Edit[] = [
    { op: 'remove', path: ['stages', stageIds[0]!] },
    { op: 'replace', path: ['stages', last, 'name'], value: 'Other' },
  ];
  expect(applyEdits(doc!, edits).stages.find((s) => s.id === last)!.name).toBe('Other');
  const gone = changeOf(doc!, [
    ...edits,
    { op: 'replace', path: ['stages', stageIds[0]!, 'name'], value: 'x' },
  ]);
  expect(gone).toMatchObject({
    ok: false,
    issues: [{ code: 'reference', path: `stages.${stageIds[0]}.name` }],
  });
  for (const path of [['__proto__', 'x'], ['constructor'], ['pack', '__proto__'], []]) {
    expect(changeOf(doc!, [{ op: 'replace', path, value: 1 }]).ok, path.join()).toBe(false);
  }
});

it('a commit is refused exactly where the whole thread would be', () => {
  const values = fc.constantFrom<unknown>(-1, 0, 3, 1e9, 'x', '', null, undefined, {}, []);
  const paths = fc.constantFrom<Edit['path']>(
    ['name'],
    ['notes'],
    ['goals', 'hours'],
    ['goals'],
    ['pack', 'series'],
    ['pack', 'cell', 'ocv', 'volts'],
    ['stages', stageIds[0]!, 'minInput'],
    ['stages', stageIds[0]!, 'kind'],
    ['stages', stageIds[0]!, 'from'],
    ['stages'],
    ['loads', 0],
    ['loads', 0, 'draw'],
    ['version'],
    ['unheard'],
  );
  fc.assert(
    fc.property(paths, values, fc.constantFrom('replace', 'remove'), (path, value, op) => {
      const edits: Edit[] = [{ op: op as Edit['op'], path, value }];
      const whole = decodeThread(applyEdits(doc!, edits));
      expect(changeThread(doc!, edits).ok).toBe(whole.ok);
    }),
    { numRuns: 200, seed: 3 },
  );
});

it('places tell what two versions disagree in', () => {
  const next = applyEdits(doc!, [
    { op: 'replace', path: ['stages', stageIds[1]!, 'name'], value: 'Other' },
    { op: 'remove', path: ['pack', 'fuse'] },
  ]);
  expect(placesChanged(doc, next)).toEqual([
    ['pack', 'fuse'],
    ['stages', stageIds[1]!, 'name'],
  ]);
  expect(overlap(['stages', 'a'], ['stages', 'a', 'name'])).toBe(true);
  expect(overlap(['stages', 'a', 'name'], ['stages', 'a', 'kind'])).toBe(false);
});
