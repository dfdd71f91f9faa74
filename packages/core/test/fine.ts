import { answersOf, compile, type RunAnswers, type ThreadDocument } from './core.ts';
import { exactPlant } from './exactPath.ts';

/** Steps forty times as short, nothing tabulated. */
const FINE = { maxSoc: 1 / 1600, bend: 1e-5, twist: 5e-7, effort: 2e7 };

/** How a run stands to one in steps forty times as short that works everything out exactly. */
export interface Comparison {
  /** largest relative difference of useful and dead end */
  ends: number;
  /** largest difference of a line of the account, as a share of what was stored */
  account: number;
  /** whether every stage went through the same modes */
  sameModes: boolean;
  /** how open the run's own account is */
  closure: number;
}

/**
 * @returns undefined where there is nothing to compare: either gave up a search, or the demand jumps where no side can be
 *   held, which the reference, worked out exactly, can only creep along
 */
export function compareToFine(doc: ThreadDocument): Comparison | undefined {
  const run = answersOf(compile(doc));
  const fine = answersOf(exactPlant(doc), FINE);
  const gaveUp = (r: RunAnswers) => r.deadEnd.reason === 'unfinished' || r.counts.abandoned > 0;
  if (gaveUp(run) || gaveUp(fine) || fine.counts.crept > 0) return undefined;
  const off = (a: number, b: number) => Math.abs(a - b) / Math.max(1, b);
  return {
    ends: Math.max(
      off(run.usefulEnd.time, fine.usefulEnd.time),
      off(run.deadEnd.time, fine.deadEnd.time),
      run.deadEnd.reason === fine.deadEnd.reason ? 0 : 1,
    ),
    account: accountsDiffer(run, fine),
    sameModes: modesOf(run) === modesOf(fine),
    closure: run.ledgerAtDead.closure,
  };
}

function accountsDiffer(a: RunAnswers, b: RunAnswers): number {
  const lines = ({ ledgerAtDead: l }: RunAnswers) =>
    new Map([
      ...l.entries.map((e): [string, number] => [`${e.element} ${e.mechanism}`, e.joules]),
      ['left', l.left],
      ['usable', l.usable],
      ['polarisation', l.polarisation],
    ]);
  const [one, two] = [lines(a), lines(b)];
  const names = new Set([...one.keys(), ...two.keys()]);
  const differences = [...names].map((n) => Math.abs((one.get(n) ?? 0) - (two.get(n) ?? 0)));
  return Math.max(...differences) / a.ledgerAtDead.stored;
}

const modesOf = (r: RunAnswers) =>
  Object.values(r.stageModes)
    .map((list) => list.map((m) => m.mode).join(' '))
    .join('; ');
