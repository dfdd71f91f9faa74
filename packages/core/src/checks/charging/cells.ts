import { againstFull } from '../../charging/volts.ts';
import { surroundingsOf } from '../../model/thread.ts';
import { SECONDS_PER_HOUR } from '../../units/constants.ts';
import { formatDuration, formatQuantity } from '../../units/formatQuantity.ts';
import type { Said } from '../finding.ts';
import { groupName } from '../groups.ts';
import { A, C, V, type ChargeContext } from './context.ts';

/** [°C] between which lithium cells are charged where their record says nothing. Common practice, no source. */
const COLDEST = 0;
const WARMEST = 45;

/** Whether cells and board suit being charged. */
export function cells(c: ChargeContext): Said[] {
  return [...air(c), ...highest(c), ...balance(c), ...board(c)];
}

function air({ doc, charging }: ChargeContext): Said[] {
  const { minAir, maxAir } = surroundingsOf(doc);
  const { minCharge = COLDEST, maxCharge = WARMEST } = doc.pack.cell.temperature ?? {};
  const { coldest = -Infinity, hottest = Infinity } = charging.control ?? {};
  const cold = minAir < minCharge && coldest < minCharge;
  const hot = maxAir > maxCharge && hottest > maxCharge;
  if (!cold && !hot) return [];
  const field = cold ? 'coldest' : 'hottest';
  const limit = cold ? minCharge : maxCharge;
  return [
    {
      id: 'charge-air:cells',
      severity: cold ? 'danger' : 'tight',
      element: 'cells',
      title: `Its air goes to ${C(cold ? minAir : maxAir)}; cells are charged ${cold ? 'from' : 'up to'} ${C(limit)}`,
      reason: cold
        ? `Charged in the cold they plate lithium: that can end in a fire later. A charger with a thermistor waits.`
        : `Charged in the heat they age fast.`,
      ...(charging.control
        ? {
            action: {
              label: `Stop it ${cold ? 'below' : 'above'} ${C(limit)}`,
              edits: [
                {
                  op: charging.control[field] === undefined ? ('add' as const) : ('replace' as const),
                  path: ['charging', 'control', field],
                  value: limit,
                },
              ],
            },
          }
        : {}),
    },
  ];
}

/** The group that stands highest when the charge ends: a charger sees their sum alone. */
function highest({ doc, result }: ChargeContext): Said[] {
  const { fullVolts } = doc.pack.cell;
  if (!result.groups) return [];
  const { volts, fullest } = result.groups;
  const most = volts[fullest]!;
  const over = most - fullVolts;
  // Meters and boards see no less.
  if (over < SEEN) return [];
  return [
    {
      id: 'group-over:cells',
      severity: againstFull(most, fullVolts) === 'danger' ? 'danger' : 'tight',
      element: 'cells',
      title: `The highest, ${groupName(fullest)}, comes to ${V(most)}; its cells are full at ${V(fullVolts)}`,
      reason: `The charger holds the sum of all: where the others lag, it is ${formatQuantity(over, 'V', 2)} over. A board that stops on the highest group, or groups brought together one by one first, keep it from that.`,
      excess: most / fullVolts,
      from: result.end.time,
    },
  ];
}

/** [V] over full that counts. Common practice, no source. */
const SEEN = 5e-3;

/** Groups in series that nothing keeps even. */
function balance({ doc, charging, result, reached: volts }: ChargeContext): Said[] {
  const { series, protection, groups } = doc.pack;
  if (series < 2 || !charging.control) return [];
  const bleed = protection?.balanceCurrent ?? 0;
  if (!(bleed > 0)) {
    return [
      {
        id: 'no-balance:protection',
        severity: 'tight',
        element: 'protection',
        title: `Nothing keeps its ${series} groups even`,
        reason: `A charger sees their sum alone: one group may be over while the rest is not full. A board that balances, or a balance charge now and then, keeps them together.`,
      },
    ];
  }
  const stood = result.groups;
  const above = protection!.balanceVolts ?? doc.pack.cell.fullVolts;
  const reached = volts && volts / series;
  // Groups that are apart come to it before their mean does.
  if (reached !== undefined && reached < above && !stood?.bled.some((s) => s > 0)) {
    return [
      {
        id: 'never-balances:protection',
        severity: 'tight',
        element: 'protection',
        title: `Its board bleeds above ${V(above)} a cell; the charger stops at ${V(reached)}: it never balances`,
        reason: `What sets groups apart adds up from charge to charge. A board that begins below ${V(reached)}, or a balance charge now and then.`,
        excess: above / reached,
      },
    ];
  }
  if (!groups || !stood) return [];
  const { toEven = 0, bled, soc, fullest } = stood;
  const hours = toEven / SECONDS_PER_HOUR;
  const apart = Math.max(...soc) - Math.min(...soc);
  if (hours < 1 || apart < EVEN) return [];
  const most = Math.max(...bled) / SECONDS_PER_HOUR;
  return [
    {
      id: 'slow-balance:protection',
      severity: hours > 24 ? 'tight' : 'note',
      element: 'protection',
      title: `The groups are not even when the charge ends: ${Math.round(100 * apart)} % apart`,
      reason: `Its board would bleed ${A(bleed)} for ${formatDuration(hours)} to bring them together, and does so only while a group is nearly full: ${formatDuration(most)} in this charge. The fullest is ${groupName(fullest)}; with every charge they come closer.`,
    },
  ];
}

/** Share of the charge by which groups may differ and count as even. Common practice, no source. */
const EVEN = 0.01;

function board({ doc }: ChargeContext): Said[] {
  const { protection } = doc.pack;
  if (protection?.wakeUp !== true) return [];
  return [
    {
      id: 'charge-wakes:protection',
      severity: 'note',
      element: 'protection',
      title: 'Its board sleeps until a charger wakes it',
      reason:
        'New cells put in, or a cut-off, leave it open: plug the charger in once before anything runs. A charger that wants to see volts first may find none.',
    },
  ];
}
