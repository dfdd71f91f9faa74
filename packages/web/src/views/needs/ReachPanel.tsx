import type { Way } from '@mile-thread/core';
import { STAGE_KINDS, type StageKind, type ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { useState } from 'react';
import clsx from 'clsx';
import { useAnswer } from '../../jobs/client.ts';
import type { Commit } from '../../document/session.ts';
import { ReachBars } from './ReachBars.tsx';
import { SERIES_COUNTS, why, type NamedRail } from './model.ts';
import css from './reach.module.css';

const WORDS: Partial<Record<Way, { glyph: string; word: string }>> = {
  direct: { glyph: '→', word: 'direct' },
  buck: { glyph: '↓', word: 'buck' },
  boost: { glyph: '↑', word: 'boost' },
  buckBoost: { glyph: '↕', word: 'buck-boost' },
  linear: { glyph: '⤓', word: 'linear' },
  sepic: { glyph: '↕', word: 'SEPIC' },
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
  const { data, isPlaceholderData: isOld } = useAnswer('reach', [doc, rails.map((r) => r.id), counts]);
  const found = (rail: string, series: number) =>
    data?.[rails.findIndex((r) => r.id === rail)]?.[(counts as readonly number[]).indexOf(series)];
  const told = at && found(at.rail, at.series);
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
                const c = found(rail.id, series);
                if (!c) return <td key={series} className={clsx(series === pack.series && css.taken)} />;
                const { glyph, word: kind } = WORDS[c.way] ?? {
                  glyph: '·',
                  word: STAGE_KINDS[c.way as StageKind].label,
                };
                const only = c.way === 'buckBoost' && !c.simpler;
                const word = `${c.another ? 'another ' : only ? 'only ' : ''}${kind}`;
                const edits = isOld ? [] : c.edits;
                const taken = series === pack.series && c.way !== 'not' && c.edits.length === 0;
                return (
                  <td key={series} className={clsx(series === pack.series && css.taken)}>
                    <button
                      type="button"
                      className={clsx(css.crossing, css[c.way], taken && css.now)}
                      aria-label={`${rail.name} from ${series}S: ${word}. ${why(doc, c, rail)}`}
                      aria-disabled={edits.length === 0}
                      onFocus={() => setAt({ series, rail: rail.id })}
                      onPointerEnter={() => setAt({ series, rail: rail.id })}
                      onClick={() =>
                        edits.length > 0 && commit(`Take ${series}S, ${word} for ${rail.name}`, edits)
                      }
                    >
                      <i aria-hidden="true">{glyph}</i>{' '}
                      {c.way === 'not' && !c.held.misfit
                        ? `asks ${formatQuantity(c.held.asks, 'A', 2)}`
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
        {shown && told ? (
          <>
            <b>
              {at.series}S to {shown.name}:
            </b>{' '}
            {why(doc, told, shown)}
          </>
        ) : (
          'Point at a crossing to read why. A click takes its cells in series and its kind of stage.'
        )}
      </p>
    </section>
  );
}

const volts = (v: number) => Number(v.toPrecision(3));
