import { cellTable } from '../plant/cellTable.ts';
import { meanOf, oddOf, Sharing, startOf } from '../plant/sharing.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Said } from './finding.ts';

const V = (volts: number) => formatQuantity(volts, 'V', 3);
/** Share of what was stored that groups must still hold for the weakest to be worth a word. Common practice, no source. */
const STRANDED = 0.02;

/** What a group is called: counted from the negative end. */
export function groupName(k: number): string {
  return `group ${k + 1}`;
}

/** Groups in series that differ, and cells side by side that do. */
export function groups(c: CheckContext): Said[] {
  return [...stranded(c), ...joined(c), ...uneven(c)];
}

/** Which group ends the run, and what it strands in the others. */
function stranded({ run, needed }: CheckContext): Said[] {
  const at = run.groups;
  if (!at || run.usefulEnd.load) return [];
  const { weakest, soc, volts, left } = at;
  const others = left.reduce((sum, j, k) => (k === weakest ? sum : sum + j), 0);
  const more = others / Math.max(1, left.length - 1) - left[weakest]!;
  if (!(more * left.length > STRANDED * run.ledger.stored)) return [];
  const fullest = soc.indexOf(Math.max(...soc));
  return [
    {
      id: 'weak-group:cells',
      severity: run.usefulEnd.time < needed ? 'fails' : 'note',
      element: 'cells',
      title: `Its weakest, ${groupName(weakest)}, ends the run with ${formatQuantity(others / 3600, 'Wh', 3)} left in the others`,
      reason: `It stands at ${V(volts[weakest]!)} a cell; ${groupName(fullest)} at ${V(volts[fullest]!)} with ${Math.round(100 * soc[fullest]!)} % of its charge. The same current flows through all: what the others hold beyond the weakest is never used. Match the groups, or charge them all to full.`,
      from: run.deadEnd.time,
    },
  ];
}

/** Cells joined at different charge: what flows at once from the fuller into the emptier. */
function joined({ doc }: CheckContext): Said[] {
  const { cell } = doc.pack;
  const odd = oddOf(doc.pack);
  if (!odd || odd.startSoc === odd.othersSoc) return [];
  const plain = new Sharing(cellTable(cell), odd, cell.capacityAh * SECONDS_PER_HOUR);
  const at = plain.at(startOf(odd), plain.start, 0);
  const into = Math.max(-at.odd / (cell.capacityAh * odd.capacity), -at.others / cell.capacityAh);
  const amps = Math.max(Math.abs(at.odd), Math.abs(at.others));
  const excess = into / cell.chargeRate;
  if (!(excess > 1)) return [];
  return [
    {
      id: 'joined:cells',
      severity: 'danger',
      element: 'cells',
      title: `Joined as charged as they are, ${formatQuantity(amps, 'A', 3)} flow from the fuller into the emptier at once`,
      reason: `They stand at ${Math.round(100 * doc.pack.startSoc)} % and ${Math.round(100 * odd.startSoc)} %. That is ${excess.toFixed(1)} times what a cell may be charged with. Bring them to the same volts before you join them, and heed the maker’s data sheet.`,
      excess,
    },
  ];
}

/** One of unlike cells carries more than its share: beyond what it is rated for. */
function uneven({ run, doc }: CheckContext): Said[] {
  const { cell } = doc.pack;
  const odd = oddOf(doc.pack);
  if (!odd) return [];
  const { sharing, worstCell } = run;
  const { resistance } = meanOf(odd);
  // As they share where nothing has yet brought them apart; followed where it was.
  const most = (amps: readonly number[] = [], factor: number) =>
    amps.reduce((largest, a) => Math.max(largest, a), worstCell.amps * factor);
  const oddAmps = most(sharing?.odd, resistance / odd.resistance);
  const othersAmps = most(sharing?.others, resistance);
  const rates = [oddAmps / (cell.capacityAh * odd.capacity), othersAmps / cell.capacityAh];
  const rate = Math.max(...rates);
  const which = rate === rates[0] ? 'An odd cell' : 'Each of the others';
  const excess = rate / cell.dischargeRate;
  const mean = worstCell.rate / cell.dischargeRate;
  // What the mean of all exceeds is told already.
  if (!(excess > 1) || mean > 1) return [];
  const amps = rate === rates[0] ? oddAmps : othersAmps;
  return [
    {
      id: 'uneven:cells',
      severity: 'danger',
      element: 'cells',
      title: `${which} gives up to ${formatQuantity(amps, 'A', 3)}, ${rate.toFixed(2)} C of its own; rated ${cell.dischargeRate} C`,
      reason: `Cells side by side share a current by their resistances and by how full they are, not evenly: the mean is ${formatQuantity(worstCell.amps, 'A', 3)}. Use cells that are alike, or more of them.`,
      excess,
    },
  ];
}
