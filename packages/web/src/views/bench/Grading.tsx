import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { gradedFrom, gradeOf, labelOf, layOut, lying, type Graded } from '@mile-thread/core/bench';
import {
  issueSentence,
  MOST_GRADED,
  type BenchCell,
  type Edit,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { formatDuration, formatQuantity } from '@mile-thread/core/units';
import { App, Button } from 'antd';
import clsx from 'clsx';
import { tableFrom } from '../../kit/tables.ts';
import { useState, type ReactNode } from 'react';
import type { Commit } from '../../document/session.ts';
import { ask, useAnswer } from '../../jobs/client.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { FileButton } from '../../kit/FileButton.tsx';
import { fileName, saveFile } from '../../kit/files.ts';
import { intoPack, labelSheet, movedTo, nextNumber } from './model.ts';
import css from './grading.module.css';

/** Cells measured one by one: refused, graded, and matched into the groups of the pack, by hand or the best there is. */
export function Grading({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const { message } = App.useApp();
  const { pack, graded = [] } = doc;
  const [here, setHere] = useState<string>();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor),
  );
  const key = JSON.stringify(graded);
  const sums = lying(doc);
  const { data: stranded } = useAnswer('stranded', sums.full ? [doc, key] : undefined);
  const grades = graded.map((cell) => gradeOf(cell, doc));
  const put = (label: string, value: BenchCell[]) =>
    commit(label, [{ op: doc.graded ? 'replace' : 'add', path: ['graded'], value }]);
  const match = async () => {
    const found = await ask('matched', [doc, key]);
    const need = pack.series * pack.parallel;
    if (!found)
      return void message.warning(
        `It takes ${need} cells that are fit, with capacity and resistance measured.`,
      );
    commit('Match the cells', layOut(doc, found));
    void message.info(
      found.exact
        ? `The best of all ways: ${(1000 * found.spread).toFixed(0)} mAh apart.`
        : `${(1000 * found.spread).toFixed(0)} mAh apart: largest first, then exchanges as long as one was better.`,
    );
  };
  const read = async (files: File[]) => {
    for (const file of files) {
      let data: string[][];
      try {
        data = await tableFrom(file, { of: 'cells', lines: MOST_LINES });
      } catch (error) {
        void message.error(`${file.name}: ${(error as Error).message}`, 8);
        continue;
      }
      const { cells, issues } = gradedFrom(data);
      const fresh = cells
        .filter((c) => !graded.some((g) => g.id === c.id))
        .slice(0, MOST_GRADED - graded.length);
      if (fresh.length > 0) put(`Take ${fresh.length} cells from ${file.name}`, [...graded, ...fresh]);
      if (issues.length > 0)
        void message.warning(`${file.name}: ${issues.slice(0, 3).map(issueSentence).join(' ')}`);
      else if (fresh.length === 0) void message.warning(`${file.name} holds no cells that are not here yet.`);
    }
  };
  const chosen = grades.find((g) => g.cell.id === here);
  const groups = Array.from({ length: pack.series }, (_, k) => k);
  const of = (where: (c: BenchCell, g: Graded) => boolean) => grades.filter((g) => where(g.cell, g));
  const lies = (g: Graded) => g.cell.lies ?? (g.grade === 'refused' ? 'aside' : 'drawer');
  const drawer = of((c, g) => c.group === undefined && lies(g) === 'drawer');
  const aside = of((c, g) => c.group === undefined && lies(g) === 'aside');
  return (
    <section aria-label="Cell grading" className={css.grading}>
      <header>
        <h4>Cell grading</h4>
        <span>{graded.length === 0 ? `for ${pack.series}S${pack.parallel}P` : `${graded.length} cells`}</span>
        {graded.length > 0 && (
          <Button size="small" onClick={() => void match()}>
            Match them
          </Button>
        )}
        <Button
          size="small"
          onClick={() => {
            const id = nextNumber(graded);
            put(`Cell ${id}`, [...graded, { id }]);
            setHere(id);
          }}
        >
          Add a cell
        </Button>
        <FileButton size="small" accept=".csv,text/csv" onFiles={(f) => void read(f)}>
          Cells from CSV
        </FileButton>
      </header>
      {graded.length === 0 ? (
        <p className="quiet">
          Salvaged or new cells: number each, measure rest volts, capacity, resistance and what it loses in
          two weeks. Those that fail are refused with the reason, the rest is matched into {pack.series}{' '}
          groups of {pack.parallel}.
        </p>
      ) : (
        <DndContext
          sensors={sensors}
          onDragEnd={({ active, over }) => {
            if (over) commit(`Move cell ${active.id}`, movedTo(doc, String(active.id), String(over.id)));
          }}
        >
          <div className={css.tray}>
            {groups.map((k) => (
              <Tray key={k} id={`group ${k}`} title={`B${k} to B${k + 1}`} room={pack.parallel}>
                {of((c) => c.group === k).map((g) => (
                  <Cell key={g.cell.id} graded={g} doc={doc} here={here === g.cell.id} onPick={setHere} />
                ))}
                <b>{sums.groups[k]!.count > 0 ? formatQuantity(sums.groups[k]!.ah, 'Ah', 4) : 'empty'}</b>
              </Tray>
            ))}
            <Tray id="drawer" title="drawer" room={1}>
              {drawer.map((g) => (
                <Cell key={g.cell.id} graded={g} doc={doc} here={here === g.cell.id} onPick={setHere} />
              ))}
            </Tray>
            <Tray id="aside" title="aside" room={1}>
              {aside.map((g) => (
                <Cell key={g.cell.id} graded={g} doc={doc} here={here === g.cell.id} onPick={setHere} />
              ))}
            </Tray>
          </div>
          {chosen && <Figures {...{ commit }} graded={chosen} onGone={() => setHere(undefined)} />}
          <p className={css.sum}>
            {sums.full ? (
              <span>
                <b>{(1000 * sums.spread).toFixed(0)} mAh apart</b>
                {stranded && `; ${strandedWords(stranded)}`}
              </span>
            ) : (
              `${pack.series} groups of ${pack.parallel}; drag cells, or match them.`
            )}
            {sums.full && (
              <button
                type="button"
                className="link"
                onClick={() => commit('Groups as matched', intoPack(doc))}
              >
                into the pack
              </button>
            )}
            <button
              type="button"
              className="link"
              onClick={() =>
                saveFile(
                  fileName(doc.name, 'labels.svg'),
                  labelSheet(grades.map((g) => labelOf(g, pack.series))),
                  'image/svg+xml',
                )
              }
            >
              labels
            </button>
          </p>
        </DndContext>
      )}
    </section>
  );
}

/** [Wh] Less is not worth a figure. */
const WORTH = 0.005;

function strandedWords({ energy, hours }: { energy: number; hours: number }): string {
  const what = energy < WORTH ? 'next to nothing stays' : `${formatQuantity(energy, 'Wh', 2)} stay`;
  return `${what} in the others when the weakest ends the run, after ${formatDuration(hours)}`;
}

function Tray({
  id,
  title,
  room,
  children,
}: {
  id: string;
  title: string;
  room: number;
  children: ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({ id });
  return (
    <div
      ref={setNodeRef}
      className={clsx(css.place, isOver && css.over)}
      style={{ minWidth: 30 * room + 14 }}
      aria-label={title}
      role="group"
    >
      <small>{title}</small>
      <div>{children}</div>
    </div>
  );
}

/** Lines of a table of cells at most. */
const MOST_LINES = 5000;

interface CellProps {
  graded: Graded;
  doc: ThreadDocument;
  here: boolean;
  onPick(id: string): void;
}

/** [px] Where what a cell holds is drawn, and how tall a full one is. */
const TOP = 5;
const TALL = 56;

/** A cell as high as what it holds, with its number. */
function Cell({ graded: { cell, grade, why }, doc, here, onPick }: CellProps) {
  const { setNodeRef, listeners, attributes, transform } = useDraggable({ id: cell.id });
  const share = Math.min(1, (cell.capacityAh ?? 0) / doc.pack.cell.capacityAh);
  const { role, ...rest } = attributes;
  void role;
  return (
    <button
      type="button"
      ref={setNodeRef}
      {...listeners}
      {...rest}
      className={css.cell}
      data-grade-of={grade}
      data-here={here || undefined}
      title={why ?? `grade ${grade}`}
      aria-label={`Cell ${cell.id}, ${grade === 'refused' ? `refused: ${why}` : grade === 'open' ? why : `grade ${grade}`}`}
      onClick={() => onPick(cell.id)}
      style={
        transform
          ? { transform: `translate(${transform.x}px,${transform.y}px) rotate(6deg)`, zIndex: 5 }
          : undefined
      }
    >
      <i style={{ height: TALL * share, top: TOP + TALL * (1 - share) }} />
      <b>{cell.id}</b>
      <span>{cell.capacityAh?.toFixed(2) ?? '–'}</span>
      <em>{cell.ohms === undefined ? '–' : (1000 * cell.ohms).toFixed(0)}</em>
    </button>
  );
}

const FIELDS = [
  ['restVolts', 'rest', 'V'],
  ['capacityAh', 'capacity', 'Ah'],
  ['ohms', 'resistance', 'Ω'],
  ['lostVolts', 'lost at rest', 'V'],
] as const;

/** What was measured of one cell, typed where it stands. */
function Figures({
  graded: { cell, grade, why },
  commit,
  onGone,
}: {
  graded: Graded;
  commit: Commit;
  onGone(): void;
}) {
  return (
    <p className={css.figures} role="group" aria-label={`Cell ${cell.id}`}>
      <b>Cell {cell.id}</b>
      {FIELDS.map(([field, word, unit]) => (
        <span key={field}>
          {word}{' '}
          <EditableQuantity
            label={`Cell ${cell.id}, ${word}`}
            value={cell[field]}
            unit={unit}
            optional
            shown={cell[field] === undefined ? 'type' : formatQuantity(cell[field], unit, 4)}
            onCommit={(v) => {
              const path: Edit['path'] = ['graded', cell.id, field];
              const edit: Edit = v === undefined ? { op: 'remove', path } : { op: 'replace', path, value: v };
              return commit(`Cell ${cell.id}, ${word}`, [edit]);
            }}
          />
        </span>
      ))}
      <em data-refused={grade === 'refused' || undefined}>
        {grade === 'refused' ? `✕ ${why}` : grade === 'open' ? why : `grade ${grade}`}
      </em>
      <button
        type="button"
        className="link"
        onClick={() => {
          onGone();
          commit(`Take cell ${cell.id} away`, [{ op: 'remove', path: ['graded', cell.id] }]);
        }}
      >
        take it away
      </button>
    </p>
  );
}
