import { againstFull, endsFull, mostVolts, type ChargeResult } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import type { Commit } from '../../document/session.ts';
import { Answers, toneOf, type AnswerCell } from '../../kit/Answers.tsx';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { elementName } from '../../kit/words.ts';
import { aboveMean, END_REASON, KEEPS_WORDS } from './model.ts';

interface Props {
  doc: ThreadDocument;
  charge: ChargeResult;
  stale: boolean;
  commit: Commit;
}

const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);
const wh = (joules: number) => formatQuantity(joules / SECONDS_PER_HOUR, 'Wh', 3);

/** The answers on the charge. */
export function Strip({ doc, charge, stale, commit }: Props) {
  const { end, ledger, to80, hottest, grade, gradeFrom } = charge;
  const ends = endsFull(end.reason);
  const need = doc.goals.chargeHours;
  const { series, cell } = doc.pack;
  const most = mostVolts(doc.charging!) / series + aboveMean(charge);
  const near = againstFull(most, cell.fullVolts);
  const stored = ledger.left - ledger.stored;
  const soft = grade === 'claimed' || grade === 'assumed';
  const cells: AnswerCell[] = [
    {
      id: 'full',
      label: 'Full in',
      value: ends ? hours(end.time) : 'never',
      tone: toneOf(
        ends && need !== undefined ? end.time / SECONDS_PER_HOUR <= need : ends ? undefined : false,
      ),
      note: (
        <>
          {need === undefined ? '' : ends && end.time / SECONDS_PER_HOUR <= need ? '✓ need ' : '✕ need '}
          <EditableQuantity
            label="Full within"
            value={need}
            unit="h"
            optional
            shown={need === undefined ? 'wish' : formatDuration(need)}
            onCommit={(v) =>
              commit('Change the time to charge', [
                v === undefined
                  ? { op: 'remove', path: ['goals', 'chargeHours'] }
                  : { op: need === undefined ? 'add' : 'replace', path: ['goals', 'chargeHours'], value: v },
              ])
            }
          />
        </>
      ),
    },
    { id: 'to80', label: 'To 80 %', value: to80 === undefined ? 'never' : hours(to80) },
    {
      id: 'ends',
      label: 'Ends by itself',
      value: ends ? `yes, at ${formatQuantity(doc.charging!.control?.terminate ?? end.amps, 'A', 3)}` : 'no',
      tone: toneOf(ends),
      note: endNote(charge),
    },
    {
      id: 'fullest',
      label: 'Fullest cell, at worst',
      value: formatQuantity(most, 'V', 4),
      tone: near === 'tight' ? undefined : toneOf(near === 'within'),
      note: `${Math.round(Math.abs(1000 * (cell.fullVolts - most)))} mV ${near === 'within' ? 'under' : 'over'} ${formatQuantity(cell.fullVolts, 'V', 3)}${near === 'tight' ? ', tight' : ''}`,
    },
    {
      id: 'hottest',
      label: 'Hottest part',
      value:
        hottest?.celsius === undefined
          ? formatQuantity(hottest?.watts ?? 0, 'W', 2)
          : formatQuantity(hottest.celsius, '°C', 3),
      note: `charger, at ${hours(hottest?.time ?? 0)}`,
    },
    {
      id: 'stored',
      label: `Stored, of ${wh(ledger.supplied ?? 0)} ${doc.charging!.source.wall ? 'from the wall' : 'supplied'}`,
      value: wh(Math.max(0, stored)),
      note: ledger.supplied ? `${Math.round((100 * stored) / ledger.supplied)} %` : '',
    },
    {
      id: 'grade',
      label: 'Rests on',
      value: grade,
      grade,
      soft,
      title: `Rests on: ${gradeFrom.map((g) => `${elementName(doc, g.element)} ${g.grade}`).join(', ')}`,
    },
  ];
  return <Answers label="Answers on the charge" cells={cells} stale={stale} />;
}

/** How it ends, or what keeps it from it. */
function endNote({ end }: ChargeResult): string {
  if (endsFull(end.reason)) return `${Math.round(100 * end.soc)} % full`;
  return end.keeps ? KEEPS_WORDS[end.keeps] : END_REASON[end.reason];
}
