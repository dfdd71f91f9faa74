import { issueSentence, type Issue, type Outcome, type ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity } from '@mile-thread/core/units';
import { Button, Dropdown } from 'antd';
import { MoreOutlined } from '@ant-design/icons';
import { Link } from 'react-router';
import clsx from 'clsx';
import type { Card } from '../../jobs/questions/card.ts';
import { EditableText } from '../../kit/EditableText.tsx';
import { SEVERITY_WORD } from '../../kit/words.ts';
import type { ThreadRow } from '../../storage/db.ts';
import { Thumbnail } from './Thumbnail.tsx';
import { useCard } from './useCard.ts';
import css from './shelf.module.css';

interface Props {
  row: ThreadRow;
  onDuplicate(): void;
  onDelete(): void;
  onExport(): void;
  onRename(name: string): Issue[];
}

/** One thread on the shelf. */
export function ThreadCard({ row, onDuplicate, onDelete, onExport, onRename }: Props) {
  const { ref, read, card, failed } = useCard(row);
  const whole = !read || read.ok;
  const items = [
    ...(whole ? [{ key: 'duplicate', label: 'Duplicate', onClick: onDuplicate }] : []),
    { key: 'export', label: whole ? 'Export' : 'Export as it is', onClick: onExport },
    { type: 'divider' as const },
    { key: 'delete', label: 'Delete', danger: true, onClick: onDelete },
  ];
  const to = `/thread/${row.id}/path`;
  // Far from sight a card is its name and its way in.
  if (!read) {
    return (
      <li ref={ref} className={clsx(css.card, css.unseen)} data-thread={row.name}>
        <Link to={to} className={css.cardOpen} aria-label={`Open ${row.name}`} />
        <h2>{row.name}</h2>
      </li>
    );
  }
  return (
    <li ref={ref} className={css.card} data-thread={row.name}>
      <Link to={to} className={css.cardOpen} aria-label={`Open ${row.name}`}>
        {read.ok && <Thumbnail doc={read.value} card={card} />}
      </Link>
      <div className={css.cardHead}>
        <h2>
          {whole ? (
            <EditableText label="Name of the thread" value={row.name} onCommit={onRename} />
          ) : (
            row.name
          )}
        </h2>
        <Dropdown menu={{ items }} trigger={['click']} placement="bottomRight">
          <Button type="text" size="small" icon={<MoreOutlined />} aria-label={`More for ${row.name}`} />
        </Dropdown>
      </div>
      {!read.ok ? <Broken issues={read.issues} /> : <Says {...{ read, card, failed }} />}
      <Link to={to} className={css.cardFoot}>
        <span>changed {changed(row.changedAt)}</span>
        <span>{whole ? 'Open the path →' : 'See what is wrong →'}</span>
      </Link>
    </li>
  );
}

/** A row that cannot be read: it is kept as it is. */
function Broken({ issues }: { issues: Issue[] }) {
  return (
    <>
      <div className={css.cardAnswers}>
        <span className={clsx(css.cardLasts, css.short)}>
          <b>Cannot be read</b>
        </span>
      </div>
      <p className={clsx(css.cardFinding, css.fails)}>
        <i aria-hidden="true">✕</i> {issueSentence(issues[0]!)}
      </p>
    </>
  );
}

interface SaysProps {
  read: Outcome<ThreadDocument>;
  card: Card | undefined;
  failed: boolean;
}

function Says({ read, card, failed }: SaysProps) {
  const doc = read.ok ? read.value : undefined;
  if (!doc || !card) {
    return (
      <>
        <div className={css.cardAnswers}>
          <span>{failed ? 'could not be computed' : 'running it down…'}</span>
        </div>
        <p className={css.cardFinding} />
      </>
    );
  }
  const idle = doc.loads.length === 0;
  const met = idle || card.lasts >= doc.goals.hours;
  return (
    <>
      <div className={css.cardAnswers}>
        <span className={clsx(css.cardLasts, met ? css.met : css.short)}>
          <b>{idle ? '–' : formatDuration(card.lasts)}</b> {idle ? 'no load yet,' : met ? '✓' : '✕'} need{' '}
          {formatDuration(doc.goals.hours)}
        </span>
        <span>
          {doc.pack.series}S{doc.pack.parallel}P · {formatQuantity(card.stored, 'Wh')}
        </span>
      </div>
      <p className={clsx(css.cardFinding, card.worst && css[card.worst.severity])}>
        {card.worst ? (
          <>
            <i aria-hidden="true">{SEVERITY_WORD[card.worst.severity].glyph}</i>{' '}
            {SEVERITY_WORD[card.worst.severity].word}: {card.worst.title}
          </>
        ) : (
          'Nothing found'
        )}
      </p>
    </>
  );
}

/** One for all cards: making one takes longer than a card. */
const WHEN = new Intl.DateTimeFormat([], { dateStyle: 'medium', timeStyle: 'short' });

function changed(at: number): string {
  return WHEN.format(at);
}
