import {
  surroundingsOf,
  type Belief,
  type Edit,
  type Surroundings,
  type ThreadDocument,
} from '@mile-thread/core/model';

/** Change what is to be believed of a thread; an undefined value goes. */
export function beliefEdit(
  doc: ThreadDocument,
  change: { [F in keyof Belief]?: Belief[F] | undefined },
): Edit {
  const all = Object.entries({ ...doc.belief, ...change }).filter(([, value]) => value !== undefined);
  const path = ['belief'];
  if (all.length === 0) return { op: 'remove', path };
  return { op: doc.belief ? 'replace' : 'add', path, value: Object.fromEntries(all) };
}

/** Say how far one figure may be off; undefined: as its grade says. */
export function toleranceEdit(doc: ThreadDocument, figure: string, tolerance: number | undefined): Edit {
  const before = doc.belief?.own ?? [];
  const was = before.find((o) => o.figure === figure);
  const others = before.filter((o) => o.figure !== figure);
  const own = tolerance === undefined ? others : [...others, { ...was, figure, tolerance }];
  return beliefEdit(doc, { own: own.length > 0 ? own : undefined });
}

/** Change the air a thread works in, which it then states itself. */
export function surroundingsEdit(doc: ThreadDocument, change: Partial<Surroundings>): Edit {
  const op = doc.conditions ? 'replace' : 'add';
  return { op, path: ['conditions'], value: { ...surroundingsOf(doc), ...change } };
}
