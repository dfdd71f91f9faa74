import { STAGE_KINDS, swapKind, isRegulated, type Stage } from '../model/kinds/registry.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import { endPackVolts, fullPackVolts, highestInput, type CheckContext } from './context.ts';
import type { Action, Finding } from './finding.ts';

const V = (v: number) => formatQuantity(v, 'V');

/** Volts that do not fit: loads over or under their range, stages outside the inputs they can work from. */
export function voltageFit(c: CheckContext): Finding[] {
  // Causes before what follows from them: findings of equal weight keep this order.
  return [...stageInputs(c), ...noHeadroom(c), ...passThrough(c), ...cellGuard(c), ...loadsOutOfRange(c)];
}

/** Swap a stage for a buck-boost, which holds its output from above and from below. */
function toBuckBoost(c: CheckContext, index: number): Action {
  const old = c.doc.stages[index]!;
  const value = swapKind(old, 'buckBoost', isRegulated(old) ? old.outputVolts : 5);
  return {
    label: `Swap ${old.name} for a buck-boost`,
    edits: [{ op: 'replace', path: ['stages', index], value }],
  };
}

function loadsOutOfRange(c: CheckContext): Finding[] {
  const found: Finding[] = [];
  c.doc.loads.forEach((load, k) => {
    const intervals = c.run.loadRanges[load.id] ?? [];
    const high = intervals.find((i) => i.state === 'high');
    const low = intervals.find((i) => i.state === 'low');
    const volts = c.extremes(c.column.load(c.doc.stages.length, k, 'volts'));
    if (high) {
      found.push({
        id: `over-volts:${load.id}`,
        severity: 'danger',
        element: load.id,
        title: `${load.name} gets up to ${V(volts.most)}, more than the ${V(load.range.max)} it stands`,
        reason: feedsDirect(c, load.from)
          ? `The full pack stands at ${V(fullPackVolts(c.doc))} and reaches the load unregulated.`
          : `Its rail rises above the load's range; set the stage lower or choose one that holds it.`,
        from: high.from,
        ...(feedsDirect(c, load.from) ? { action: insertBuckBoost(c, k) } : {}),
      });
    }
    if (low && low.from < c.run.usefulEnd.time * (1 + 1e-9) + 1e-9) {
      const early = low.from < c.doc.need.hours * 3600 * (1 - 1e-9);
      const cause = causeOf(c, load.from, low.from);
      found.push({
        id: `under-volts:${load.id}`,
        severity: early && load.essential ? 'fails' : 'note',
        element: load.id,
        title: `${load.name} gets less than ${V(load.range.min)}`,
        reason: cause ?? `The pack has sagged to ${V(c.run.usefulEnd.load?.volts ?? volts.least)} by then.`,
        from: low.from,
        ...(early && feedsDirect(c, load.from) ? { action: insertBuckBoost(c, k) } : {}),
      });
    }
  });
  return found;
}

const MODE_WORDS: Record<string, string> = {
  dropout: 'is at its maximum duty or out of headroom',
  currentLimit: 'is at its current limit',
  lockedOut: 'locks out for low input volts',
  overInput: 'is above its highest input',
  collapsed: 'collapses under the load',
  passThrough: 'passes its input through',
};

/** Which stage on the way from the pack gives up first at an instant, and how. @param time [s] */
function causeOf(c: CheckContext, from: string, time: number): string | undefined {
  const stage = c.doc.stages.find((s) => s.id === from);
  if (!stage) return undefined;
  const above = causeOf(c, stage.from, time);
  if (above) return above;
  const now = c.run.stageModes[stage.id]?.findLast((m) => m.from <= time * (1 + 1e-9));
  const words = now && MODE_WORDS[now.mode];
  return words && `${stage.name} ${words} there.`;
}

function feedsDirect(c: CheckContext, from: string): boolean {
  const stage = c.doc.stages.find((s) => s.id === from);
  return !stage || (stage.kind === 'direct' && feedsDirect(c, stage.from));
}

/** Put a buck-boost, set to the middle of the load's range, between a load and where it hangs. */
function insertBuckBoost(c: CheckContext, k: number): Action {
  const load = c.doc.loads[k]!;
  const taken = new Set([...c.doc.stages, ...c.doc.loads].map((x) => x.id));
  let n = 1;
  while (taken.has(`stage-${n}`)) n++;
  const volts = Number(((load.range.min + load.range.max) / 2).toPrecision(3));
  const stage = STAGE_KINDS.buckBoost.create(`stage-${n}`, load.from, volts);
  return {
    label: `Put a buck-boost before ${load.name}`,
    edits: [
      { op: 'add', path: ['stages', c.doc.stages.length], value: stage },
      { op: 'replace', path: ['loads', k, 'from'], value: stage.id },
    ],
  };
}

function stageInputs(c: CheckContext): Finding[] {
  const found: Finding[] = [];
  c.doc.stages.forEach((stage, k) => {
    const { minInput, maxInput } = c.limits[k]!;
    const most = highestInput(c.doc, stage.from);
    if (most > maxInput * (1 + 1e-9)) {
      found.push({
        id: `input-maximum:${stage.id}`,
        severity: 'danger',
        element: stage.id,
        title: `${stage.name} sees up to ${V(most)}, over its ${V(maxInput)} maximum`,
        reason: 'A freshly charged pack can destroy it the moment it is connected.',
      });
    } else if (most > 0.9 * maxInput) {
      found.push({
        id: `input-maximum:${stage.id}`,
        severity: 'tight',
        element: stage.id,
        title: `${stage.name} sees up to ${V(most)} of the ${V(maxInput)} it stands`,
        reason:
          'Ringing of long leads at plug-in can double a step for a moment; little room is left for it.',
      });
    }
    const locked = c.run.stageModes[stage.id]?.find((m) => m.mode === 'lockedOut');
    const soon = locked && locked.from < c.doc.need.hours * 3600;
    if (isRegulated(stage) && soon && c.run.leftBehind > 0.05 * c.run.ledger.stored) {
      const left = formatQuantity(c.run.leftBehind / 3600, 'Wh');
      found.push({
        id: `lock-out:${stage.id}`,
        severity: 'fails',
        element: stage.id,
        title: `${stage.name} locks out below ${V(minInput)} with ${left} left in the cells`,
        reason: `The cells may be emptied to ${V(endPackVolts(c.doc))}; a stage that works from lower would use the rest.`,
        from: locked.from,
      });
    }
  });
  for (const { stage, time } of c.run.cycling) {
    const name = c.doc.stages.find((s) => s.id === stage)!.name;
    found.push({
      id: `cycling:${stage}`,
      severity: 'tight',
      element: stage,
      title: `${name} would switch on and off again and again`,
      reason:
        'When it locks out the pack recovers past its restart volts, it starts, and the pack sags again. More hysteresis or less resistance stops it.',
      from: time,
    });
  }
  return found;
}

function noHeadroom(c: CheckContext): Finding[] {
  const found: Finding[] = [];
  c.doc.stages.forEach((stage, k) => {
    if (stage.kind !== 'buck' && stage.kind !== 'linear') return;
    const dropout = c.run.stageModes[stage.id]?.find((m) => m.mode === 'dropout');
    if (!dropout || dropout.from > Math.max(c.run.usefulEnd.time, c.doc.need.hours * 3600)) return;
    const needs = neededInput(stage, c.extremes(c.column.stage(k, 'outputAmps')).most);
    found.push({
      id: `headroom:${stage.id}`,
      severity: dropout.from < c.doc.need.hours * 3600 ? 'fails' : 'tight',
      element: stage.id,
      title: `${stage.name} runs out of headroom`,
      reason: `To hold ${V(stage.outputVolts)} it needs ${V(needs)} at its input; from here on it gets less and its output follows the input down.`,
      from: dropout.from,
      action: toBuckBoost(c, k),
    });
  });
  return found;
}

function neededInput(stage: Extract<Stage, { kind: 'buck' | 'linear' }>, amps: number): number {
  return stage.kind === 'buck'
    ? (stage.outputVolts + stage.dropoutResistance * amps) / stage.maxDuty
    : stage.outputVolts + stage.dropoutVolts + stage.dropoutResistance * amps;
}

function passThrough(c: CheckContext): Finding[] {
  const found: Finding[] = [];
  c.doc.stages.forEach((stage, k) => {
    if (stage.kind !== 'boost') return;
    const passing = c.run.stageModes[stage.id]?.find((m) => m.mode === 'passThrough');
    const most = highestInput(c.doc, stage.from) - stage.rectifierVolts;
    if (!passing && most <= stage.outputVolts) return;
    const volts = Math.max(c.extremes(c.column.stage(k, 'outputVolts')).most, stage.outputVolts);
    const passes = passing
      ? `gives up to ${V(Math.max(volts, most))}`
      : `can give up to ${V(most)} at light load`;
    found.push({
      id: `pass-through:${stage.id}`,
      severity: 'fails',
      element: stage.id,
      title: `${stage.name} is a boost fed from above its output: it ${passes}, not ${V(stage.outputVolts)}`,
      reason: `A boost cannot step down: up to ${V(highestInput(c.doc, stage.from))} at its input runs through inductor and rectifier to the output.`,
      ...(passing ? { from: passing.from } : {}),
      action: toBuckBoost(c, k),
    });
  });
  return found;
}

/** Common practice, no source: many boards open at 2.4 to 2.75 V per lithium-ion cell. */
function cellGuard(c: CheckContext): Finding[] {
  const { cell, protection } = c.doc.pack;
  const add = (cutoffVolts: number): Action => ({
    label: `Add protection that opens at ${V(cutoffVolts)}`,
    edits: [
      {
        op: 'add',
        path: ['pack', 'protection'],
        value: {
          cutoffVolts,
          tripCurrent: Number((2.5 * Math.max(c.extremes(c.column.packAmps).most, 0.4)).toPrecision(2)),
          resistance: 0.03,
          quiescentCurrent: 5e-6,
          grade: 'assumed',
        },
      },
    ],
  });
  if (!protection) {
    return [
      {
        id: 'no-protection:cells',
        severity: 'danger',
        element: 'cells',
        title: 'Nothing stops the cells from being over-discharged',
        reason: `Without protection the run goes on below ${V(cell.endVolts)} a cell; below ${V(cell.damageVolts)} copper dissolves and charging them again is a hazard.`,
        action: add(Math.max(cell.damageVolts, Number((cell.endVolts - 0.1).toFixed(2)))),
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
        reason: 'By the time it opens the weakest cell is already spoiled.',
        action: {
          label: `Set the cut-off to ${V(cell.endVolts)}`,
          edits: [{ op: 'replace', path: ['pack', 'protection', 'cutoffVolts'], value: cell.endVolts }],
        },
      },
    ];
  }
  if (protection.cutoffVolts < cell.endVolts - 0.3) {
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
