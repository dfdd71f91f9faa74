import { surroundingsOf } from '../model/thread.ts';
import { LOOK } from '../plant/cellTable.ts';
import { conditionsOf } from '../plant/conditions.ts';
import { packPlant } from '../plant/pack.ts';
import { voltsAtPower } from '../sizing/gauge.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Said } from './finding.ts';

/** [K] by which cells that warm themselves are worth a word. Common practice, no source. */
const WARM = 10;

const C = (celsius: number) => formatQuantity(celsius, '°C', 3);

const V = (volts: number) => formatQuantity(volts, 'V', 3);

/**
 * Whether it starts in the coldest air with cells as cold as that: at the heaviest draw of its run, by resistance alone,
 * before their branches and their own heat have come into play. A run that begins in the usual air does not show it.
 */
function coldStart({ doc, run, reading }: CheckContext): Said[] {
  const { minAir, air } = surroundingsOf(doc);
  if (!(minAir < air) || !doc.pack.cell.temperature || run.deadEnd.time === 0 || reading.count === 0)
    return [];
  const watts = reading.mostWatts();
  const { warmth: own, ...pack } = doc.pack;
  void own;
  const under = conditionsOf({ ...doc, pack }, { air: minAir });
  const cold = packPlant(pack, under);
  const looked = cold.cell.room();
  cold.cell.look(under.startSoc, looked);
  const open = cold.series * looked[LOOK.ocv]!;
  const ohms = (cold.series / cold.parallel) * looked[LOOK.r0]!;
  const volts = voltsAtPower(open, ohms + cold.seriesOhms, watts);
  const cell = (open - (ohms * watts) / volts) / cold.series;
  if (volts > 0 && !(cell < cold.cutoff)) return [];
  const W = formatQuantity(watts, 'W', 3);
  return [
    {
      id: 'cold-start:cells',
      severity: 'fails',
      element: 'cells',
      title:
        volts === 0
          ? `In air of ${C(minAir)} it does not start: its cold cells cannot give ${W}`
          : `In air of ${C(minAir)} it does not start: ${W} pull its cold cells to ${V(cell)}, where the board opens`,
      reason: `As cold as that they have ${formatQuantity(ohms, 'Ω', 3)}. Start with less, warm them first, or choose more cells in parallel, or some for the cold.`,
    },
  ];
}

/** Cells that are to be charged where it is colder than they may be. */
function coldCharge(doc: CheckContext['doc']): Said[] {
  const { minAir, maxAir } = surroundingsOf(doc);
  const { minCharge = -Infinity, maxCharge = Infinity } = doc.pack.cell.temperature ?? {};
  // Where the charge itself is planned, its own checks say so.
  const charged = doc.charging === undefined && doc.goals.chargedFrom !== undefined;
  if (!charged || (minAir >= minCharge && maxAir <= maxCharge)) return [];
  const cold = minAir < minCharge;
  const [there, limit] = cold ? [minAir, minCharge] : [maxAir, maxCharge];
  return [
    {
      id: 'charge-air:cells',
      place: 'charge',
      severity: 'note',
      element: 'cells',
      title: `Its cells may be charged ${cold ? 'from' : 'up to'} ${C(limit)}; its air goes to ${C(there)}`,
      reason: cold
        ? 'Below that, lithium plates out as metal: the cell loses charge for good and can short inside. Its charger must wait until the cells are warmer.'
        : 'Above that they age fast and can vent. Its charger must wait until the cells are cooler.',
    },
  ];
}

/** The cells' own limits of temperature against the air, and what they warm themselves by. */
export function warmth(c: CheckContext): Said[] {
  const { doc, run } = c;
  const { minAir, air, maxAir, daily } = surroundingsOf(doc);
  const { minDischarge = -Infinity, maxDischarge = Infinity } = doc.pack.cell.temperature ?? {};
  const found: Said[] = [...coldStart(c), ...coldCharge(doc)];
  const most = run.warmth?.most;
  // What the day brings is not theirs.
  const rise = most ? Math.max(0, most.celsius - air - (daily?.swing ?? 0)) : 0;
  if (minAir < minDischarge) {
    found.push({
      id: 'cold:cells',
      severity: 'fails',
      element: 'cells',
      title: `${C(minAir)} is colder than its cells may be discharged, ${C(minDischarge)}`,
      reason: `Below ${C(minDischarge)} their resistance is several times that at 25 °C and their maker promises nothing. Keep them warmer than the air, or choose cells for the cold.`,
      excess: 1 + (minDischarge - minAir) / 10,
    });
  }
  const hottest = maxAir + rise;
  if (hottest > maxDischarge) {
    const own =
      rise > 0 ? ` in air of ${C(maxAir)}, ${formatQuantity(rise, 'K', 2)} of it their own heat` : '';
    found.push({
      id: 'hot:cells',
      severity: 'danger',
      element: 'cells',
      title: `Its cells come to ${C(hottest)}; they may be discharged up to ${C(maxDischarge)}`,
      reason: `They stand at ${C(hottest)}${own}. Hotter cells age fast and can vent. Heed the maker’s data sheet: give them air, more cells in parallel, or a cooler place.`,
      excess: 1 + (hottest - maxDischarge) / 10,
      ...(most && rise > 0 ? { from: most.time } : {}),
    });
  } else if (rise > WARM) {
    found.push({
      id: 'self-heat:cells',
      severity: 'note',
      element: 'cells',
      title: `Its cells warm themselves by ${formatQuantity(rise, 'K', 2)}`,
      reason: `What they lose inside takes them from ${C(air)} to ${C(most!.celsius)}.`,
      from: most!.time,
    });
  }
  return found;
}
