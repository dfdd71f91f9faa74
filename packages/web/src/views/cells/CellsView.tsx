import type { CellCurve } from '@mile-thread/core';
import type { CellRecord } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { App as AntApp, Button, Input, Segmented } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { openSession } from '../../document/session.ts';
import { useAnswer } from '../../jobs/client.ts';
import type { Drain, LogFile } from '../../jobs/questions/cells.ts';
import { Answers, type AnswerCell } from '../../kit/Answers.tsx';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { FileButton } from '../../kit/FileButton.tsx';
import { OutsidePlaces } from '../../kit/OutsidePlaces.tsx';
import type { NamedRow, ThreadRow } from '../../storage/db.ts';
import { cellRecords } from '../../storage/named.ts';
import { listThreads, storageTrouble } from '../../storage/threads.ts';
import { CellCard } from './CellCard.tsx';
import { Compare } from './Compare.tsx';
import { LogPanel } from './LogPanel.tsx';
import { listed, MARKS, MOST_COMPARED, type Order } from './model.ts';
import barCss from '../../kit/bar.module.css';
import css from './cells.module.css';

/** Of every picture: gentle enough for all. */
const PICTURED: Drain = { value: 0.5, unit: 'C' };
const ROOM_AIR = 25;
/** Largest file of a log that is opened. */
const MOST_BYTES = 20e6;
const NONE: Record<string, CellCurve> = {};
const START = ['18650-energy', '21700-power', '26650-lfp'];

/** Cells: every one as the picture of its discharge, some side by side, and one’s own from logs. */
export function CellsView() {
  const { message, notification } = AntApp.useApp();
  const navigate = useNavigate();
  const [own, setOwn] = useState<NamedRow<CellRecord>[]>([]);
  const [threads, setThreads] = useState<ThreadRow[]>([]);
  const [words, setWords] = useState('');
  const [order, setOrder] = useState<Order>('perKilogram');
  const [chosen, setChosen] = useState<string[]>(START);
  const [drain, setDrain] = useState<Drain>({ value: 1, unit: 'A' });
  const [air, setAir] = useState(ROOM_AIR);
  const [files, setFiles] = useState<LogFile[]>([]);
  const tell = useMemo(() => (e: unknown) => void message.error(storageTrouble(e), 8), [message]);
  useEffect(() => cellRecords.watch(setOwn, tell), [tell]);
  useEffect(() => void listThreads().then(setThreads, tell), [tell]);

  const all = useMemo(() => listed(own, '', order), [own, order]);
  const shown = useMemo(() => listed(own, words, order), [own, words, order]);
  const { data: pictures } = useAnswer('cellCurves', [all, PICTURED, ROOM_AIR]);
  const most = Math.max(1, ...all.map((e) => Math.min(e.cell.capacityAh, MOST_PICTURED)));
  const compared = useMemo(() => chosen.flatMap((id) => all.find((e) => e.id === id) ?? []), [chosen, all]);
  const { data: curves = NONE, isPlaceholderData } = useAnswer('cellCurves', [compared, drain, air]);

  const toggle = (id: string) => {
    if (chosen.includes(id)) return setChosen(chosen.filter((c) => c !== id));
    if (chosen.length >= MOST_COMPARED) {
      return void message.info(`${MOST_COMPARED} are compared at most: take one out first`);
    }
    setChosen([...chosen, id]);
  };
  const take = (given: File[]) => {
    const large = given.find((f) => f.size > MOST_BYTES);
    if (large) return void message.error(`${large.name} has more than 20 MB: log at longer intervals`, 8);
    Promise.all(given.map(async (f) => ({ name: f.name, text: await f.text() }))).then(
      (more) => setFiles((now) => [...now, ...more]),
      (e: Error) => message.error(`It could not be read: ${e.message}`, 8),
    );
  };
  const keep = (cell: CellRecord) => {
    cellRecords.keep([cell]).then(() => {
      setFiles([]);
      void message.success(`${cell.name} is kept, and first among the cells`);
    }, tell);
  };
  const remove = (id: string, name: string) => {
    cellRecords.remove(id).then((restore) => {
      const undo = () => {
        restore().catch(tell);
        notification.destroy(id);
      };
      const actions = (
        <Button size="small" type="primary" onClick={undo}>
          Undo
        </Button>
      );
      notification.info({ key: id, title: `${name} removed`, actions, placement: 'bottomRight' });
    }, tell);
  };
  const use = (cell: CellRecord, thread: ThreadRow) => {
    openSession(thread.id).then((session) => {
      if (typeof session !== 'function') return void message.error(`${thread.name} cannot be read`);
      const edits = [{ op: 'replace' as const, path: ['pack', 'cell'], value: cell }];
      const [issue] = session.getState().commit(`Take the cell ${cell.name}`, edits);
      if (issue) return void message.error(`Not possible there: ${issue.allowed}`);
      void navigate(`/thread/${thread.id}/path`);
    }, tell);
  };

  const answers: AnswerCell[] = compared.map(({ id, cell }, k) => {
    const curve = curves[id];
    const lost = curve && (100 * curve.heat) / (curve.wh + curve.heat);
    return {
      id,
      label: `${MARKS[k]!.letter} ${cell.name}`,
      value: curve ? formatQuantity(curve.wh, 'Wh', 3) : '…',
      note: curve ? `${formatQuantity(curve.ah, 'Ah', 3)}, ${lost!.toFixed(1)} % heat` : '',
    };
  });
  return (
    <div className={barCss.frame}>
      <header className={barCss.top}>
        <span className={barCss.brand}>Mile Thread</span>
        <OutsidePlaces />
        <span className={barCss.space} />
        <FileButton ghost size="small" accept=".csv,.txt,.tsv,text/csv,text/plain" multiple onFiles={take}>
          Logs of a discharge
        </FileButton>
      </header>
      <main
        className={css.cells}
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault();
          take([...e.dataTransfer.files]);
        }}
      >
        <Answers label="Answers of the chosen cells" cells={answers} stale={isPlaceholderData} />
        <div className={css.parts}>
          <section className={css.list} aria-label="Cells">
            <header>
              <h1>Cells</h1>
              <Segmented<Order>
                size="small"
                aria-label="Order"
                value={order}
                onChange={setOrder}
                options={[
                  { value: 'perKilogram', label: 'Wh/kg' },
                  { value: 'capacity', label: 'Ah' },
                  { value: 'rate', label: 'C-rate' },
                ]}
              />
              <Input
                size="small"
                aria-label="Find cells"
                placeholder="name, chemistry …"
                value={words}
                allowClear
                onChange={(e) => setWords(e.target.value)}
              />
            </header>
            {shown.length === 0 && <p className="quiet">No cell has these words.</p>}
            <ul className={css.cards}>
              {shown.map((entry) => {
                const at = compared.findIndex((e) => e.id === entry.id);
                return (
                  <CellCard
                    key={entry.id}
                    entry={entry}
                    curve={pictures?.[entry.id]}
                    most={most}
                    mark={at < 0 ? undefined : MARKS[at]}
                    onToggle={() => toggle(entry.id)}
                  />
                );
              })}
            </ul>
          </section>
          <div className={css.right}>
            <section className={css.compare} aria-label="Side by side">
              <header>
                <h2>Loaded and at rest</h2>
                <span>
                  each with{' '}
                  <EditableQuantity
                    label="Current of each cell"
                    value={drain.value}
                    unit={drain.unit}
                    onCommit={(v) =>
                      setIf(v! > 0 && v! <= 1000, () => setDrain({ ...drain, value: v! }), 'more than 0')
                    }
                    other={{
                      units: [drain.unit === 'A' ? 'C' : 'A'],
                      hint: 'with A or C',
                      onCommit: (value, unit) =>
                        setIf(
                          value > 0 && value <= 1000,
                          () => setDrain({ value, unit: unit as Drain['unit'] }),
                          'more than 0',
                        ),
                    }}
                  />{' '}
                  at{' '}
                  <EditableQuantity
                    label="Air around them"
                    value={air}
                    unit="°C"
                    onCommit={(v) => setIf(v! >= -40 && v! <= 85, () => setAir(v!), '-40 to 85 °C')}
                  />
                </span>
              </header>
              {compared.length === 0 ? (
                <p className="quiet">Choose cells on the left, up to six, to see them side by side.</p>
              ) : (
                <Compare
                  entries={compared}
                  curves={curves}
                  threads={threads}
                  onUse={use}
                  onRemove={(e) => remove(e.own!, e.cell.name)}
                />
              )}
            </section>
            {files.length > 0 ? (
              <LogPanel files={files} date={today()} onFiles={setFiles} onKeep={keep} />
            ) : (
              <p className={css.invite}>
                Drop the logs of two discharges here, such as 0.2 C and 1 C from full to empty, to make a cell
                of your own: any separator, decimal sign and usual form of time. Discharge lithium cells only
                within their data sheet, on a surface that does not burn, and never unattended.
              </p>
            )}
          </div>
        </div>
      </main>
    </div>
  );
}

/** [Ah] at the right edge of the pictures: beyond it a cell is drawn to its edge. */
const MOST_PICTURED = 6;

function setIf(allowed: boolean, set: () => void, words: string) {
  if (!allowed) return [{ code: 'range', path: '', given: '', allowed: words }];
  set();
  return [];
}

/** The day by this computer’s clock, as it is read. */
function today(): string {
  const now = new Date();
  const two = (n: number) => String(n).padStart(2, '0');
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}
