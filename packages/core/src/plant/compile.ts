import { drawsIn } from '../loads/draws.ts';
import { repeats } from '../model/cycle.ts';
import type { ThreadDocument } from '../model/thread.ts';
import type { ChargerPlant } from './charger.ts';
import { conditionsOf, type Conditions } from './conditions.ts';
import { pathKey } from './key.ts';
import { packPlant, type PackPlant } from './pack.ts';
import { Path } from './path.ts';

/** A thread as numbers under its conditions: what the stepper and its drivers run on. */
export interface Plant {
  doc: ThreadDocument;
  conditions: Conditions;
  pack: PackPlant;
  /** everything outside the cells */
  path: Path;
  /** what charges the pack, where it is charged */
  charger: ChargerPlant | undefined;
}

/** [s] Programmes that repeat faster than this are skipped through on mains too; odd cells are then one with those beside them. */
export const FAST = 3600;

/** Share of the volts at which a pack ends, at rest, down to which its path is looked at first. */
export const BELOW_END = 0.9;

/** Paths kept for others to share: each holds its charts. */
const KEPT = 16;

/** Paths that several plants have in common: their charts are worked out once. */
export class SharedPaths {
  private readonly paths = new Map<string, { path: Path; air: number }>();

  pathOf(doc: ThreadDocument, air: number, usual: number): Path {
    const key = this.keyOf(doc, air);
    const path = this.paths.get(key)?.path ?? new Path(doc.stages, doc.loads, air, usual);
    // As the last one used; the one unused longest goes.
    this.paths.delete(key);
    this.paths.set(key, { path, air });
    if (this.paths.size > KEPT) this.paths.delete(this.paths.keys().next().value!);
    path.reset();
    return path;
  }

  /** By the very objects where they are the same, as an edit elsewhere leaves them; a name of the numbers costs more. */
  private keyOf(doc: ThreadDocument, air: number): string {
    for (const [key, kept] of this.paths) {
      const { stages, loads } = kept.path;
      if (kept.air === air && sameOnes(stages, doc.stages) && sameOnes(loads, doc.loads)) return key;
    }
    return pathKey(doc, air);
  }
}

function sameOnes(a: readonly object[], b: readonly object[]): boolean {
  return a.length === b.length && a.every((x, k) => x === b[k]);
}

/**
 * Compile a thread once: conditions applied, ids resolved, limits the strictest of all stated, tables prepared.
 * @param doc a valid document (decodeThread)
 * @param shared paths to take part in; one run at a time
 */
export function compile(doc: ThreadDocument, given: Partial<Conditions> = {}, shared?: SharedPaths): Plant {
  const conditions = conditionsOf(doc, given);
  const pack = packPlant(doc.pack, conditions, conditions.mode === undefined && repeats(doc));
  const { air } = conditions;
  const usual = BELOW_END * pack.series * Math.max(pack.cutoff, pack.cell.ocv(0));
  const path = shared?.pathOf(doc, air, usual) ?? new Path(doc.stages, doc.loads, air, usual);
  return plantOf(doc, conditions, pack, path);
}

/** A plant as it was when it was compiled, for another run. */
export function startAgain({ path, doc, conditions }: Plant): void {
  path.reset();
  holdIn(path, doc, conditions);
}

/** Where one mode is held, its loads are what is on. */
function holdIn(path: Path, { loads }: ThreadDocument, { mode }: Conditions): void {
  if (mode !== undefined) path.setDraws(drawsIn(loads, mode));
}

/** A plant of what has been compiled. */
export function plantOf(doc: ThreadDocument, conditions: Conditions, pack: PackPlant, path: Path): Plant {
  holdIn(path, doc, conditions);
  return { doc, conditions, pack, path, charger: undefined };
}
