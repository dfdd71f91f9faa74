import { surroundingsOf } from '../model/thread.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Finding } from './finding.ts';

/** [K] by which cells that warm themselves are worth a word. Common practice, no source. */
const WARM = 10;

const C = (celsius: number) => formatQuantity(celsius, '°C', 3);

/** The cells' own limits of temperature against the air, and what they warm themselves by. */
export function warmth({ doc, run }: CheckContext): Finding[] {
  const { minAir, air, maxAir } = surroundingsOf(doc);
  const { minDischarge = -Infinity, maxDischarge = Infinity } = doc.pack.cell.temperature ?? {};
  const found: Finding[] = [];
  const most = run.warmth?.most;
  const rise = most ? Math.max(0, most.celsius - air) : 0;
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
