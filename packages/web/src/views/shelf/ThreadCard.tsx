import type { Issue } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { Button, Dropdown } from 'antd';
import { MoreOutlined } from '@ant-design/icons';
import { Link } from 'react-router';
import { EditableText } from '../../kit/EditableText.tsx';
import type { ThreadRow } from '../../storage/db.ts';
import { useComputed } from '../../jobs/client.ts';
import { SEVERITY_WORD } from '../../kit/words.ts';
import { Thumbnail } from './Thumbnail.tsx';

interface Props {
  row: ThreadRow;
  onDuplicate(): void;
  onDelete(): void;
  onExport(): void;
  onRename(name: string): Issue[];
}

/** One thread on the shelf. */
export function ThreadCard({ row, onDuplicate, onDelete, onExport, onRename }: Props) {
  const { data, error } = useComputed(row.doc);
  const hours = data ? data.run.usefulEnd.time / SECONDS_PER_HOUR : NaN;
  const need = row.doc.need.hours;
  const idle = row.doc.loads.length === 0;
  const met = idle || hours >= need;
  const worst = data?.findings[0];
  const items = [
    { key: 'duplicate', label: 'Duplicate', onClick: onDuplicate },
    { key: 'export', label: 'Export', onClick: onExport },
    { type: 'divider' as const },
    { key: 'delete', label: 'Delete', danger: true, onClick: onDelete },
  ];
  return (
    <li className="card" data-thread={row.name}>
      <Link to={`/thread/${row.id}/path`} className="card-open" aria-label={`Open ${row.name}`}>
        <Thumbnail doc={row.doc} computed={data} />
      </Link>
      <div className="card-head">
        <h2>
          <EditableText label="Name of the thread" value={row.name} onCommit={onRename} />
        </h2>
        <Dropdown menu={{ items }} trigger={['click']} placement="bottomRight">
          <Button type="text" size="small" icon={<MoreOutlined />} aria-label={`More for ${row.name}`} />
        </Dropdown>
      </div>
      <div className="card-answers">
        {data ? (
          <>
            <span className={`card-lasts ${met ? 'met' : 'short'}`}>
              <b>{idle ? '–' : formatDuration(hours)}</b> {idle ? 'no load yet,' : met ? '✓' : '✕'} need{' '}
              {formatDuration(need)}
            </span>
            <span>
              {row.doc.pack.series}S{row.doc.pack.parallel}P ·{' '}
              {formatQuantity(data.run.ledger.stored / SECONDS_PER_HOUR, 'Wh')}
            </span>
          </>
        ) : (
          <span>{error ? 'could not be computed' : 'running it down…'}</span>
        )}
      </div>
      <p className={`card-finding ${worst?.severity ?? ''}`}>
        {worst ? (
          <>
            <i aria-hidden="true">{SEVERITY_WORD[worst.severity].glyph}</i>{' '}
            {SEVERITY_WORD[worst.severity].word}: {worst.title}
          </>
        ) : (
          data && 'Nothing found'
        )}
      </p>
      <Link to={`/thread/${row.id}/path`} className="card-foot">
        <span>changed {changed(row.changedAt)}</span>
        <span>Open the path →</span>
      </Link>
    </li>
  );
}

function changed(at: number): string {
  return new Date(at).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' });
}
