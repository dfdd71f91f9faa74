import type { CellCurve } from '@mile-thread/core';
import { formatQuantity } from '@mile-thread/core/units';
import { App as AntApp, Button, Dropdown, Input, Segmented } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { useAnswer } from '../../jobs/client.ts';
import type { Drain } from '../../jobs/questions/cells.ts';
import { Answers, type AnswerCell } from '../../kit/Answers.tsx';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { FileButton } from '../../kit/FileButton.tsx';
import { OutsidePlaces } from '../../kit/OutsidePlaces.tsx';
import { useOwnCells } from '../../kit/useOwnCells.ts';
import type { ThreadRow } from '../../storage/db.ts';
import { listThreads } from '../../storage/threads.ts';
import { CellCard } from './CellCard.tsx';
import { Compare } from './Compare.tsx';
import { LogPanel } from './LogPanel.tsx';
import { OwnFigures } from './OwnFigures.tsx';
import { saveCells, useCellWork } from './useCellWork.tsx';
import { WhatChanges } from './WhatChanges.tsx';
import { listed, MARKS, MOST_COMPARED, type Order } from './model.ts';
import { LiveStop } from '../../kit/LiveStop.tsx';
import barCss from '../../kit/bar.module.css';
import css from './cells.module.css';

/** Of every picture: gentle enough for all. */
const PICTURED: Drain = { value: 0.5, unit: 'C' };
const ROOM_AIR = 25;
/** [V] whose charge is told first: about half of most cells. */
const USUAL_REST = 3.7;
const ACCEPTED = '.csv,.txt,.tsv,.json,text/csv,text/plain,application/json';
const NONE: Record<string, CellCurve> = {};
const START = ['18650-energy', '21700-power', '26650-lfp'];

/** Cells: every one as the picture of its discharge, some side by side, and one’s own from logs. */
export function CellsView() {
  const { message } = AntApp.useApp();
  const work = useCellWork();
  const { files, setFiles, tell } = work;
  const own = useOwnCells(tell);
  const [threads, setThreads] = useState<ThreadRow[]>([]);
  const [words, setWords] = useState('');
  const [order, setOrder] = useState<Order>('perKilogram');
  const [chosen, setChosen] = useState<string[]>(START);
  const [drain, setDrain] = useState<Drain>({ value: 1, unit: 'A' });
  const [air, setAir] = useState(ROOM_AIR);
  const [restVolts, setRestVolts] = useState(USUAL_REST);
  const [opened, setOpened] = useState<string>();
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
  const edited = own.find((row) => row.id === opened);

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
        <LiveStop />
        <span className={barCss.space} />
        <FileButton ghost size="small" accept={ACCEPTED} multiple onFiles={work.take}>
          Logs or records
        </FileButton>
        <Dropdown
          trigger={['click']}
          disabled={own.length === 0}
          menu={{
            items: [
              { key: 'json', label: 'as JSON' },
              { key: 'csv', label: 'as CSV, a line a cell' },
            ],
            onClick: ({ key }) =>
              saveCells(
                own.map((row) => row.record),
                key as 'json' | 'csv',
              ),
          }}
        >
          <Button ghost size="small">
            Export own cells
          </Button>
        </Dropdown>
      </header>
      <main
        className={css.cells}
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault();
          work.take([...e.dataTransfer.files]);
        }}
      >
        <WhatChanges asked={work.asked} onLeave={work.leave} />
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
                  ; charge told at{' '}
                  <EditableQuantity
                    label="Volts of a cell at rest"
                    value={restVolts}
                    unit="V"
                    onCommit={(v) => setIf(v! > 0 && v! <= 6, () => setRestVolts(v!), 'up to 6 V')}
                  />{' '}
                  at rest
                </span>
              </header>
              {compared.length === 0 ? (
                <p className="quiet">Choose cells on the left, up to six, to see them side by side.</p>
              ) : (
                <Compare
                  entries={compared}
                  curves={curves}
                  threads={threads}
                  restVolts={restVolts}
                  onUse={work.use}
                  onRemove={(e) => work.remove(e.own!, e.cell.name)}
                  onOpen={(e) => setOpened(e.own)}
                  onCopy={(e) => work.keep({ ...e.cell, name: `${e.cell.name}, own`.slice(0, 80) })}
                />
              )}
            </section>
            {edited && (
              <OwnFigures key={edited.id} row={edited} tell={tell} onClose={() => setOpened(undefined)} />
            )}
            {files.length > 0 ? (
              <LogPanel files={files} date={today()} onFiles={setFiles} onKeep={work.keepLog} />
            ) : (
              <p className={css.invite}>
                Drop the logs of discharges here, such as 0.2 C and 1 C from full to empty, to make a cell of
                your own: any separator, decimal sign and usual form of time. Records of cells, as JSON or
                CSV, are taken in too. Discharge lithium cells only within their data sheet, on a surface that
                does not burn, and never unattended.
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
