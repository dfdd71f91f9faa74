import { applyEdits, type Edit } from '../model/edit.ts';
import { isRegulated, STAGE_KINDS, swapKind, type Stage, type StageKind } from '../model/kinds/registry.ts';
import { SLACK } from '../plant/rails.ts';
import { isPossible } from '../model/possible.ts';
import { MOST_STAGES, unusedStageId, type ThreadDocument } from '../model/thread.ts';
import { highestOutput } from '../stages/traits.ts';
import { AtVolts, packAtEnd, packWhenFull, railHeld, type RailHeld } from './held.ts';

/** How a pack gets to a rail: straight, by a stage of some kind, or not at all. */
export type Way = StageKind | 'not';

/** Ways that are tried, the simplest first. */
const WAYS = ['direct', 'buck', 'boost', 'buckBoost'] as const satisfies readonly StageKind[];

/** A way to a rail: what it takes, and how the rail then fares. */
export interface WayTo {
  kind: StageKind;
  /** nothing where it is so */
  edits: Edit[];
  held: RailHeld;
  /** it is another part of the kind in use, whose limits are only assumed */
  another?: true;
}

/** A pack before a rail. */
export interface Crossing {
  /** the way that holds it, the one in use if that does; `not` where none does */
  way: Way;
  edits: Edit[];
  /** how it fares by that way; where none holds it by the one in use, else by a stage for both directions */
  held: RailHeld;
  /** as of a way */
  another?: true;
  /** the simplest way that holds it, where the one in use is not it */
  simpler?: StageKind;
  /** how it fares by the way in use, where that does not hold it and another does */
  now?: RailHeld;
}

/** Room around volts and currents in the limits of a stage that is yet to be found, and [A] that none is asked to pass. */
const ROOM = 0.1;
const AMPS_ROOM = 2;
const NO_LIMIT = 2000;

/** A stage that is yet to be found: its limits are only assumed, and take what comes to it. [V] */
function yetToBeFound(stage: Stage, { most, least }: { most: number; least: number }): Stage {
  const maxInput = Math.max(stage.maxInput, Math.ceil(most * (1 + ROOM)));
  if (!isRegulated(stage)) return { ...stage, maxInput };
  const { listing, chip, ...rest } = stage;
  void [listing, chip];
  const minInput = Math.min(stage.minInput, Number((least * (1 - ROOM)).toPrecision(2)));
  return { ...rest, maxInput, minInput, grade: 'assumed' } as Stage;
}

/** The same with limits that pass what is asked of it at the pack's end. @param doc where it stands without any */
function roomFor(stage: Stage, edits: (stage: Stage) => Edit[], doc: ThreadDocument): Stage {
  if (!isRegulated(stage)) return stage;
  const own = 'inputLimit' in stage ? stage.inputLimit : undefined;
  const free = { ...stage, ...(own === undefined ? {} : { inputLimit: NO_LIMIT }) } as Stage & {
    outputLimit?: number;
  };
  delete free.outputLimit;
  const then = applyEdits(doc, edits(free));
  const at = new AtVolts(then);
  const place = then.stages.findIndex((s) => s.id === stage.id);
  // Where it cannot be fed to the end, for as long as it can.
  const [near, far] = [packAtEnd(then), packWhenFull(then)].map((v) => at.mostThrough(v, place));
  const input = Math.max(near!.input, far!.input);
  const output = Math.max(near!.output, far!.output);
  const enough = (now: number, asked: number) =>
    Math.max(now, Number(Math.min(NO_LIMIT, AMPS_ROOM * asked).toPrecision(2)));
  return {
    ...stage,
    ...(own === undefined ? {} : { inputLimit: enough(own, input) }),
    ...(stage.outputLimit === undefined ? {} : { outputLimit: enough(stage.outputLimit, output) }),
  } as Stage;
}

/** [V] what comes to a stage at the most, and at the least while what it hangs on holds its own. */
function inputOf(doc: ThreadDocument, from: string): { most: number; least: number } {
  const stage = doc.stages.find((s) => s.id === from);
  if (!stage) return { most: packWhenFull(doc), least: packAtEnd(doc) };
  const { most, least } = inputOf(doc, stage.from);
  return {
    most: highestOutput(stage, most),
    least: isRegulated(stage) ? Math.min(stage.outputVolts, highestOutput(stage, least)) : least,
  };
}

/**
 * What is fed from a rail by one way or another: a stage of another kind in the place of one, or one before a load.
 * @param another whether one of the same kind is another part @param set [V] it is to hold, where not what it holds, or the middle of what hangs on it
 */
function edited(
  doc: ThreadDocument,
  rail: string,
  kind: StageKind,
  set?: number,
  another = false,
): Edit[] | undefined {
  const at = doc.stages.find((s) => s.id === rail);
  const load = doc.loads.find((l) => l.id === rail);
  if (at ? at.kind === kind && !another : kind === 'direct') return [];
  const { from } = (at ?? load)!;
  const volts = set ?? (at && isRegulated(at) ? at.outputVolts : middleOf(doc, rail));
  const stage = at ? swapKind(at, kind, volts) : STAGE_KINDS[kind].create(unusedStageId(doc), from, volts);
  const put = (value: Stage): Edit[] =>
    at
      ? [{ op: 'replace', path: ['stages', at.id], value }]
      : [
          { op: 'add', path: ['stages', doc.stages.length], value },
          { op: 'replace', path: ['loads', rail, 'from'], value: value.id },
        ];
  if (!at && doc.stages.length >= MOST_STAGES) return undefined;
  const value = yetToBeFound(stage, inputOf(doc, from));
  if (!isPossible(value)) return undefined;
  return put(roomFor(value, put, doc));
}

/** [V] of a rail on which nothing hangs. Common practice, no source. */
const USUAL_VOLTS = 5;

/** [V] in the middle of what the loads on a rail stand. */
function middleOf({ loads }: ThreadDocument, rail: string): number {
  const own = loads.filter((l) => l.from === rail || l.id === rail);
  if (own.length === 0) return USUAL_VOLTS;
  const least = Math.max(...own.map((l) => l.range.min));
  return Number(((least + Math.min(...own.map((l) => l.range.max))) / 2).toPrecision(3));
}

/**
 * One way to a rail, tried; undefined where it cannot be put there. Where a stage of that kind is there and its own limits keep
 * it from it, another of its kind.
 * @param rail as of `railHeld` @param set [V] of a new stage
 */
export function wayTo(doc: ThreadDocument, rail: string, kind: StageKind, set?: number): WayTo | undefined {
  const own = tried(doc, rail, kind, edited(doc, rail, kind, set));
  if (!own?.held.misfit || own.edits.length > 0) return own;
  const other = tried(doc, rail, kind, edited(doc, rail, kind, set, true));
  return other && !other.held.misfit && other.edits.length > 0 ? { ...other, another: true } : own;
}

function tried(
  doc: ThreadDocument,
  rail: string,
  kind: StageKind,
  edits: Edit[] | undefined,
): WayTo | undefined {
  if (!edits) return undefined;
  return { kind, edits, held: railHeld(edits.length > 0 ? applyEdits(doc, edits) : doc, rail) };
}

/** The simplest way that holds a rail; undefined where none does. @param but kinds that are not asked for */
export function simplestWay(
  doc: ThreadDocument,
  rail: string,
  but: readonly StageKind[] = [],
  set?: number,
): WayTo | undefined {
  for (const kind of WAYS) {
    const way = but.includes(kind) ? undefined : wayTo(doc, rail, kind, set);
    if (way && !way.held.misfit) return way;
  }
  return undefined;
}

/**
 * Which way a pack of so many cells in series reaches a rail, if any. What is in use is kept where it holds; else the simplest
 * that does: straight, down, up, both ways.
 */
export function crossing(doc: ThreadDocument, rail: string, series: number): Crossing {
  const own = series === doc.pack.series;
  const cells: Edit[] = own ? [] : [{ op: 'replace', path: ['pack', 'series'], value: series }];
  const then = own ? doc : applyEdits(doc, cells);
  const inUse = doc.stages.find((s) => s.id === rail)?.kind ?? 'direct';
  const simplest = simplestWay(then, rail);
  const isOther = !WAYS.includes(inUse as never);
  const now = own || isOther || !simplest ? tried(then, rail, inUse, edited(then, rail, inUse)) : undefined;
  const found = now && !now.held.misfit && (own || simplest?.kind !== 'direct') ? now : simplest;
  if (!found)
    return {
      way: 'not',
      edits: [],
      held: (own && now ? now : (wayTo(then, rail, 'buckBoost') ?? now))!.held,
    };
  const may = !(found.held.asks > found.held.may * (1 + SLACK));
  return {
    way: may ? found.kind : 'not',
    edits: may ? [...cells, ...found.edits] : [],
    held: found.held,
    ...(found.another ? { another: true as const } : {}),
    ...(simplest && simplest.kind !== found.kind ? { simpler: simplest.kind } : {}),
    ...(own && now?.held.misfit ? { now: now.held } : {}),
  };
}
