import type { Carrier } from '@mile-thread/core/belief';
import {
  GRADES,
  USUAL_TOLERANCES,
  type Grade,
  type Issue,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { formatDuration } from '@mile-thread/core/units';
import { beliefEdit, toleranceEdit } from '../../document/belief.ts';
import type { Commit } from '../../document/session.ts';
import type { useRange } from '../../jobs/useRange.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { figureName, nameOfFigure, settles } from './beliefWords.ts';
import css from './belief.module.css';

/** Figures shown: what carries less than the last of them is not worth a reading. */
const SHOWN = 6;
/** Share of the variance below which a figure is not named. */
const LITTLE = 0.005;
/** Standard deviations to 10 and 90 %. */
const NINETY = 1.2815515655446004;
/** What a reading leaves of a figure's doubt. */
const MEASURED = 0.02;
/** Share beyond which a tolerance says nothing any more. */
const WIDEST = 0.9;

interface Props {
  doc: ThreadDocument;
  commit: Commit;
  range: ReturnType<typeof useRange>;
}

/** Which figures move the end most, and the reading that would settle each. */
export function ToMeasure({ doc, commit, range: { range } }: Props) {
  if (!range) return null;
  const carriers = range.carriers.filter((c) => c.total > LITTLE).slice(0, SHOWN);
  const moves = ({ total }: Carrier) => NINETY * range.deviation * Math.sqrt(total);
  const exact = (doc.belief?.own ?? []).filter((o) => o.tolerance === 0).map((o) => o.figure);
  const most = carriers[0] ? moves(carriers[0]) : 0;
  return (
    <section className={css.toMeasure} aria-label="What to measure">
      <header>
        <h4>What to measure</h4>
        <span>
          moves the end most
          {range.explained < 0.9 && `; ${Math.round(100 * range.explained)} % of it is told apart`}
        </span>
      </header>
      {exact.length > 0 && (
        <p className="quiet">
          Taken as exactly known, moving nothing:{' '}
          {exact.map((f, k) => (
            <span key={f}>
              {k > 0 && ', '}
              {nameOfFigure(doc, f)}{' '}
              <button
                type="button"
                className="link"
                onClick={() => commit('Doubt a figure again', [toleranceEdit(doc, f, undefined)])}
              >
                doubt it again
              </button>
            </span>
          ))}
        </p>
      )}
      {carriers.length === 0 && <p className="quiet">No figure is in doubt: the end is as figured.</p>}
      <ol>
        {carriers.map((c) => {
          const { figure } = c;
          const by = moves(c);
          const then = by * Math.min(1, MEASURED / figure.tolerance);
          return (
            <li key={figure.id} data-figure={figure.id}>
              <b>{figureName(doc, figure)}</b>
              <span data-grade={figure.grade}>
                ±{' '}
                <EditableQuantity
                  label={`${figureName(doc, figure)}, tolerance`}
                  value={100 * figure.tolerance}
                  unit="%"
                  optional
                  onCommit={(v) => changeTolerance(doc, commit, figure.id, v)}
                />{' '}
                {figure.grade}
              </span>
              <div className={css.moves} aria-hidden="true">
                <i style={{ width: `${most > 0 ? (100 * by) / most : 0}%` }} />
              </div>
              <b className={css.by}>± {formatDuration(by)}</b>
              <small>{settles(doc, figure)}</small>
              <small className={css.then}>then ± {formatDuration(then)}</small>
            </li>
          );
        })}
      </ol>
      <Grades {...{ doc, commit }} />
    </section>
  );
}

/** How far figures of each grade may be off, all at once. */
function Grades({ doc, commit }: Pick<Props, 'doc' | 'commit'>) {
  const { byGrade } = doc.belief ?? {};
  return (
    <details>
      <summary>How far a figure may be off by its grade</summary>
      <p className={css.grades}>
        {GRADES.map((grade) => (
          <span key={grade}>
            <em data-grade={grade}>{grade}</em> ±{' '}
            <EditableQuantity
              label={`Tolerance of ${grade} figures`}
              value={100 * (byGrade?.[grade] ?? USUAL_TOLERANCES[grade])}
              unit="%"
              optional
              onCommit={(v) => changeGrade(doc, commit, grade, v)}
            />
          </span>
        ))}
      </p>
    </details>
  );
}

/** The tolerance of a grade as typed; nothing typed: the usual again. */
function changeGrade(
  doc: ThreadDocument,
  commit: Commit,
  grade: Grade,
  percent: number | undefined,
): Issue[] {
  const trouble = outside(percent);
  if (trouble.length > 0) return trouble;
  const { [grade]: before, ...rest } = doc.belief?.byGrade ?? {};
  void before;
  const byGrade = percent === undefined ? rest : { ...rest, [grade]: percent / 100 };
  const said = Object.keys(byGrade).length > 0 ? byGrade : undefined;
  return commit(`Change the tolerance of ${grade} figures`, [beliefEdit(doc, { byGrade: said })]);
}

function outside(percent: number | undefined): Issue[] {
  if (percent === undefined || (percent >= 0 && percent <= 100 * WIDEST)) return [];
  const allowed = `0 % (exactly known) to ${100 * WIDEST} %; beyond that the figure could as well be nothing`;
  return [{ code: 'range', path: 'belief', given: `${percent} %`, allowed }];
}

/** A tolerance as typed; nothing typed: by its grade again. 0 % is taken as exact. */
function changeTolerance(
  doc: ThreadDocument,
  commit: Commit,
  figure: string,
  percent: number | undefined,
): Issue[] {
  const trouble = outside(percent);
  if (trouble.length > 0) return trouble;
  const tolerance = percent === undefined ? undefined : percent / 100;
  return commit('Change a tolerance', [toleranceEdit(doc, figure, tolerance)]);
}
