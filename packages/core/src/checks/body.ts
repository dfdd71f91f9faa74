import { AIR_ASK, AIR_FREE, CELL_LIMIT } from '../body/carriage.ts';
import { packBody } from '../body/pack.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Said } from './finding.ts';

/** Sides of a room, as they are typed. */
export const SIDE_WORDS = ['length', 'width', 'height'] as const;

/** Whether the pack fits its room, weighs no more than it may, and may travel as it is to. */
export function body({ doc }: CheckContext): Said[] {
  const { room, mass: most, byAir } = doc.goals;
  if (!room && most === undefined && !byAir) return [];
  const { fit, mass, wh, cellWh, air } = packBody(doc.pack, room);
  const { series, parallel } = doc.pack;
  const found: Said[] = [];
  if (fit && !fit.fits) {
    const by = Number.isFinite(fit.by)
      ? `the room is ${Number((1000 * fit.by).toFixed(1))} mm short in its ${SIDE_WORDS[fit.side]}`
      : 'the room is too small for one of them';
    found.push({
      id: 'room:cells',
      severity: 'fails',
      element: 'cells',
      title: `${series * parallel} cells do not fit: ${by}`,
      reason: `At best ${fit.arrangement.count} of them stand in the room, in ${fit.arrangement.pattern} rows, holders and wrap counted.`,
      excess: (series * parallel) / Math.max(1, fit.arrangement.count),
    });
  }
  const weight = mass ? mass.cells + mass.boards : 0;
  if (mass && most !== undefined && weight > most) {
    found.push({
      id: 'mass:cells',
      severity: 'fails',
      element: 'cells',
      title: `Its cells ${mass.boards > 0 ? 'and boards ' : ''}weigh ${formatQuantity(weight, 'kg', 3)}; ${formatQuantity(most, 'kg', 3)} are allowed`,
      reason: `${series * parallel} cells; wires, strips and wrap add about ${formatQuantity(mass.wiring, 'kg', 2)}.`,
      excess: weight / most,
    });
  }
  if (byAir && air !== 'free') {
    const asks = air === 'ask';
    found.push({
      id: 'carriage:cells',
      severity: asks ? 'tight' : 'fails',
      element: 'cells',
      title: `${formatQuantity(wh, 'Wh', 3)} ${asks ? 'by air only if the airline agrees' : 'do not travel with a passenger'}`,
      reason: `Up to ${AIR_FREE} Wh a battery commonly goes along, up to ${AIR_ASK} Wh if the airline agrees, beyond that not. Rules change and carriers differ: ask yours.`,
      excess: wh / (asks ? AIR_FREE : AIR_ASK),
    });
  }
  if (byAir && cellWh > CELL_LIMIT) {
    found.push({
      id: 'shipment:cells',
      severity: 'note',
      element: 'cells',
      title: `A cell holds ${formatQuantity(cellWh, 'Wh', 3)}: it is shipped by the full rules`,
      reason: `Up to ${CELL_LIMIT} Wh a cell, lithium batteries are commonly sent by simplified rules; a larger one needs all of them, whatever the pack holds. Rules change: ask the carrier.`,
      excess: cellWh / CELL_LIMIT,
    });
  }
  return found;
}
