import type { Charging } from '../model/charging.ts';
import { repeatsWithin } from '../model/cycle.ts';
import type { Pack } from '../model/pack.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { cellTable } from './cellTable.ts';
import { ChargerPlant } from './charger.ts';
import { BELOW_END, FAST, plantOf, type Plant } from './compile.ts';
import { conditionsOf, type Conditions } from './conditions.ts';
import { packPlant } from './pack.ts';
import { Path } from './path.ts';

/**
 * Compile a thread while its pack is charged: the charger beside its loads, or instead of them where these are off.
 * @param given.charge by which source, where not by the thread's own
 * @param merged whether odd cells are taken as one with those beside them, whatever the programme
 * @throws Error where the thread says nothing of charging: a programmer's mistake
 */
export function compileCharging(doc: ThreadDocument, given: Partial<Conditions> = {}, merged = false): Plant {
  if (!doc.charging) throw new Error('compileCharging: the thread says nothing of charging');
  const source = given.charge?.source;
  const charging = source ? { ...doc.charging, source } : doc.charging;
  const { modes } = doc;
  const off = charging.meanwhile === 'off';
  const { pack, startSoc } = chargedFrom(doc.pack, charging);
  const fed: ThreadDocument = { ...doc, pack, charging };
  if (off) {
    Object.assign(fed, { stages: [], loads: [] });
    delete fed.programme;
    delete fed.modes;
  }
  const known = charging.mode !== undefined && modes?.some((m) => m.id === charging.mode);
  const mode = off || !known ? {} : { mode: charging.mode! };
  const own = startSoc < 0 || pack.groups ? { startSoc } : {};
  const conditions = conditionsOf(fed, { ...mode, ...own, ...given });
  // Of a programme that repeats within the hour cycles are skipped: then odd cells are taken as one with those beside them.
  const fast = conditions.mode === undefined && repeatsWithin(fed, FAST);
  const cells = packPlant(pack, conditions, merged || fast);
  // Of groups that differ it is their mean that rests at the volts that were read.
  const { restVolts } = charging;
  if (cells.groups && restVolts !== undefined && startSoc >= 0 && given.startSoc === undefined)
    conditions.startSoc = cells.cell.socAt(restVolts);
  const least = startSoc < 0 ? cells.cell.ocv(startSoc) : Math.max(cells.cutoff, cells.cell.ocv(0));
  const usual = BELOW_END * cells.series * least;
  const charger = new ChargerPlant(charging, conditions.air);
  const path = new Path(fed.stages, fed.loads, conditions.air, usual, undefined, charger);
  return { ...plantOf(fed, conditions, cells, path), charger };
}

/**
 * A pack as its charge begins, and at which state of charge. Groups in series pass the same charge, so they stand to one another
 * as a run leaves them, however far down; odd cells are as far from those beside them as when a run starts.
 */
function chargedFrom(of: Pack, { from: stated, restVolts }: Charging): { pack: Pack; startSoc: number } {
  if (restVolts !== undefined && restVolts < of.cell.ocv.volts[0]!) return emptied(of, restVolts);
  const from = restVolts === undefined ? stated : cellTable(of.cell).socAt(restVolts);
  const moved = <T extends { startSoc?: number }>(one: T): T => ({
    ...one,
    startSoc: Math.min(1, Math.max(0, from + (one.startSoc ?? of.startSoc) - of.startSoc)),
  });
  // What a group holds at the start of a run is said against the pack's own.
  if (of.groups) return { pack: of, startSoc: from };
  const pack = {
    ...of,
    startSoc: from,
    ...(of.odd ? { odd: moved(of.odd) } : {}),
  };
  return { pack, startSoc: from };
}

/** [V] by which a cell that is emptied further falls for all the charge it holds: steep. Assumed, no source. */
const BELOW_EMPTY = 25;

/**
 * A pack of cells that were emptied below where their record ends: the record is continued, its resistances as at its end. How
 * groups then differ is not known: all alike.
 */
function emptied({ groups, odd, ...pack }: Pack, restVolts: number): { pack: Pack; startSoc: number } {
  void [groups, odd];
  const { cell } = pack;
  const { ocv, r0 } = cell;
  const startSoc = (restVolts - ocv.volts[0]!) / BELOW_EMPTY;
  const further = {
    ...cell,
    ocv: { soc: [startSoc, ...ocv.soc], volts: [restVolts, ...ocv.volts] },
    r0: { soc: [startSoc, ...r0.soc], ohms: [r0.ohms[0]!, ...r0.ohms] },
    branches: cell.branches.map((b) => ({
      soc: [startSoc, ...b.soc],
      ohms: [b.ohms[0]!, ...b.ohms],
      farads: [b.farads[0]!, ...b.farads],
    })),
  };
  return { pack: { ...pack, cell: further, startSoc: 0 }, startSoc };
}
