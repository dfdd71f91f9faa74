import { decodeCell } from '@mile-thread/core';
import {
  cellFileOf,
  CellRecord,
  CellTemperature,
  changeOf,
  CylinderBody,
  PouchBody,
  type Edit,
  type Issue,
} from '@mile-thread/core/model';
import { Button } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { EditableText } from '../../kit/EditableText.tsx';
import { FieldRows } from '../../kit/FieldRows.tsx';
import type { NamedRow } from '../../storage/db.ts';
import { cellRecords } from '../../storage/named.ts';
import css from './cells.module.css';

interface Props {
  row: NamedRow<CellRecord>;
  tell(error: unknown): void;
  onClose(): void;
}

/** A cell of one's own, its figures typed over where they stand; what was before comes back step by step. */
export function OwnFigures({ row, tell, onClose }: Props) {
  const { record: cell } = row;
  const [before, setBefore] = useState<CellRecord[]>([]);
  // What is drawn comes from storage, some milliseconds late: the next edit is of what was put there last.
  const latest = useRef({ record: cell, writing: 0 });
  useEffect(() => {
    if (latest.current.writing === 0) latest.current.record = cell;
  }, [cell]);
  const put = (next: CellRecord) => {
    latest.current.record = next;
    latest.current.writing++;
    cellRecords
      .replace(row.id, next)
      .catch(tell)
      .finally(() => latest.current.writing--);
  };
  const commit = (_: string, edits: readonly Edit[]): Issue[] => {
    const { record } = latest.current;
    const changed = changeOf(record, edits);
    if (!changed.ok) return changed.issues;
    const checked = decodeCell(cellFileOf(changed.value.doc));
    if (!checked.ok) return checked.issues;
    setBefore((all) => [...all, record]);
    put(changed.value.doc);
    return [];
  };
  const set = (field: 'name' | 'source', value: string) =>
    commit('', [{ op: 'replace', path: [field], value }]);
  const undo = () => {
    put(before.at(-1)!);
    setBefore(before.slice(0, -1));
  };
  const { temperature, body } = cell;
  return (
    <section className={css.own} aria-label={`Figures of ${cell.name}`}>
      <header>
        <h2>
          <EditableText label="Name of the cell" value={cell.name} onCommit={(value) => set('name', value)} />
        </h2>
        <span>your own; threads that use it keep what they have</span>
        <Button size="small" disabled={before.length === 0} onClick={undo}>
          Take back
        </Button>
        <Button size="small" type="text" onClick={onClose}>
          ✕ close
        </Button>
      </header>
      <div className={css.ownParts}>
        <div>
          <FieldRows model={CellRecord} value={cell} path={[]} owner={cell.name} commit={commit} />
        </div>
        <div>
          {temperature && (
            <FieldRows
              model={CellTemperature}
              value={temperature}
              path={['temperature']}
              owner={`${cell.name} in cold and warmth`}
              commit={commit}
            />
          )}
          {body && (
            <FieldRows
              model={body.kind === 'cylinder' ? CylinderBody : PouchBody}
              value={body}
              path={['body']}
              owner={`Body of ${cell.name}`}
              skip={['kind']}
              commit={commit}
            />
          )}
          <p className="quiet">
            Source:{' '}
            <EditableText
              label="Source of the figures"
              value={cell.source ?? 'not said'}
              onCommit={(value) => set('source', value)}
            />
          </p>
        </div>
      </div>
    </section>
  );
}
