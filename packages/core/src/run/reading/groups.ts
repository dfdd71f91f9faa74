import type { Plant } from '../../plant/compile.ts';
import type { PackPlant } from '../../plant/pack.ts';
import type { RunAnswers } from '../account/result.ts';
import { cellVolts, type CellState } from '../step/state.ts';

/**
 * [J] that the cells hold above a voltage at rest, by groups where those differ.
 * @param charge [C] one cell holds as warm as it is @param fuller odd cells than those beside them
 */
export function heldAbove(
  pack: PackPlant,
  soc: number,
  { charge, fuller }: { charge: number; fuller: number },
  volts: number,
): number[] {
  const { cell, groups, sharing, series, parallel } = pack;
  const of = groups?.above(soc, volts) ?? [
    sharing?.above(soc, fuller, volts) ?? Math.max(0, cell.area(soc) - cell.area(cell.socAt(volts))),
  ];
  return of.map((above) => above * charge * series * parallel);
}

/** How groups stand at the state of a run that has ended; nothing of a pack whose groups are alike. */
export function groupsAtEnd({ pack, doc }: Plant, state: CellState): Pick<RunAnswers, 'groups'> {
  if (!pack.groups || Number.isNaN(state.volts)) return {};
  const soc = Math.max(0, state.soc);
  const at = pack.groups.at(soc, cellVolts(pack, state.volts, state.amps));
  const volts = at.map((g) => g.volts);
  return {
    groups: {
      weakest: volts.indexOf(Math.min(...volts)),
      soc: at.map((g) => g.soc),
      volts,
      left: heldAbove(pack, soc, { charge: state.charge, fuller: 0 }, doc.pack.cell.endVolts),
    },
  };
}
