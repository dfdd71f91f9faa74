import type { Way } from '@mile-thread/core';
import {
  isRegulated,
  PACK,
  STAGE_KINDS,
  swapKind,
  type Edit,
  type Stage,
  type StageKind,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { useState } from 'react';
import clsx from 'clsx';
import { freshId } from '../../document/commands.ts';
import type { Commit } from '../../document/session.ts';
import { ReachBars } from './ReachBars.tsx';
import { crossing, SERIES_COUNTS, why, type NamedRail } from './model.ts';
import css from './reach.module.css';

const WORDS: Record<Way, { glyph: string; word: string }> = {
  direct: { glyph: '→', word: 'direct' },
  buck: { glyph: '↓', word: 'buck' },
  boost: { glyph: '↑', word: 'boost' },
  buckBoost: { glyph: '↕', word: 'only buck-boost' },
  not: { glyph: '✕', word: 'not' },
};

interface Props {
  doc: ThreadDocument;
  rails: readonly NamedRail[];
  commit: Commit;
}

/** Which pack reaches which rail, and how: one click takes the cells in series and the kind of stage. */
export function ReachPanel({ doc, rails, commit }: Props) {
  const { pack } = doc;
  const { cell } = pack;
  const [at, setAt] = useState<{ series: number; rail: string } | undefined>();
  const shown = at && rails.find((r) => r.id === at.rail);
  const counts = SERIES_COUNTS.includes(pack.series as never)
    ? SERIES_COUNTS
    : [...SERIES_COUNTS, pack.series];
  return (
    <section className={css.reach} aria-label="Which pack reaches which rail">
      <header>
        <h4>Which pack reaches which rail</h4>
        <span>
          {cell.name}, {formatQuantity(cell.endVolts, 'V', 3)} at its end to{' '}
          {formatQuantity(cell.fullVolts, 'V', 3)} full
        </span>
      </header>
      <table>
        <thead>
          <tr>
            <th scope="col">Rail</th>
            {counts.map((s) => (
              <th key={s} scope="col" className={clsx(s === pack.series && css.taken)}>
                {s}S
                <span className="hidden">
                  , {volts(s * cell.endVolts)} to {volts(s * cell.fullVolts)} V
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rails.length > 0 && <ReachBars {...{ doc, rails, counts }} />}
          {rails.map((rail) => (
            <tr key={rail.id}>
              <th scope="row">
                <b title={rail.name}>{rail.name}</b>
                <small>
                  {volts(rail.min)}–{volts(rail.max)} V, {formatQuantity(rail.watts, 'W', 3)}
                </small>
              </th>
              {counts.map((series) => {
                const c = crossing(doc, series, rail);
                const { glyph, word } = WORDS[c.way];
                const taken =
                  series === pack.series && (c.way === rail.kind || (c.way === 'direct' && !rail.kind));
                const edits = takeEdits(doc, series, rail, c.way);
                return (
                  <td key={series} className={clsx(series === pack.series && css.taken)}>
                    <button
                      type="button"
                      className={clsx(css.crossing, css[c.way], taken && css.now)}
                      aria-label={`${rail.name} from ${series}S: ${word}. ${why(c, rail)}`}
                      aria-disabled={edits.length === 0}
                      onFocus={() => setAt({ series, rail: rail.id })}
                      onPointerEnter={() => setAt({ series, rail: rail.id })}
                      onClick={() =>
                        edits.length > 0 && commit(`Take ${series}S, ${word} for ${rail.name}`, edits)
                      }
                    >
                      <i aria-hidden="true">{glyph}</i>{' '}
                      {c.way === 'not' && c.why === 'amps'
                        ? `asks ${formatQuantity(c.cellAmps, 'A', 2)}`
                        : word}
                    </button>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className={css.reachWhy}>
        {shown ? (
          <>
            <b>
              {at.series}S to {shown.name}:
            </b>{' '}
            {why(crossing(doc, at.series, shown), shown)}
            {limitWords(doc, shown, at.series * cell.fullVolts)}
          </>
        ) : (
          'Point at a crossing to read why. A click takes its cells in series and its kind of stage.'
        )}
      </p>
    </section>
  );
}

const volts = (v: number) => Number(v.toPrecision(3));

/** Room around the pack's volts in the limits of a stage that is yet to be found. */
const ROOM = 0.1;

/** Another kind of stage in the place of one: another part, so its limits are only assumed, and take this pack. */
function another(doc: ThreadDocument, series: number, stage: Stage, rail: NamedRail, kind: StageKind): Stage {
  const next = swapKind(stage, kind, rail.volts);
  if (!isRegulated(next)) return next;
  const { cell } = doc.pack;
  const full = Math.ceil(series * cell.fullVolts * (1 + ROOM));
  const empty = Number((series * cell.endVolts * (1 - ROOM)).toPrecision(2));
  return {
    ...next,
    maxInput: Math.max(next.maxInput, full),
    minInput: Math.min(next.minInput, empty),
    grade: 'assumed',
  };
}

/** What a stage as it stands cannot take of a pack. */
function limitWords(doc: ThreadDocument, rail: NamedRail, full: number): string {
  const stage = doc.stages.find((s) => s.id === rail.id);
  if (!stage || !isRegulated(stage) || full <= stage.maxInput) return '';
  return ` ${stage.name} as it stands takes at most ${formatQuantity(stage.maxInput, 'V', 3)}: it would be another part.`;
}

/** What a click on a crossing changes; nothing where the rail cannot be reached, or is already so. */
export function takeEdits(doc: ThreadDocument, series: number, rail: NamedRail, way: Way): Edit[] {
  if (way === 'not') return [];
  const edits: Edit[] = [];
  if (series !== doc.pack.series) edits.push({ op: 'replace', path: ['pack', 'series'], value: series });
  const stage = doc.stages.find((s) => s.id === rail.id);
  if (stage) {
    if (stage.kind !== way)
      edits.push({
        op: 'replace',
        path: ['stages', stage.id],
        value: another(doc, series, stage, rail, way),
      });
  } else if (way !== 'direct') {
    // A load on the pack itself gets a stage of its own.
    const id = freshId(doc, 'stage');
    const value = STAGE_KINDS[way].create(id, PACK, Number(rail.volts.toPrecision(2)));
    edits.push({ op: 'add', path: ['stages', doc.stages.length], value });
    edits.push({ op: 'replace', path: ['loads', rail.id, 'from'], value: id });
  }
  return edits;
}
