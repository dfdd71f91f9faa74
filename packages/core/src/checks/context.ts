import { loadAmps, loadLaw } from '../loads/current.ts';
import { isRegulated, type Stage } from '../model/kinds/registry.ts';
import type { Load } from '../model/load.ts';
import { drainNamed } from '../model/pack.ts';
import { PACK, type ThreadDocument } from '../model/thread.ts';
import { compile, type Plant } from '../plant/compile.ts';
import { stageEnvelope, type Envelope } from '../sizing/envelope.ts';
import { readingOf, type Reading } from '../run/reading/reading.ts';
import type { ModeInterval, RunResult } from '../run/account/result.ts';
import { Doings } from '../run/reading/worst.ts';
import { limitsOf, type Limits } from '../stages/limits.ts';
import { MODE_TABLE, type Mode } from '../stages/modes.ts';
import { highestOutput } from '../stages/traits.ts';

/** What every check looks at: the design, its run, and a few readings of the run that several checks share. */
export interface CheckContext {
  doc: ThreadDocument;
  run: RunResult;
  reading: Reading;
  /** [s] needed */
  needed: number;
  /** of each stage, the strictest stated anywhere */
  limits: readonly Limits[];
  /** what the loads do at each row */
  doings: Doings;
  /** the thread as numbers, compiled when first asked for: what is idle is asked of it */
  plant(): Plant;
  /** a stage over the run; worked out once, when first asked for */
  envelope(stage: number): Envelope;
}

export function checkContext(doc: ThreadDocument, run: RunResult): CheckContext {
  const envelopes = new Map<number, Envelope>();
  const reading = readingOf(run);
  let plant: Plant | undefined;
  return {
    doc,
    run,
    reading,
    doings: new Doings(doc, reading),
    plant: () => (plant ??= compile(doc)),
    needed: doc.goals.hours * 3600,
    limits: doc.stages.map(limitsOf),
    envelope(k) {
      const known =
        envelopes.get(k) ?? stageEnvelope(doc, run, doc.stages[k]!.id, { between: 4, losses: false });
      envelopes.set(k, known);
      return known;
    },
  };
}

/** [V] of a full pack at rest. */
export function fullPackVolts(doc: ThreadDocument): number {
  return doc.pack.series * doc.pack.cell.fullVolts;
}

/** [V] of a pack whose cells stand at their end voltage. */
export function endPackVolts(doc: ThreadDocument): number {
  return doc.pack.series * doc.pack.cell.endVolts;
}

/**
 * [V] largest volts a stage's input can see: the full pack, or the set output of the stage it hangs on; higher where
 * that lets its input through.
 */
export function highestInput(doc: ThreadDocument, from: string): number {
  if (from === PACK) return fullPackVolts(doc);
  const above = doc.stages.find((s) => s.id === from);
  return above ? highestOutput(above, highestInput(doc, above.from)) : 0;
}

/** [A] that the loads hanging on `from` ask for at `volts`, largest first; stages below are not counted. */
export function askedAmps(doc: ThreadDocument, from: string, volts: number): { load: Load; amps: number }[] {
  return doc.loads
    .filter((l) => l.from === from)
    .map((load) => {
      const { law, value, slope } = loadLaw(load);
      return { load, amps: loadAmps(law, value, slope, volts) };
    })
    .sort((a, b) => b.amps - a.amps);
}

/** First stretch of a stage's run in one of some modes that begins while the run is of use. */
export function firstMode(c: CheckContext, stage: Stage, ...modes: Mode[]): ModeInterval | undefined {
  const found = c.run.stageModes[stage.id]?.find((m) => modes.includes(m.mode));
  return found && found.from <= c.run.usefulEnd.time * (1 + 1e-9) ? found : undefined;
}

/** Which stage on the way from the pack to a rail lets it down at an instant, and how. @param time [s] */
export function causeAt(
  c: CheckContext,
  from: string,
  time: number,
): { stage: Stage; mode: Mode; cause: string } | undefined {
  const stage = c.doc.stages.find((s) => s.id === from);
  if (!stage) return undefined;
  const above = causeAt(c, stage.from, time);
  if (above) return above;
  const mode = c.run.stageModes[stage.id]?.findLast((m) => m.from <= time * (1 + 1e-9))?.mode;
  const cause = mode && MODE_TABLE[mode].cause;
  return mode && cause ? { stage, mode, cause } : undefined;
}

/** Whether nothing regulates between the pack and a rail. */
export function feedsDirect(doc: ThreadDocument, from: string): boolean {
  const stage = doc.stages.find((s) => s.id === from);
  return !stage || (!isRegulated(stage) && feedsDirect(doc, stage.from));
}

/** What an element of the path is called. */
export function nameOf(doc: ThreadDocument, element: string): string {
  const own = [...doc.stages, ...doc.loads].find((x) => x.id === element) ?? drainNamed(doc.pack, element);
  return own?.name ?? `the ${element}`;
}
