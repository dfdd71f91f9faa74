import { isRegulated, STAGE_KINDS } from '../../model/kinds/registry.ts';
import { PACK } from '../../model/thread.ts';
import { cellTable } from '../../plant/cellTable.ts';
import { limitsOf } from '../../stages/limits.ts';
import type { Said } from '../finding.ts';
import { offerNumber } from '../offer.ts';
import { A, V, type ChargeContext } from './context.ts';

/** [V] of one cell within which two guards count as one. Common practice, no source. */
const APART = 0.08;
/** Kinds that work from less than they give, and so on to the last of a pack. */
const UPWARDS = new Set(['boost', 'buckBoost', 'sepic']);

/** What guards the cells against being emptied too far, and what putting them in can do. */
export function guards(c: ChargeContext): Said[] {
  return [...emptied(c), ...worksBelow(c), ...twice(c), ...reversed(c)];
}

/** Cells that begin below where they end. */
function emptied({ doc, charging }: ChargeContext): Said[] {
  const { cell } = doc.pack;
  const { restVolts, control } = charging;
  if (restVolts === undefined || restVolts >= cell.endVolts) return [];
  if (restVolts < cell.damageVolts) {
    return [
      {
        id: 'emptied:cells',
        severity: 'danger',
        element: 'cells',
        title: `Cells that rest at ${V(restVolts)} are below the ${V(cell.damageVolts)} that spoils them`,
        reason:
          'Copper has gone into solution and may come out as bridges within. Do not charge them: they go to where cells are taken back.',
        excess: cell.damageVolts / restVolts,
      },
    ];
  }
  if (!control || control.precharge || restVolts >= cellTable(cell).ocv(0)) return [];
  return [
    {
      id: 'emptied:cells',
      severity: 'fails',
      element: 'charger',
      title: `Cells at ${V(restVolts)} are filled with ${A(control.current)} at once`,
      reason: 'So empty they want a tenth of that until they have come up, or they are not worth trusting.',
      action: {
        label: 'Fill them gently at first',
        edits: [
          {
            op: 'add',
            path: ['charging', 'control', 'precharge'],
            value: {
              below: cell.endVolts,
              current: Number((control.current / 10).toPrecision(2)),
              timer: 1,
            },
          },
        ],
      },
    },
  ];
}

/** A stage on the pack that goes on below the cells' end, where no board opens before. */
function worksBelow({ doc }: ChargeContext): Said[] {
  const { series, cell, protection } = doc.pack;
  const guarded = protection !== undefined && protection.cutoffVolts >= cell.damageVolts;
  return doc.stages.flatMap((stage): Said[] => {
    if (stage.from !== PACK || !isRegulated(stage) || !UPWARDS.has(stage.kind)) return [];
    const down = limitsOf(stage).minInput / series;
    if (down >= cell.endVolts - APART) return [];
    return [
      {
        id: `works-below:${stage.id}`,
        severity: guarded ? 'note' : 'fails',
        element: stage.id,
        title: `${stage.name} works down to ${V(down)} a cell, below its end of ${V(cell.endVolts)}`,
        reason: guarded
          ? `Its board opens first, at ${V(protection.cutoffVolts)}; a lock-out of the stage itself would spare the pack the wait for a charger.`
          : 'It takes more the lower they are, and nothing keeps them from being emptied before they are charged again.',
        ...offerNumber(
          STAGE_KINDS[stage.kind].model,
          ['stages', stage.id, 'minInput'],
          Number((series * cell.endVolts).toPrecision(3)),
          `Lock it out at ${V(series * cell.endVolts)}`,
        ),
      },
    ];
  });
}

/** Two guards at the same volts: which opens first is chance. */
function twice({ doc }: ChargeContext): Said[] {
  const { series, protection } = doc.pack;
  if (!protection || !(protection.releaseVolts !== undefined || protection.wakeUp)) return [];
  return doc.stages.flatMap((stage): Said[] => {
    if (stage.from !== PACK || !isRegulated(stage)) return [];
    const down = limitsOf(stage).minInput / series;
    if (Math.abs(down - protection.cutoffVolts) > APART) return [];
    return [
      {
        id: `two-guards:${stage.id}`,
        severity: 'note',
        element: 'protection',
        title: `Board and ${stage.name} both stop at ${V(protection.cutoffVolts)} a cell`,
        reason: `Which is first is chance. Where it is the board, ${protection.wakeUp ? 'nothing runs until a charger wakes it' : `nothing runs until the cells are back at ${V(protection.releaseVolts!)}`}: let the stage stop a tenth of a volt above.`,
      },
    ];
  });
}

/** A holder into which a cell goes either way round. */
function reversed({ doc }: ChargeContext): Said[] {
  const { holder, series, parallel } = doc.pack;
  if (holder !== 'open') return [];
  const others = series * parallel > 1;
  return [
    {
      id: 'reversed:cells',
      severity: 'danger',
      element: 'cells',
      title: 'A cell can be put into the holder the wrong way round',
      reason: `${others ? 'The others then drive a current through it backwards' : 'The charger and every stage then see its volts backwards'}: it may vent. Mark the holder, key it, or add a transistor that blocks a reversed cell.`,
      action: {
        label: 'It is marked and keyed',
        edits: [{ op: 'replace', path: ['pack', 'holder'], value: 'keyed' }],
      },
    },
  ];
}
