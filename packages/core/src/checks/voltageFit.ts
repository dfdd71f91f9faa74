import { isRegulated, STAGE_KINDS, type Stage } from '../model/kinds/registry.ts';
import type { Load } from '../model/load.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { AtVolts, fedBy, packWhenFull } from '../sizing/held.ts';
import { simplestWay } from '../sizing/reach.ts';
import { neededInput, passesInput } from '../stages/traits.ts';
import { formatApart, formatQuantity } from '../units/formatQuantity.ts';
import { causeAt, endPackVolts, feedsDirect, highestInput, type CheckContext } from './context.ts';
import { cellGuard } from './cellGuard.ts';
import { chatters } from './chatters.ts';
import type { Action, Said } from './finding.ts';
import { kindWord } from './offer.ts';

const V = (v: number) => formatQuantity(v, 'V');

/** Relative room in comparisons with limits that equal a set point. */
const SLACK = 1e-9;

/** Volts that do not fit: loads over or under their range, stages outside the inputs they can work from. */
export function voltageFit(c: CheckContext): Said[] {
  // Causes before what follows from them: findings of equal weight keep this order.
  return [...stageInputs(c), ...noHeadroom(c), ...passThrough(c), ...cellGuard(c), ...loadsOutOfRange(c)];
}

/** Swap a stage for the simplest kind that holds what hangs on it. */
function toAnother(c: CheckContext, index: number): { action: Action } | Record<string, never> {
  const old = c.doc.stages[index]!;
  const but = ['direct', old.kind] as const;
  const way = simplestWay(c.doc, old.id, but) ?? simplestWay(standsWhatIsSet(c.doc, old), old.id, but);
  return way ? { action: { label: `Swap ${old.name} for a ${kindWord(way.kind)}`, edits: way.edits } } : {};
}

/** Share of set volts within which they count as held. */
const HELD_WITHIN = 0.05;

/** The thread with loads that stand what a stage is set to: where they do not, it is asked what holds at least that. */
function standsWhatIsSet(doc: ThreadDocument, stage: Stage): ThreadDocument {
  if (!isRegulated(stage)) return doc;
  const range = {
    min: stage.outputVolts * (1 - HELD_WITHIN),
    max: stage.outputVolts * (1 + HELD_WITHIN),
  };
  return { ...doc, loads: doc.loads.map((l) => (l.from === stage.id ? { ...l, range } : l)) };
}

function loadsOutOfRange(c: CheckContext): Said[] {
  const found: Said[] = [];
  // A load sees the volts of a full pack as long as nothing is drawn, whatever they sag to then.
  const open = new AtVolts(c.doc).open();
  c.doc.loads.forEach((load, l) => {
    const intervals = c.run.loadRanges[load.id] ?? [];
    const high = intervals.find((i) => i.state === 'high');
    const low = intervals.find((i) => i.state === 'low');
    const volts = c.reading.extremes(c.reading.load(l, 'volts'));
    const direct = feedsDirect(c.doc, load.from);
    const most = Math.max(open[l]!, high ? volts.most : 0);
    if (high || most > load.range.max * (1 + SLACK)) {
      const from = high?.from ?? 0;
      const passing = causeAt(c, load.from, from);
      const [gets, stands] = formatApart(most, load.range.max, 'V');
      found.push({
        id: `over-volts:${load.id}`,
        severity: 'danger',
        element: load.id,
        title: `${load.name} gets up to ${gets}, more than the ${stands} it stands`,
        reason: direct
          ? `The full pack stands at ${V(packWhenFull(c.doc))}${high ? '' : ' before anything is drawn'} and reaches the load unregulated.`
          : passing?.mode === 'passThrough'
            ? `${passing.stage.name} ${passing.cause} and cannot step it down; a stage that can would hold the rail.`
            : `Its rail stands above the load's range; set the stage lower or choose one that holds it.`,
        from,
        excess: most / load.range.max,
        ...(direct ? insertStage(c, load) : {}),
      });
    }
    if (low && low.from < c.run.usefulEnd.time * (1 + SLACK) + SLACK) {
      const early = low.from < c.needed * (1 - SLACK);
      const cause = causeAt(c, load.from, low.from);
      found.push({
        id: `under-volts:${load.id}`,
        tried: true,
        severity: early && load.essential ? 'fails' : 'note',
        element: load.id,
        title: `${load.name} gets less than ${V(load.range.min)}`,
        reason: cause
          ? `${cause.stage.name} ${cause.cause} there.`
          : `The pack has sagged to ${V(c.run.usefulEnd.load?.volts ?? volts.least)} by then.`,
        from: low.from,
        ...(early && direct ? insertStage(c, load) : {}),
      });
    }
  });
  return found;
}

/** Put the simplest stage that holds it, set to the middle of its range, between a load and where it hangs. */
function insertStage(c: CheckContext, { id, name }: Load): { action: Action } | Record<string, never> {
  const way = simplestWay(c.doc, id, ['direct']);
  return way ? { action: { label: `Put a ${kindWord(way.kind)} before ${name}`, edits: way.edits } } : {};
}

/** Share of a stage's highest input from which little room is left: ringing doubles a step for a moment. */
const INPUT_SHARE = 0.9;

function stageInputs(c: CheckContext): Said[] {
  return c.doc.stages.flatMap((stage, k) => [
    ...overInput(c, stage, k),
    ...locksOut(c, stage, k),
    ...chatters(c, stage),
  ]);
}

function overInput(c: CheckContext, stage: Stage, k: number): Said[] {
  const { maxInput } = c.limits[k]!;
  const most = highestInput(c.doc, stage.from);
  if (!(most > INPUT_SHARE * maxInput)) return [];
  const over = most > maxInput * (1 + SLACK);
  return [
    {
      id: `input-maximum:${stage.id}`,
      severity: over ? 'danger' : 'tight',
      element: stage.id,
      title: over
        ? `${stage.name} sees up to ${V(most)}, over its ${V(maxInput)} maximum`
        : `${stage.name} sees up to ${V(most)} of the ${V(maxInput)} it stands`,
      reason: over
        ? 'A freshly charged pack can destroy it the moment it is connected.'
        : 'Ringing of long leads at plug-in can double a step for a moment; little room is left for it.',
      excess: most / maxInput,
    },
  ];
}

function locksOut(c: CheckContext, stage: Stage, k: number): Said[] {
  const { minInput } = c.limits[k]!;
  const locked = c.run.stageModes[stage.id]?.find((m) => m.mode === 'lockedOut');
  const much = c.run.leftBehind > 0.05 * c.run.ledger.stored;
  if (!isRegulated(stage) || !locked || !(locked.from < c.needed) || !much) return [];
  const left = formatQuantity(c.run.leftBehind / 3600, 'Wh');
  return [
    {
      id: `lock-out:${stage.id}`,
      severity: 'fails',
      element: stage.id,
      title: `${stage.name} locks out below ${V(minInput)} with ${left} left in the cells`,
      reason: `The cells may be emptied to ${V(endPackVolts(c.doc))}; a stage that works from lower would use the rest.`,
      from: locked.from,
    },
  ];
}

function noHeadroom(c: CheckContext): Said[] {
  return c.doc.stages.flatMap((stage, k): Said[] => {
    if (!isRegulated(stage)) return [];
    const dropout = c.run.stageModes[stage.id]?.find((m) => m.mode === 'dropout');
    if (!dropout || dropout.from > Math.max(c.run.usefulEnd.time, c.needed)) return [];
    const needs = neededInput(stage, c.reading.stageReading(c.reading.rowAt(dropout.from), k).outputAmps);
    const why =
      needs === undefined
        ? `It cannot step its input up that far at its largest duty; from here on its output follows the input down.`
        : `To hold ${V(stage.outputVolts)} it needs ${V(needs)} at its input; from here on it gets less and its output follows the input down.`;
    // What hangs on it decides: a rail that sags within what its loads stand is held.
    const until = Math.max(c.run.usefulEnd.time, c.needed);
    if (!lacks(c, stage.id, until)) {
      return [
        {
          id: `headroom:${stage.id}`,
          severity: 'note',
          element: stage.id,
          title: `${stage.name} has no headroom left; what hangs on it still gets enough`,
          reason: why,
          from: dropout.from,
        },
      ];
    }
    return [
      {
        id: `headroom:${stage.id}`,
        tried: true,
        severity: dropout.from < c.needed ? 'fails' : 'tight',
        element: stage.id,
        title: `${stage.name} runs out of headroom`,
        reason: why,
        from: dropout.from,
        ...(needs === undefined ? {} : toAnother(c, k)),
      },
    ];
  });
}

/** Whether a load that a stage feeds, or one below it, gets too little before a time [s]. */
function lacks({ doc, run }: CheckContext, id: string, until: number): boolean {
  const { loads } = fedBy(doc, id);
  return loads.some((l) =>
    run.loadRanges[doc.loads[l]!.id]?.some((i) => i.state === 'low' && i.from <= until * (1 + SLACK)),
  );
}

function passThrough(c: CheckContext): Said[] {
  return c.doc.stages.flatMap((stage, k): Said[] => {
    const through = passesInput(stage);
    if (!isRegulated(stage) || !through) return [];
    const passing = c.run.stageModes[stage.id]?.find((m) => m.mode === 'passThrough');
    const input = highestInput(c.doc, stage.from);
    const most = input - through.volts;
    if (!passing && most <= stage.outputVolts) return [];
    const volts = Math.max(c.reading.extremes(c.reading.stage(k, 'outputVolts')).most, stage.outputVolts);
    const passes = passing
      ? `gives up to ${V(Math.max(volts, most))}`
      : `can give up to ${V(most)} at light load`;
    // What hangs on it may stand what comes: then a boost is as good as a stage for both ways.
    const stands = Math.min(
      ...c.doc.loads.flatMap((l) => (l.from === stage.id ? [l.range.max] : [])),
      ...c.doc.stages.flatMap((s) => (s.from === stage.id ? [s.maxInput] : [])),
    );
    const stood = stands < Infinity && Math.max(volts, most) <= stands * (1 + SLACK);
    return [
      {
        id: `pass-through:${stage.id}`,
        severity: stood ? 'note' : 'fails',
        element: stage.id,
        title: `${stage.name} is a ${STAGE_KINDS[stage.kind].label.toLowerCase()} fed from above its output: it ${passes}, not ${V(stage.outputVolts)}`,
        reason: `It cannot step down: up to ${V(input)} at its input runs through inductor and rectifier to the output.${stood ? ` What hangs on it stands ${V(stands)}.` : ''}`,
        ...(passing ? { from: passing.from } : {}),
        ...(stood ? {} : { excess: most / stage.outputVolts }),
        ...toAnother(c, k),
      },
    ];
  });
}
