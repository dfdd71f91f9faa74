import type { ThreadDocument } from '../../model/thread.ts';
import { settingTo } from '../../charging/setting.ts';
import { sourceLaw } from '../../charging/source.ts';
import { setVolts } from '../../charging/volts.ts';
import type { ChargeControl } from '../../model/charging.ts';
import type { Edit } from '../../model/edit.ts';
import { lowestLevel } from '../../backup/float.ts';
import { goneOf } from '../../backup/timeline.ts';
import type { BackupAnswers } from '../../backup/backup.ts';
import { darkSeconds } from '../../run/account/outageResult.ts';
import { SECONDS_PER_HOUR } from '../../units/constants.ts';
import { formatDuration, formatQuantity } from '../../units/formatQuantity.ts';
import { found, type Family, type Finding, type Said } from '../finding.ts';
import { A, V } from './context.ts';

const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);
const F = (farads: number) => formatQuantity(farads, 'F', 3);

/** Capacitors that are commonly fitted, by their first digits. Common practice, no source. */
const FITTED = [1, 1.5, 2.2, 3.3, 4.7, 6.8, 10];

/** A thread and what its backup comes to. */
interface BackupContext {
  doc: ThreadDocument;
  answers: BackupAnswers;
}

/** What is not known, since the cells are over-charged or it took too much work. */
function breaksOff({ doc: { backup, pack }, answers: { result, unanswered } }: BackupContext): Said[] {
  const base = { severity: 'tight', element: 'cells' } as const;
  const shorter = 'A shorter timeline, fewer outages, or fewer stages in one chain would say more.';
  if (result.end.overCharged)
    return [
      {
        ...base,
        severity: 'danger',
        id: 'over-charged:backup',
        title: `The timeline ends after ${hours(result.end.time)} of ${formatDuration(backup!.span)}: the cells are over-charged there`,
        reason: `They rest far above the ${V(pack.cell.fullVolts)} they are full at, and it goes on. Past full, cells may catch fire.`,
        from: result.end.time,
        saysWhen: true,
      },
    ];
  if (!result.end.whole)
    return [
      {
        ...base,
        id: 'breaks-off:backup',
        title: `The timeline breaks off after ${hours(result.end.time)} of ${formatDuration(backup!.span)}: what comes then is not known`,
        reason: `It took more work than is allowed. What is shown holds until then. ${shorter}`,
        from: result.end.time,
        saysWhen: true,
      },
    ];
  if (!unanswered) return [];
  return [
    {
      ...base,
      id: 'breaks-off:backup',
      title: 'Not all of it is worked out: how long it holds and refills is known in part',
      reason: `It took more work than is allowed. ${shorter}`,
    },
  ];
}

/** [s] With mains back for so long, loads that are still dropped are not about to be carried. */
const BACK = 60;

function drops({ doc, answers: { result } }: BackupContext): Said[] {
  const [first] = result.dark;
  if (!first) return [];
  const total = darkSeconds(result);
  const { gone } = goneOf(doc.backup!);
  // Dropped on, although there is mains.
  const on = result.dark.some(({ from, to }) => {
    const last = gone.findLast((g) => g.from < to);
    return to - Math.max(from, last?.to ?? 0) > BACK;
  });
  return [
    {
      id: 'goes-dark:backup',
      severity: 'fails',
      element: 'cells',
      title: `The loads are dropped for ${hours(total)} of the timeline`,
      reason: on
        ? `Mains comes back, and they stay off: what the charger gives an empty pack is less than they take, so it never comes up. Loads that wait until it has, a charger that begins with more, or an adapter that carries them itself.`
        : `The pack is empty, and mains not back. More cells, or less to carry, hold longer.`,
      from: first.from,
    },
  ];
}

function holds({ doc: { backup }, answers: { holds } }: BackupContext): Said[] {
  const wanted = backup!.hold;
  if (wanted === undefined) return [];
  return holds.flatMap(({ name, seconds }): Said[] => {
    const held = seconds[0]! / SECONDS_PER_HOUR;
    if (held >= wanted) return [];
    const which = { new: 'New', aged: 'Aged', cold: 'In the coldest air' }[name];
    return [
      {
        id: `hold-${name}:backup`,
        severity: name === 'new' ? 'fails' : 'tight',
        element: 'cells',
        title: `${which}, full cells hold ${formatDuration(held)}; ${formatDuration(wanted)} are wanted`,
        reason: `${formatDuration(wanted - held)} short, from a full pack to where an essential load is no longer carried.`,
        excess: wanted / Math.max(held, 1e-3),
      },
    ];
  });
}

function dips({ answers: { dip } }: BackupContext): Said[] {
  if (!dip || dip.wanted === 0 || dip.lowest >= dip.wanted) return [];
  const settles = dip.settles < dip.wanted;
  const fit = fitted(1.2 * dip.least);
  return [
    {
      id: 'transfer-dip:backup',
      severity: 'fails',
      element: 'charger',
      title: `As mains goes the rail falls to ${V(dip.lowest)}; ${V(dip.wanted)} are wanted`,
      reason: settles
        ? `On the battery it stands at ${V(dip.settles)} under the heaviest load, whatever the capacitor: set that side higher, or lose less in its way.`
        : `${F(dip.task.farads)} carry the heaviest load for ${formatQuantity(dip.task.seconds, 's', 3)} until the battery does. ${F(dip.least)} would just do, tolerance aside.`,
      excess: dip.wanted / Math.max(dip.lowest, 1e-3),
      ...(!settles && Number.isFinite(fit)
        ? {
            action: {
              label: `Fit ${F(fit)}`,
              edits: [{ op: 'replace' as const, path: ['charging', 'join', 'capacitance'], value: fit }],
            },
          }
        : {}),
    },
  ];
}

/** The next common value. */
function fitted(farads: number): number {
  const unit = 10 ** Math.floor(Math.log10(farads));
  const digit = FITTED.find((d) => d * unit >= farads * (1 - 1e-9)) ?? 10;
  return Number((digit * unit).toPrecision(2));
}

/** The classic: what is to step in feeds all the time. */
function feeds({ doc: { charging }, answers: { result, rail } }: BackupContext): Said[] {
  if (charging!.meanwhile !== 'path') return [];
  const onMains = result.who.filter((w) => w.what === 'battery' || w.what === 'both');
  if (rail.battery < rail.adapter || onMains.length === 0) return [];
  const { join } = charging!;
  const set = Number((rail.adapter + (join?.battery.volts ?? 0) - MARGIN * rail.adapter).toPrecision(3));
  return [
    {
      id: 'feeds-on-mains:backup',
      severity: 'fails',
      element: 'charger',
      title: `The battery feeds although mains is there: ${V(rail.battery)} against ${V(rail.adapter)}`,
      reason: `Whoever stands higher carries. Behind its way the battery's side stands above the adapter's, so that the pack is emptied and filled all the time.`,
      excess: rail.battery / rail.adapter,
      ...(join && join.at !== 'pack'
        ? {
            action: {
              label: `Set it to ${V(set)}`,
              edits: [{ op: 'replace' as const, path: ['stages', join.at, 'outputVolts'], value: set }],
            },
          }
        : {}),
    },
  ];
}

/** Share of the adapter's volts by which the battery's side is kept below. Common practice, no source. */
const MARGIN = 0.02;

function asked({ doc: { charging }, answers: { adapter } }: BackupContext): Said[] {
  const letsGo = sourceLaw(charging!.source).beyond === 'hiccup';
  // Managed, the charger gives way to the loads.
  if (charging!.join?.kind === 'managed' || adapter.worst <= adapter.limit * (1 + 1e-6)) return [];
  return [
    {
      id: 'adapter-asked:backup',
      severity: 'fails',
      element: 'source',
      title: `Charging and the heaviest loads ask ${A(adapter.worst)} of ${A(adapter.limit)}`,
      reason: letsGo
        ? `The adapter lets go and tries again: meanwhile the battery carries alone, and is not filled. Charge by less, or let a managed path make the charger give way.`
        : `The adapter sags and the battery helps. Charge by less, or let a managed path make the charger give way.`,
      excess: adapter.worst / adapter.limit,
      ...(charging!.join
        ? {
            action: {
              label: 'Let the charger give way',
              edits: [{ op: 'replace' as const, path: ['charging', 'join', 'kind'], value: 'managed' }],
            },
          }
        : {}),
    },
  ];
}

function gaps({ answers: { rows, refill } }: BackupContext): Said[] {
  const late = rows.filter((r, k) => r.recharge === undefined && k < rows.length - 1);
  if (late.length === 0) return [];
  const first = late[0]!;
  return [
    {
      id: 'recharge-gap:backup',
      severity: 'tight',
      element: 'charger',
      title: `${late.length === 1 ? 'An outage leaves' : `${late.length} outages leave`} no time to refill before the next`,
      reason: `${hours(first.gap)} are given; from empty it takes ${refill === undefined ? 'for ever' : hours(refill)}.`,
      from: first.to,
    },
  ];
}

/** [V] of one cell by which a level must be lower to be worth a word. */
const WORTH = 0.04;

/** Cells that stand fuller than what is wanted of them asks for. */
function standsFull({ doc: { backup, charging, pack }, answers: { levels } }: BackupContext): Said[] {
  const { control } = charging!;
  const set = setVolts(charging!);
  const level = lowestLevel(levels, backup!.hold && backup!.hold * SECONDS_PER_HOUR);
  if (!level || set === undefined) return [];
  const now = set / pack.series;
  if (now - level.volts < WORTH) return [];
  const setting = settingTo(charging!, Number((level.volts * pack.series).toPrecision(4)));
  return [
    {
      id: 'stands-full:backup',
      severity: 'note',
      element: 'charger',
      title: `Cells that stand at ${V(now)} all year age faster than they must`,
      reason: `At ${V(level.volts)} they hold ${hours(level.aged)} when aged, and last roughly ${formatQuantity(level.longer / 2 ** ((pack.cell.fullVolts - now) / 0.1), '', 2)} times as long by time alone: a tenth of a volt less counts for twice the life, as is commonly held. The cell maker's data sheet has the last word.`,
      ...(setting
        ? {
            action: {
              label: `Let them stand at ${V(setting.volts / pack.series)}`,
              edits: [...setting.edits, ...beginsAnew(control!, setting.volts / pack.series)],
            },
          }
        : {}),
    },
  ];
}

/** [V] of one cell by which a charger begins anew below where it stops. Common practice, no source. */
const ANEW = 0.1;

/** The volts at which it begins anew go down with where it stops. */
function beginsAnew({ recharge }: ChargeControl, stops: number): Edit[] {
  if (recharge === undefined || recharge <= stops - ANEW / 2) return [];
  const value = Number((stops - ANEW).toFixed(3));
  return [{ op: 'replace', path: ['charging', 'control', 'recharge'], value }];
}

function merged({ answers: { merged: any } }: BackupContext): Said[] {
  if (!any) return [];
  return [
    {
      id: 'outages-meet:backup',
      severity: 'note',
      element: 'source',
      title: 'Outages that overlap are taken as one',
      reason: 'Mains is gone from the beginning of the first to the end of the last.',
    },
  ];
}

/** The families of checks of what happens without mains. */
const FAMILIES: readonly Family<BackupContext>[] = [
  breaksOff,
  drops,
  holds,
  dips,
  feeds,
  asked,
  gaps,
  standsFull,
  merged,
].map((check) => ({ place: 'outage', check }));

/** What there is to say of a thread that is to carry its loads without mains, worst first. */
export function backupFindings(doc: ThreadDocument, answers: BackupAnswers): Finding[] {
  return found(FAMILIES, { doc, answers });
}
