import { encodeRecords, recordRows } from '@mile-thread/core';
import {
  applyRecord,
  isRegulated,
  issueSentence,
  recordOf,
  STAGE_KINDS,
  type StageKind,
  type StageRecord,
} from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { App as AntApp, Button, Dropdown, Input } from 'antd';
import Papa from 'papaparse';
import { textFrom } from '../../../kit/tables.ts';
import { useEffect, useRef, useState } from 'react';
import { fileName, saveFile } from '../../../kit/files.ts';
import { useRecords } from '../../../kit/useRecords.tsx';
import type { NamedRow } from '../../../storage/db.ts';
import { stageRecords } from '../../../storage/named.ts';
import { storageTrouble } from '../../../storage/threads.ts';
import { ask, useAnswer } from '../../../jobs/client.ts';
import type { ToolProps } from './props.ts';
import { ToolTable } from '../../../kit/ToolTable.tsx';
import css from './tools.module.css';
import tablesCss from '../../../kit/tables.module.css';

/** Stages to start from: the generic ones that ship, and one's own. */
export function RecordsTool({ stage, path, commit }: ToolProps) {
  const { message } = AntApp.useApp();
  const [own, setOwn] = useState<NamedRow<StageRecord>[]>([]);
  const [name, setName] = useState(stage.name);
  const file = useRef<HTMLInputElement>(null);
  const { data: shipped = [] } = useAnswer('library', []);
  useEffect(() => stageRecords.watch(setOwn, (e) => void message.error(storageTrouble(e))), [message]);
  const trouble = (e: unknown) => void message.error(storageTrouble(e), 8);
  const { takeIn, remove: removeNamed } = useRecords(stageRecords, 'record', trouble);
  const guarded = (work: Promise<void>) => void work.catch(trouble);

  const use = (record: StageRecord) => {
    const issues = commit(`Use “${record.name}” for ${stage.name}`, [
      { op: 'replace', path, value: applyRecord(record, stage) },
    ]);
    if (issues.length === 0)
      void message.success(`${stage.name} is now “${record.name}”. Ctrl+Z takes it back.`);
    else void message.error(`Not possible here: ${issueSentence(issues[0]!)}`);
  };
  const keep = () =>
    guarded(
      stageRecords
        .keep([recordOf(stage, name.trim() || stage.name)])
        .then(() => void message.success(`“${name.trim() || stage.name}” is kept`)),
    );
  const take = async (f: File) => {
    const read = await ask('records', [await textFrom(f), /\.csv$/i.test(f.name)]);
    await takeIn(read, f.name);
  };
  const remove = (id: string) => removeNamed(id, own.find((r) => r.id === id)?.name ?? 'The record');
  const records = own.map((r) => r.record);
  return (
    <div className={css.tool}>
      <RecordTable
        title="Own records"
        rows={own.map((r) => ({ key: r.id, record: r.record }))}
        onUse={use}
        onRemove={(id) => guarded(remove(id))}
      />
      <div className={css.toolActions}>
        <Input
          size="small"
          value={name}
          onChange={(e) => setName(e.target.value)}
          aria-label="Name of the record"
          maxLength={120}
        />
        <Button size="small" onClick={keep}>
          Keep this stage as a record
        </Button>
      </div>
      <div className={css.toolActions}>
        <Button size="small" onClick={() => file.current?.click()}>
          Import…
        </Button>
        <Dropdown
          disabled={records.length === 0}
          menu={{
            items: [
              { key: 'json', label: 'as JSON' },
              { key: 'csv', label: 'as CSV' },
            ],
            onClick: ({ key }) =>
              key === 'json'
                ? saveFile(fileName('stages', 'records.json'), encodeRecords(records))
                : saveFile(fileName('stages', 'records.csv'), Papa.unparse(recordRows(records)), 'text/csv'),
          }}
        >
          <Button size="small">Export own records</Button>
        </Dropdown>
        <input
          ref={file}
          type="file"
          className="hidden"
          tabIndex={-1}
          aria-label="Stage records to import"
          accept=".json,.csv"
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            if (chosen) guarded(take(chosen));
            e.target.value = '';
          }}
        />
      </div>
      <RecordTable
        title="Generic stages"
        rows={sameKindFirst(shipped, stage.kind).map((record) => ({ key: record.name, record }))}
        onUse={use}
      />
    </div>
  );
}

/** What could stand here without changing the kind comes first. */
function sameKindFirst(records: readonly StageRecord[], kind: StageKind): StageRecord[] {
  const same = (r: StageRecord) => Number(r.stage.kind === kind);
  return [...records].sort((a, b) => same(b) - same(a));
}

interface RecordTableProps {
  title: string;
  rows: { key: string; record: StageRecord }[];
  onUse(record: StageRecord): void;
  onRemove?(key: string): void;
}

function RecordTable({ title, rows, onUse, onRemove }: RecordTableProps) {
  if (rows.length === 0) return null;
  return (
    <ToolTable label={title} heads={[title, 'kind', 'gives', '']} className={tablesCss.records}>
      {rows.map(({ key, record }) => (
        <tr key={key} title={record.notes}>
          <th scope="row">{record.name}</th>
          <td>{STAGE_KINDS[record.stage.kind].label}</td>
          <td>{isRegulated(record.stage) ? formatQuantity(record.stage.outputVolts, 'V', 3) : '–'}</td>
          <td>
            <Button size="small" onClick={() => onUse(record)} aria-label={`Use ${record.name}`}>
              Use
            </Button>
            {onRemove && (
              <Button
                size="small"
                type="text"
                onClick={() => onRemove(key)}
                aria-label={`Remove ${record.name}`}
              >
                ×
              </Button>
            )}
          </td>
        </tr>
      ))}
    </ToolTable>
  );
}
