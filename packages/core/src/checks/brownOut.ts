import type { Draws } from '../loads/draws.ts';
import { isRegulated, STAGE_KINDS, type Regulated } from '../model/kinds/registry.ts';
import type { Load } from '../model/load.ts';
import { PACK, unusedStageId } from '../model/thread.ts';
import { packAtEnd, packWhenFull } from '../sizing/held.ts';
import { simplestWay } from '../sizing/reach.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Action, Said } from './finding.ts';
import { kindWord, offerStage } from './offer.ts';

const V = (v: number) => formatQuantity(v, 'V', 3);

/** Share of a rail's volts that counts as a dip, from before another load was switched. */
const DIP = 0.01;

/**
 * A load that falls out of its range since another on the same rail, or on the same pack, is switched: the dip, who
 * causes it, and a supply of its own as the way out.
 */
export function brownOut(c: CheckContext): Said[] {
  const { reading, doc } = c;
  return doc.loads.flatMap((load, l): Said[] => {
    const volts = reading.load(l, 'volts');
    const amps = reading.load(l, 'amps');
    const least = load.range.min * (1 - 1e-9);
    const end = Math.min(reading.last + 1, reading.count - 1);
    // The row at which the loads were last switched.
    let switched = 0;
    for (let row = 1; row <= end; row++) {
      const ends = reading.time(row) === reading.time(row - 1);
      if (ends && c.doings.at(row - 1) !== c.doings.at(row)) switched = row;
      const now = reading.at(row, volts);
      if (!(now < least) || !(reading.at(row - 1, volts) >= least) || switched === 0) continue;
      const before = reading.at(switched - 1, volts);
      const after = reading.at(switched, volts);
      const drew = reading.at(switched - 1, amps) > 0 && c.doings.at(row)!.draws.factors[l]! > 0;
      // Most of the way down at the switch itself: what comes later is the charge that goes.
      if (!drew || !(before - now > DIP * before) || !(before - after > (before - now) / 2)) continue;
      const cause = heaviest(c, switched, l);
      if (cause) return [finding(c, load, cause, { before, now, time: reading.time(row) })];
    }
    return [];
  });
}

/** The other load whose draw rose most there, if it is what pulls the rail down; it may itself give up at once. */
function heaviest(c: CheckContext, row: number, than: number): Load | undefined {
  const { reading, doc } = c;
  const now = c.doings.at(row)?.draws;
  const before = c.doings.at(row - 1)?.draws;
  const others = doc.loads
    .map((load, l) => ({
      load,
      switched: now && before && !sameDraw(now, before, l),
      rose: reading.loadWatts(row, l) - reading.loadWatts(row - 1, l),
    }))
    .filter((o, l) => l !== than && o.switched)
    .sort((a, b) => b.rose - a.rose);
  return others[0]?.load;
}

/** Whether a load draws the same by two sets of draws. */
function sameDraw(a: Draws, b: Draws, l: number): boolean {
  return a.laws[l] === b.laws[l] && a.values[l] === b.values[l] && a.factors[l] === b.factors[l];
}

function finding(
  c: CheckContext,
  load: Load,
  cause: Load,
  { before, now, time }: { before: number; now: number; time: number },
): Said {
  const shared = load.from === cause.from ? 'the rail they share' : 'the pack behind both';
  const then =
    load.below === 'resets'
      ? ' It starts anew each time.'
      : load.below === 'stops'
        ? ' It stops until it is switched on again.'
        : '';
  return {
    id: `brown-out:${load.id}`,
    tried: true,
    severity: load.essential ? 'fails' : 'tight',
    element: load.id,
    title: `${cause.name} pulls ${load.name} from ${V(before)} down to ${V(now)}; it needs ${V(load.range.min)}`,
    reason: `When ${cause.name} is switched, its current through ${shared} drops the volts by ${V(before - now)}.${then} A supply of its own keeps ${load.name} out of it.`,
    from: time,
    excess: load.range.min / Math.max(now, 1e-3),
    ...ownSupply(c, load),
  };
}

/** A stage of its own for a load, from the pack. */
function ownSupply(c: CheckContext, load: Load): { action: Action } | Record<string, never> {
  const { doc } = c;
  const old = doc.stages.find((s) => s.id === load.from);
  const id = unusedStageId(doc);
  const volts =
    old && isRegulated(old)
      ? old.outputVolts
      : Number(((load.range.min + load.range.max) / 2).toPrecision(3));
  // It is to be held apart from the others, also where the pack itself would do.
  const alone = { ...doc, loads: doc.loads.map((l) => (l.id === load.id ? { ...l, from: PACK } : l)) };
  const kind = simplestWay(alone, load.id, ['direct'], volts)?.kind;
  if (!kind || kind === 'direct') return {};
  const usual = STAGE_KINDS[kind].create(id, PACK, volts) as Regulated;
  const stage = {
    ...usual,
    name: `${load.name} rail`.slice(0, 60),
    minInput: Math.min(usual.minInput, Number((0.8 * packAtEnd(doc)).toPrecision(2))),
    maxInput: Math.max(usual.maxInput, Math.ceil(1.3 * packWhenFull(doc))),
  };
  return offerStage(doc, load, stage, `Give ${load.name} its own ${kindWord(kind)}`);
}
