import { packBody, usualRoom } from '@mile-thread/core/body';
import type { CellRecord, ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, formatShelf, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import type { RunResult } from '@mile-thread/core/solve';
import { Modal, Spin } from 'antd';
import { useMemo } from 'react';
import { useComputed } from '../../jobs/client.ts';
import { ToolTable } from '../../kit/ToolTable.tsx';
import { millimetres } from '../../kit/words.ts';
import type { Asked } from './useCellWork.tsx';
import css from './cells.module.css';

/** The thread with another cell in its pack. */
export function withCell(doc: ThreadDocument, cell: CellRecord): ThreadDocument {
  return { ...doc, pack: { ...doc.pack, cell } };
}

/** What another cell would change in a thread, before it is taken. */
export function WhatChanges({ asked, onLeave }: { asked: Asked | undefined; onLeave(): void }) {
  return (
    <Modal
      open={asked !== undefined}
      title={asked && `${asked.cell.name} in ${asked.name}`}
      width={560}
      okText="Use it there"
      cancelText="Leave it"
      onOk={() => asked?.take()}
      onCancel={onLeave}
      destroyOnHidden
    >
      {asked && <Changes doc={asked.doc} cell={asked.cell} />}
    </Modal>
  );
}

function Changes({ doc, cell }: { doc: ThreadDocument; cell: CellRecord }) {
  const now = useComputed(doc).data;
  const other = useMemo(() => withCell(doc, cell), [doc, cell]);
  const then = useComputed(other).data;
  // The one before stays in view while its successor is awaited: of another thread it says nothing.
  if (!now || !then || now.doc !== doc || then.doc.pack.cell !== cell) return <Spin />;
  const before = figures(doc, now.run);
  const after = figures(other, then.run);
  return (
    <ToolTable label="What changes" heads={['Then', doc.pack.cell.name, cell.name]} className={css.changes}>
      {before.map(({ name, value }, k) => (
        <tr key={name}>
          <th scope="row">{name}</th>
          <td>{value}</td>
          <td className={value === after[k]!.value ? undefined : css.changed}>{after[k]!.value}</td>
        </tr>
      ))}
    </ToolTable>
  );
}

/** What a cell decides in a thread. */
function figures(doc: ThreadDocument, run: RunResult): { name: string; value: string }[] {
  const { pack } = doc;
  const body = packBody(pack);
  const room = usualRoom(pack);
  const { mass } = body;
  const wh = (joules: number) => formatQuantity(joules / SECONDS_PER_HOUR, 'Wh', 3);
  return [
    { name: 'Lasts', value: formatDuration(run.usefulEnd.time / SECONDS_PER_HOUR) },
    { name: 'Reaches the loads', value: wh(run.ledger.usable) },
    { name: 'Left behind', value: wh(run.leftBehind) },
    { name: 'Most of a cell', value: `${run.worstCell.rate.toFixed(2)} of ${pack.cell.dischargeRate} C` },
    { name: 'Keeps on the shelf', value: formatShelf(run.idle.hoursToEnd) },
    {
      name: 'Weighs',
      value: mass ? formatQuantity(1000 * (mass.cells + mass.wiring + mass.boards), 'g', 3) : 'not known',
    },
    {
      name: 'Takes',
      value: room
        ? `${millimetres(room.length)} × ${millimetres(room.width)} × ${millimetres(room.height)}`
        : 'not known',
    },
    { name: 'Its figures are', value: pack.cell.grade },
  ];
}
