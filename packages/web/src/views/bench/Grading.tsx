import { DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { gradedFrom, gradeOf, labelOf, layOut, lying, type Graded } from '@mile-thread/core/bench';
import { issueSentence, MOST_GRADED, type BenchCell, type ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity } from '@mile-thread/core/units';
import { App, Button } from 'antd';
import { tableFrom } from '../../kit/tables.ts';
import { useState } from 'react';
import type { Commit } from '../../document/session.ts';
import { ask, useAnswer } from '../../jobs/client.ts';
import { FileButton } from '../../kit/FileButton.tsx';
import { fileName, saveFile } from '../../kit/files.ts';
import { labelSheet } from '../../drawing/labels.ts';
import { Cell, Figures, Tray } from './GradedCell.tsx';
import { intoPack, movedTo, nextNumber } from './model.ts';
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

/** Lines of a table of cells at most. */
const MOST_LINES = 5000;
