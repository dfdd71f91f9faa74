import { surroundingsOf } from '../../model/thread.ts';
import { formatDuration } from '../../units/formatQuantity.ts';
import type { Finding } from '../finding.ts';
import { A, C, type ChargeContext } from './context.ts';

/** [°C] between which lithium cells are charged where their record says nothing. Common practice, no source. */
const COLDEST = 0;
const WARMEST = 45;

/** Whether cells and board suit being charged. */
export function cells(c: ChargeContext): Finding[] {
  return [...air(c), ...balance(c), ...board(c)];
}

function air({ doc, charging }: ChargeContext): Finding[] {
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

/** Groups in series that nothing keeps even. */
function balance({ doc, charging }: ChargeContext): Finding[] {
  const { series, protection, groups, cell, parallel } = doc.pack;
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
  if (!groups) return [];
  const missing = Array.from({ length: series }, (_, k) => {
    const { capacity = 1, startSoc = doc.pack.startSoc } = groups[k] ?? {};
    return (1 - startSoc) * capacity * cell.capacityAh * parallel;
  });
  const spread = Math.max(...missing) - Math.min(...missing);
  const hours = spread / bleed;
  if (hours < 1) return [];
  return [
    {
      id: 'slow-balance:protection',
      severity: hours > 24 ? 'tight' : 'note',
      element: 'protection',
      title: `Its board takes ${formatDuration(hours)} to bring the groups even`,
      reason: `They are ${Number((1000 * spread).toPrecision(2))} mAh apart and it bleeds ${A(bleed)}, and only while a group is nearly full.`,
    },
  ];
}

function board({ doc }: ChargeContext): Finding[] {
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
