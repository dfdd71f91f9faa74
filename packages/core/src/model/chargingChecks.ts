import { relationIssues } from './stageChecks.ts';
import { issue, type Issue } from './issue.ts';
import { sourceIssues } from './sources/registry.ts';
import { PACK, type ThreadDocument } from './thread.ts';

/** Mains that goes within its timeline, of a thread that says what it is charged from. */
export function backupIssues({ backup, charging }: ThreadDocument): Issue[] {
  if (!backup) return [];
  const found: Issue[] = [];
  if (!charging) {
    found.push(issue('missing', 'charging', undefined, 'what charges it, since it says what mains does'));
  }
  backup.outages.forEach(({ from }, k) => {
    if (from < backup.span) return;
    const allowed = `less than the timeline is long (${backup.span} h)`;
    found.push(issue('range', `backup.outages[${k}].from`, from, allowed));
  });
  const { recurring, chance } = backup;
  if (recurring && recurring.hours >= recurring.every) {
    const allowed = `less than from one to the next (${recurring.every} h)`;
    found.push(issue('range', 'backup.recurring.hours', recurring.hours, allowed));
  }
  if (chance && chance.sixth < chance.half) {
    const allowed = `at least what half of them last (${chance.half} h)`;
    found.push(issue('range', 'backup.chance.sixth', chance.sixth, allowed));
  }
  return found;
}

/** What a charger and its sources owe each other and the rest of the thread. */
export function chargingIssues({ charging, modes = [], stages }: ThreadDocument): Issue[] {
  if (!charging) return [];
  const { stage, control, source, tries = [], mode, join } = charging;
  const found = [
    ...relationIssues(stage, 'charging.stage'),
    ...sourceIssues(source, 'charging.source'),
    ...tries.flatMap((t, k) => sourceIssues(t, `charging.tries[${k}]`)),
  ];
  if (mode !== undefined && !modes.some((m) => m.id === mode)) {
    found.push(issue('reference', 'charging.mode', mode, 'the id of a mode of this thread'));
  }
  if (join && join.at !== PACK && !stages.some((s) => s.id === join.at)) {
    found.push(issue('reference', 'charging.join.at', join.at, '`pack` or the id of a stage in this thread'));
  }
  if (!control) return found;
  const { current, terminate, precharge, programming, coldest, hottest, sense } = control;
  if (sense === 'output' && terminate !== undefined && terminate >= current) {
    const allowed = `less than the charge current (${current} A)`;
    found.push(issue('range', 'charging.control.terminate', terminate, allowed));
  }
  if (precharge && precharge.current > current) {
    const allowed = `at most the charge current (${current} A)`;
    found.push(issue('range', 'charging.control.precharge.current', precharge.current, allowed));
  }
  if (programming && programming.turn !== undefined && programming.pot === undefined) {
    const allowed = 'a potentiometer, since it says how far that is turned';
    found.push(issue('missing', 'charging.control.programming.pot', undefined, allowed));
  }
  const table = programming?.table ?? [];
  const wrong = table.findIndex(
    (p, k) => k > 0 && !(p.ohms > table[k - 1]!.ohms && p.amps < table[k - 1]!.amps),
  );
  if (wrong > 0) {
    const allowed = 'more resistance and less current than the line before';
    found.push(issue('range', `charging.control.programming.table[${wrong}]`, table[wrong]!.ohms, allowed));
  }
  if (coldest !== undefined && hottest !== undefined && coldest >= hottest) {
    found.push(
      issue('range', 'charging.control.coldest', coldest, `less than it stops above (${hottest} °C)`),
    );
  }
  return found;
}
