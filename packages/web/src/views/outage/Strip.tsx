import { darkSeconds, type BackupAnswers, type Year } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import type { Commit } from '../../document/session.ts';
import { Answers, toneOf, type AnswerCell } from '../../kit/Answers.tsx';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';

const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);
const V = (v: number) => formatQuantity(v, 'V', 4);

interface Props {
  doc: ThreadDocument;
  found: BackupAnswers;
  /** random years that have been worked out */
  years: Year[];
  stale: boolean;
  commit: Commit;
}

/** The answers on a timeline of mains. */
export function Strip({ doc, found, years, stale, commit }: Props) {
  const { holds, dip, adapter, refill, rows, result, rail } = found;
  const wanted = doc.backup!.hold;
  const of = (name: string) => holds.find((h) => h.name === name)!.seconds[0]!;
  const met = (seconds: number) => wanted === undefined || seconds >= wanted * SECONDS_PER_HOUR;
  const gap = Math.min(Infinity, ...rows.slice(0, -1).map((r) => r.gap));
  const dark = darkSeconds(result);
  const drops = years.filter((y) => y.drops > 0).length;
  const managed = doc.charging!.join?.kind === 'managed';
  const cells: AnswerCell[] = [
    {
      id: 'holds',
      label: 'Holds, new cells, full',
      value: hours(of('new')),
      tone: toneOf(met(of('new'))),
      note: (
        <>
          {met(of('new')) ? '✓' : '✕'} need{' '}
          <EditableQuantity
            label="Must hold"
            value={wanted}
            unit="h"
            optional
            shown={wanted === undefined ? 'wish' : formatDuration(wanted)}
            onCommit={(v) =>
              commit('Change how long it must hold', [
                v === undefined
                  ? { op: 'remove', path: ['backup', 'hold'] }
                  : { op: wanted === undefined ? 'add' : 'replace', path: ['backup', 'hold'], value: v },
              ])
            }
          />
        </>
      ),
    },
    {
      id: 'worse',
      label: 'Aged to 80 %',
      value: hours(of('aged')),
      note: `in the coldest air ${hours(of('cold'))}`,
      tone: toneOf(met(of('aged')) && met(of('cold'))),
    },
    {
      id: 'dip',
      label: 'Lowest at a transfer',
      value: dip ? V(dip.lowest) : 'no dip',
      tone: toneOf(dip && dip.wanted > 0 ? dip.lowest >= dip.wanted : true),
      note: dip ? `wanted ${V(dip.wanted)}` : `stays at ${V(rail.battery)}`,
    },
    {
      id: 'refill',
      label: 'From empty to full in',
      value: refill === undefined ? 'never' : hours(refill),
      tone: toneOf(refill !== undefined),
      note: gap < Infinity ? `shortest gap ${hours(gap)}` : '',
    },
    {
      id: 'adapter',
      label: 'Adapter, worst',
      value: formatQuantity(managed ? Math.min(adapter.worst, adapter.limit) : adapter.worst, 'A', 3),
      tone: toneOf(managed || adapter.worst <= adapter.limit * (1 + 1e-6)),
      note: `of ${formatQuantity(adapter.limit, 'A', 3)}`,
    },
    {
      id: 'dark',
      label: 'Dropped in this timeline',
      value: dark > 0 ? hours(dark) : 'never',
      tone: toneOf(dark === 0),
      note:
        years.length > 0 ? (
          <span data-short={drops > 0 || undefined}>
            {drops} in {years.length} random years
          </span>
        ) : (
          `lowest ${Math.round(100 * result.lowest.soc)} %`
        ),
    },
  ];
  return <Answers label="Answers on the outage" cells={cells} stale={stale} />;
}
