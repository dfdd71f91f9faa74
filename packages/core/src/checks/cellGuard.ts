import { Protection } from '../model/pack.ts';
import { isRegulated } from '../model/kinds/registry.ts';
import { compile } from '../plant/compile.ts';
import { usualWeakest } from '../model/group.ts';
import type { GroupsAtEnd } from '../run/account/result.ts';
import { answersOf } from '../run/rundown.ts';
import { ROW } from '../run/account/series.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Action, Said } from './finding.ts';
import { groupName } from './groups.ts';
import { fits } from '../model/possible.ts';
import { offerNumber } from './offer.ts';

const V = (v: number) => formatQuantity(v, 'V');

/** [V] a protection board opens below the cells' end by, so that converters lock out first. Common practice. */
const BOARD_BELOW = 0.1;
/** [V] below the end from which a board guards against damage but not against wear. Common practice, no source. */
const LATE = 0.3;

/** Common practice, no source: many boards open at 2.4 to 2.75 V per lithium-ion cell. */
export function cellGuard(c: CheckContext): Said[] {
  const { cell, protection } = c.doc.pack;
  if (!protection) {
    const weakest = unwatched(c);
    if (weakest) return [weakest];
    return [
      {
        id: 'no-protection:cells',
        severity: 'danger',
        element: 'cells',
        title: 'Nothing stops the cells from being over-discharged',
        reason: `Without protection the run goes on below ${V(cell.endVolts)} a cell${worksDown(c)}; below ${V(cell.damageVolts)} copper dissolves and charging them again is a hazard.`,
        ...addProtection(c),
      },
    ];
  }
  if (protection.cutoffVolts < cell.damageVolts) {
    return [
      {
        id: 'cut-off:cells',
        severity: 'danger',
        element: 'protection',
        title: `Protection opens at ${V(protection.cutoffVolts)}, below the ${V(cell.damageVolts)} that damages the cells`,
        reason: `By the time it opens the weakest cell is already spoiled${worksDown(c)}.`,
        excess: cell.damageVolts / protection.cutoffVolts,
        ...offerNumber(
          Protection,
          ['pack', 'protection', 'cutoffVolts'],
          cell.endVolts,
          `Set the cut-off to ${V(cell.endVolts)}`,
        ),
      },
    ];
  }
  if (protection.cutoffVolts < cell.endVolts - LATE) {
    return [
      {
        id: 'cut-off:cells',
        severity: 'note',
        element: 'protection',
        title: `Protection opens at ${V(protection.cutoffVolts)}, below the cell's end of ${V(cell.endVolts)}`,
        reason: 'It guards against damage but not against wear; let the converters lock out first.',
      },
    ];
  }
  return [];
}

/** “: Boost works down to 0.9 V” of the stage on the pack that draws from it longest, where that spoils cells. */
function worksDown(c: CheckContext): string {
  const { series, cell } = c.doc.pack;
  const lowest = c.doc.stages
    .map((stage, k) => ({ stage, volts: c.limits[k]!.minInput }))
    .filter(
      ({ stage, volts }) => stage.from === 'pack' && isRegulated(stage) && volts < series * cell.damageVolts,
    )
    .sort((a, b) => a.volts - b.volts)[0];
  return lowest ? `: ${lowest.stage.name} works down to ${V(lowest.volts)}` : '';
}

function addProtection(c: CheckContext): { action: Action } | Record<string, never> {
  const { cell } = c.doc.pack;
  const below = Number((cell.endVolts - BOARD_BELOW).toFixed(2));
  const cutoffVolts = Math.max(cell.damageVolts, below);
  const most = Math.max(c.reading.extremes(ROW.packAmps).most, 0.4);
  const tripCurrent = Number((2.5 * most).toPrecision(2));
  const value = { cutoffVolts, tripCurrent, resistance: 0.03, quiescentCurrent: 5e-6, grade: 'assumed' };
  if (!fits(Protection, 'cutoffVolts', cutoffVolts) || !fits(Protection, 'tripCurrent', tripCurrent))
    return {};
  return {
    action: {
      label: `Add protection that opens at ${V(cutoffVolts)}`,
      edits: [{ op: 'add', path: ['pack', 'protection'], value }],
    },
  };
}

/** Without a board that looks at every group, the weakest is driven on as long as the pack gives enough. */
function unwatched(c: CheckContext): Said | undefined {
  const { doc } = c;
  if (doc.pack.series === 1) return undefined;
  const { cell } = doc.pack;
  const stated = c.run.groups;
  const at = stated ?? supposed(c);
  if (!at) return undefined;
  const lowest = at.volts[at.weakest]!;
  if (!(lowest < cell.endVolts)) return undefined;
  const danger = lowest < cell.damageVolts || at.soc[at.weakest]! <= 0;
  const others =
    at.volts.reduce((sum, v, k) => (k === at.weakest ? sum : sum + v), 0) / (at.volts.length - 1);
  return {
    id: 'per-cell:cells',
    severity: danger ? 'danger' : 'fails',
    element: 'cells',
    title: `Nothing looks at each group: ${stated ? groupName(at.weakest) : 'one a little weaker than the rest'} comes down to ${V(lowest)} a cell`,
    reason: `By then the others stand at ${V(others)}; its cells must not go below ${V(danger ? cell.damageVolts : cell.endVolts)}${danger ? ', where they are spoiled, and charging them again is a hazard' : ''}. Only a board that opens on the lowest group keeps it from that.`,
    ...(stated ? { from: c.run.deadEnd.time } : {}),
    ...addProtection(c),
  };
}

/** The same of a pack of one lot whose groups nobody has measured. */
function supposed({ doc }: CheckContext): GroupsAtEnd | undefined {
  const weakest = doc.belief?.weakest ?? usualWeakest(doc.pack);
  return answersOf(compile(doc, { weakest })).groups;
}
