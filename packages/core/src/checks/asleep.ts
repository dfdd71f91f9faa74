import { lawIn } from '../loads/draws.ts';
import type { Edit } from '../model/edit.ts';
import { isRegulated, type Stage } from '../model/kinds/registry.ts';
import { fullAtRest } from '../model/pack.ts';
import { cycleSeconds, modeName } from '../model/programme.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { idleDraw } from '../run/idle.ts';
import { formatDuration, formatQuantity, formatShelf } from '../units/formatQuantity.ts';
import { nameOf, type CheckContext } from './context.ts';
import type { Action, Said } from './finding.ts';

/** What is drawn while the thread waits for its work. */
export function asleep(c: CheckContext): Said[] {
  return [...waits(c), ...lightLoad(c)];
}

/** Whether it waits as long as it must in the mode it waits in, and what takes most of the charge meanwhile. */
function waits(c: CheckContext): Said[] {
  const { wait } = c.doc.goals;
  if (!wait) return [];
  const idle = idleDraw(c.plant(), wait.mode);
  if (idle.hoursToEnd >= wait.hours) return [];
  const mode = modeName(c.doc, wait.mode);
  const first = idle.items[0];
  const most = first
    ? ` Most of it, ${formatQuantity(first.amps, 'A')}, is ${nameOf(c.doc, first.element)}.`
    : '';
  const stage = c.doc.stages.find((s) => s.id === first?.element);
  return [
    {
      id: 'waits:cells',
      place: 'needs',
      tried: true,
      severity: 'fails',
      element: 'cells',
      title: `It waits ${formatShelf(idle.hoursToEnd)} in ${mode}; ${formatDuration(wait.hours)} are wanted`,
      reason: `${formatQuantity(idle.amps, 'A')} flow in ${mode}.${most}`,
      excess: wait.hours / Math.max(idle.hoursToEnd, 1e-9),
      ...(stage && isOffIn(c.doc, stage, wait.mode) ? shutDown(stage) : {}),
    },
  ];
}

/** Share of the time from which a mode counts, and the power below which nothing does. */
const LONG = 0.2;
const LITTLE = 1e-4;

/** A stage that takes more for itself than it gives, for most of the time. */
function lightLoad(c: CheckContext): Said[] {
  const { programme, modes = [] } = c.doc;
  if (!programme) return [];
  const whole = cycleSeconds(programme);
  const volts = fullAtRest(c.doc.pack);
  const seen = new Set<string>();
  return modes.flatMap(({ id, name }): Said[] => {
    const share = programme.segments.reduce((sum, s) => sum + (s.mode === id ? s.seconds : 0), 0) / whole;
    if (share < LONG) return [];
    const { items } = idleDraw(c.plant(), id);
    return c.doc.stages.flatMap((stage): Said[] => {
      const own = (items.find((i) => i.element === stage.id)?.amps ?? 0) * volts;
      const gives = items
        .filter((i) => feeds(c.doc, stage.id, i.element))
        .reduce((sum, i) => sum + i.amps * volts, 0);
      if (!isRegulated(stage) || seen.has(stage.id) || !(own > gives) || own < LITTLE) return [];
      // What hangs on it stage by stage may have its own finding; a load of nothing is the plainer case.
      seen.add(stage.id);
      const off = isOffIn(c.doc, stage, id);
      return [
        {
          id: `light-load:${stage.id}`,
          severity: 'note',
          element: stage.id,
          title: `In ${name}, ${Math.round(100 * share)} % of the time, ${stage.name} takes ${formatQuantity(own, 'W')} for itself`,
          reason: off
            ? `Nothing draws from it then. Shut down with its loads it would take next to nothing.`
            : `It gives ${formatQuantity(gives, 'W')} then. A stage with less quiescent draw, or a linear one for that little, wastes less.`,
          excess: own / Math.max(gives, 1e-9),
          ...(off ? shutDown(stage) : {}),
        },
      ];
    });
  });
}

function feeds(doc: ThreadDocument, stage: string, element: string): boolean {
  let at = doc.loads.find((l) => l.id === element)?.from;
  while (at !== undefined) {
    if (at === stage) return true;
    at = doc.stages.find((s) => s.id === at)?.from;
  }
  return false;
}

/** Whether nothing below a stage draws in a mode. */
function isOffIn(doc: ThreadDocument, stage: Stage, mode: string): boolean {
  return doc.loads.every(
    (l) => !feeds(doc, stage.id, l.id) || lawIn(l, mode).factor === 0 || l[l.draw] === 0,
  );
}

/** [A] a stage takes when shut down, as a rule. Common practice, no source. */
const USUAL_SHUTDOWN = 1e-6;

function shutDown(stage: Stage): { action: Action } | Record<string, never> {
  if (!isRegulated(stage) || stage.shutdownCurrent !== undefined) return {};
  const edits: Edit[] = [{ op: 'add', path: ['stages', stage.id, 'shutdownCurrent'], value: USUAL_SHUTDOWN }];
  return { action: { label: `Shut ${stage.name} down with its loads`, edits } };
}
