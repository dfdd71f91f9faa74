import { MOST_SLICES, unfold, type Slice } from './cycle.ts';
import { issue, type Issue } from './issue.ts';
import type { Load } from './load.ts';
import { cycleSeconds } from './programme.ts';
import type { ThreadDocument } from './thread.ts';

/** Modes that are named, a programme that has them, peaks that have room in it. */
export function workIssues(doc: ThreadDocument): Issue[] {
  const { modes = [], programme, loads } = doc;
  const found: Issue[] = [];
  const known = new Set<string>();
  modes.forEach(({ id }, k) => {
    if (known.has(id)) found.push(issue('reference', `modes[${k}].id`, id, 'an id no other mode has'));
    known.add(id);
  });
  const check = (path: string, mode: string) => {
    if (!known.has(mode)) found.push(issue('reference', path, mode, 'the id of a mode of this thread'));
  };
  if (doc.goals.wait) check('goals.wait.mode', doc.goals.wait.mode);
  programme?.segments.forEach(({ mode }, k) => check(`programme.segments[${k}].mode`, mode));
  if (programme?.startsAt !== undefined && !(programme.startsAt < cycleSeconds(programme))) {
    const allowed = `less than the cycle lasts (${cycleSeconds(programme)} s); a plan over midnight is one cycle that starts later`;
    found.push(issue('range', 'programme.startsAt', programme.startsAt, allowed));
  }
  loads.forEach((load, l) => {
    const { draws = [], peaks = [] } = load;
    draws.forEach(({ mode, draw, value }, k) => {
      const path = `loads[${l}].draws[${k}]`;
      check(`${path}.mode`, mode);
      if (draws.findIndex((d) => d.mode === mode) < k) {
        found.push(issue('reference', `${path}.mode`, mode, 'each mode once'));
      }
      if ((draw ?? load.draw) === 'string') found.push(...dimmed(load, path, value));
    });
    peaks.forEach(({ mode }, k) => mode !== undefined && check(`loads[${l}].peaks[${k}].mode`, mode));
    found.push(...peaksAlone(load, `loads[${l}]`), ...relations(load, `loads[${l}]`));
  });
  // Whether peaks have room is asked only of a programme that makes sense.
  if (found.length === 0 && loads.some((l) => l.peaks?.length)) found.push(...room(doc));
  return found;
}

/** A string's draw in a mode is a share of its time. */
function dimmed({ string }: Load, path: string, value: number): Issue[] {
  if (value > 1) return [issue('range', `${path}.value`, value, 'a share of the time, from 0 to 1')];
  const allowed = 'a kind whose value the load has; a string needs its knee and slope';
  return string === undefined ? [issue('missing', `${path}.draw`, 'string', allowed)] : [];
}

function peaksAlone({ peaks = [], draw, string }: Load, of: string): Issue[] {
  return peaks.flatMap((peak, k) => {
    const path = `${of}.peaks[${k}]`;
    if ((peak.value === undefined) === (peak.factor === undefined)) {
      const given = peak.value === undefined ? undefined : `${peak.value} and ${peak.factor}`;
      return [issue('range', `${path}.value`, given, 'either a value or a factor')];
    }
    const kind = peak.draw ?? draw;
    if (peak.value !== undefined && kind === 'string' && string === undefined) {
      return [issue('missing', `${path}.draw`, kind, 'another kind: the load has no knee')];
    }
    if (peak.value === 0 && kind === 'resistance')
      return [issue('range', `${path}.value`, 0, 'more than 0 Ω')];
    if (peak.every !== undefined && !(peak.every > peak.seconds)) {
      return [issue('range', `${path}.every`, peak.every, `longer than the peak itself (${peak.seconds} s)`)];
    }
    return [];
  });
}

function relations({ below, restart, shed, essential }: Load, of: string): Issue[] {
  const found: Issue[] = [];
  if (below === 'resets' && !restart) {
    found.push(
      issue('missing', `${of}.restart`, undefined, 'how long it takes and what it draws, since it resets'),
    );
  }
  if (shed && essential) found.push(issue('range', `${of}.shed`, 'given', 'nothing, since it is essential'));
  return found;
}

/** Peaks longer than the stretch they begin in, and more of them than a cycle may have. */
function room(doc: ThreadDocument): Issue[] {
  const found: Issue[] = [];
  const said = new Set<string>();
  const slices: Slice[] = unfold(doc, MOST_SLICES, (load, peak, seconds) => {
    const path = `loads[${load}].peaks[${peak}].seconds`;
    if (said.has(path)) return;
    said.add(path);
    const given = doc.loads[load]!.peaks![peak]!.seconds;
    found.push(issue('range', path, given, `shorter than the stretch it begins in (${seconds} s)`));
  });
  if (slices.length > MOST_SLICES) {
    const at = doc.loads.findIndex((l) => l.peaks?.some((p) => p.every !== undefined));
    const k = doc.loads[at]?.peaks?.findIndex((p) => p.every !== undefined) ?? 0;
    const given = doc.loads[at]?.peaks?.[k]?.every;
    const allowed = `at most ${MOST_SLICES} peaks in a cycle; a shorter cycle, or a mode of their mean, does it`;
    found.push(issue('range', `loads[${at}].peaks[${k}].every`, given, allowed));
  }
  return found;
}
