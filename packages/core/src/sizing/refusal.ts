import { fullAtRest } from '../model/pack.ts';
import { packBody } from '../body/pack.ts';
import { CURRENT, loadLaw, POWER, RESISTANCE, type LoadLaw } from '../loads/current.ts';
import { lawIn } from '../loads/draws.ts';
import type { Body } from '../model/body.ts';
import type { Load } from '../model/load.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { counts } from '../run/account/usefulEnd.ts';
import { limitsOf } from '../stages/limits.ts';
import { highestOutput, neededInput } from '../stages/traits.ts';

/** Relative room, so that what is refused is refused by the run as well. */
const CLEAR = 1e-6;

/** Why a thread cannot be, by what needs no run: one of these is enough. */
export type Refusal =
  /** [V] a load, or a stage on its way, never gets what it needs, however full the pack */
  | { why: 'volts'; load: string; stage?: string; has: number; needs: number }
  /** [A] what its loads take at the least opens the board */
  | { why: 'current'; mode?: string; takes: number; limit: number }
  /** [kg] its cells alone */
  | { why: 'mass'; weighs: number; allowed: number }
  /** cells wanted, and what the room holds of them at best */
  | { why: 'room'; cells: number; holds: number };

/**
 * The first thing that rules a thread out before it is run: bounds of microseconds, true of every run. By volts and current it is of
 * no use from its first cycle on; mass and room are what was asked for.
 * @param doc a valid document (decodeThread)
 */
export function refusal(doc: ThreadDocument): Refusal | undefined {
  return byVolts(doc) ?? byCurrent(doc) ?? byMass(doc) ?? byRoom(doc);
}

function byVolts(doc: ThreadDocument): Refusal | undefined {
  const full = fullAtRest(doc.pack);
  for (const [k, load] of doc.loads.entries()) {
    // What dims takes what it gets.
    if (!counts(doc.loads, k) || load.below === 'dims') continue;
    const has = railOf(doc, load.from, full);
    const short = typeof has !== 'number' || has < load.range.min * (1 - CLEAR);
    if (!short || !isDrawn(doc, load)) continue;
    if (typeof has !== 'number') return { why: 'volts', load: load.id, ...has };
    return { why: 'volts', load: load.id, has, needs: load.range.min };
  }
  return undefined;
}

/** [V] a rail stands at at the most, or the stage on its way that never starts. */
function railOf(
  doc: ThreadDocument,
  from: string,
  full: number,
): number | { stage: string; has: number; needs: number } {
  const stage = doc.stages.find((s) => s.id === from);
  if (!stage) return full;
  const input = railOf(doc, stage.from, full);
  if (typeof input !== 'number') return input;
  const { minInput } = limitsOf(stage);
  if (input < minInput * (1 - CLEAR)) return { stage: stage.id, has: input, needs: minInput };
  const output = highestOutput(stage, input);
  const needed = neededInput(stage, 0);
  // One that only steps down gives no more than it gets.
  return needed !== undefined && input < needed ? Math.min(output, input) : output;
}

function byCurrent(doc: ThreadDocument): Refusal | undefined {
  const { protection } = doc.pack;
  const limit = protection?.tripCurrent;
  // While a peak lasts a load may take less.
  if (limit === undefined || doc.loads.some((l) => l.peaks?.length)) return undefined;
  const full = fullAtRest(doc.pack);
  const wait = protection?.tripDelay ?? 0;
  for (const { mode, laws } of modesOf(doc, wait)) {
    const watts = doc.loads.reduce(
      (sum, l, k) => sum + (counts(doc.loads, k) ? leastWatts(l, laws[k]!) : 0),
      0,
    );
    const takes = watts / full;
    if (takes > limit * (1 + CLEAR))
      return { why: 'current', ...(mode === undefined ? {} : { mode }), takes, limit };
  }
  return undefined;
}

/** [W] a load takes as long as it is in its range. Lossless on its way: what it takes of the pack is more. */
function leastWatts({ range: { min }, below }: Load, { law, value, factor }: LoadLaw): number {
  if (below === 'dims') return 0;
  if (law === POWER) return value * factor;
  if (law === CURRENT) return value * factor * min;
  return law === RESISTANCE ? ((min * min) / value) * factor : 0;
}

function draws({ value, factor }: LoadLaw): boolean {
  return value * factor > 0;
}

/** Whether a load is ever on. */
function isDrawn({ programme }: ThreadDocument, load: Load): boolean {
  return programme ? programme.segments.some((s) => draws(lawIn(load, s.mode))) : draws(loadLaw(load));
}

/** What loads draw in each mode that is ever in use for longer than so many seconds; as usual where there is no programme. */
function modesOf(
  { programme, loads }: ThreadDocument,
  seconds: number,
): { mode?: string; laws: LoadLaw[] }[] {
  if (!programme) return [{ laws: loads.map(loadLaw) }];
  const used = new Set(programme.segments.flatMap((s) => (s.seconds > seconds ? [s.mode] : [])));
  return [...used].map((mode) => ({ mode, laws: loads.map((l) => lawIn(l, mode)) }));
}

function byMass({ pack, goals }: ThreadDocument): Refusal | undefined {
  const weighs = pack.series * pack.parallel * (pack.cell.mass ?? 0);
  const { mass } = goals;
  return mass !== undefined && weighs > mass * (1 + CLEAR)
    ? { why: 'mass', weighs, allowed: mass }
    : undefined;
}

function byRoom({ pack, goals }: ThreadDocument): Refusal | undefined {
  const { room } = goals;
  const { body } = pack.cell;
  if (!room || !body) return undefined;
  const cells = pack.series * pack.parallel;
  // By volume first: that is far off at once.
  const holds = Math.floor((room.length * room.width * room.height) / volumeOf(body));
  if (holds < cells) return { why: 'room', cells, holds };
  const { fit } = packBody(pack, room);
  return fit && !fit.fits ? { why: 'room', cells, holds: fit.arrangement.count } : undefined;
}

/** [m³] of a cell. */
function volumeOf(body: Body): number {
  return body.kind === 'pouch'
    ? body.length * body.width * body.thickness
    : (Math.PI / 4) * body.diameter ** 2 * body.height;
}
