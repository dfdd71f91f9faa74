import { drainsOf } from '../model/pack.ts';
import { PACK, type ThreadDocument } from '../model/thread.ts';
import { compile } from '../plant/compile.ts';
import type { Idle } from './account/result.ts';
import { idleDraw } from './idle.ts';

/** A place where a switch could be put, and how long the thread would then keep. */
export interface Cut {
  /** `cells`: before everything; `protection`: behind the board; else the id of the stage it stands before */
  before: string;
  /** [A] that still flows */
  amps: number;
  /** [h] until the cells rest at their end voltage */
  hoursToEnd: number;
}

/** What a switch at each place would change, from the cells on. Leakage of the switch itself is not counted. */
export function idleCuts(doc: ThreadDocument): Cut[] {
  const { protection, drains: listed, gauge, disconnect, ...bare } = doc.pack;
  void [listed, gauge, disconnect];
  const drains = drainsOf(doc.pack);
  const cut = (before: string, pack: ThreadDocument['pack'], gone: ReadonlySet<string>): Cut => {
    const rest = { ...doc, pack, stages: doc.stages.filter((s) => !gone.has(s.id)) };
    const loads = doc.loads.filter((l) => !gone.has(l.from));
    const { amps, hoursToEnd } = idleDraw(compile({ ...rest, loads }));
    return { before, amps, hoursToEnd };
  };
  const all = new Set([PACK, ...doc.stages.map((s) => s.id)]);
  const behind = {
    ...bare,
    drains: drains.filter((d) => !d.switched),
    ...(protection ? { protection } : {}),
  };
  const whole = { ...bare, drains, ...(protection ? { protection } : {}) };
  return [
    cut('cells', bare, all),
    ...(protection ? [cut('protection', behind, all)] : []),
    ...doc.stages.map((s) => cut(s.id, whole, below(doc, s.id))),
  ];
}

/** A stage and all that hang on it. */
function below(doc: ThreadDocument, id: string): Set<string> {
  const found = new Set([id]);
  for (const at of found) for (const s of doc.stages) if (s.from === at) found.add(s.id);
  return found;
}

/** What flows while a thread sleeps, and where it could be cut. */
export interface IdleBudget {
  /** each mode held, as if the cells only drained: true of modes that draw little */
  modes: { mode: string; idle: Idle }[];
  cuts: Cut[];
}

export function idleBudget(doc: ThreadDocument): IdleBudget {
  const plant = compile(doc);
  const modes = (doc.modes ?? []).map(({ id }) => ({ mode: id, idle: idleDraw(plant, id) }));
  return { modes, cuts: idleCuts(doc) };
}
