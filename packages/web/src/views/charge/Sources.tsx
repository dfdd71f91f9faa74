import { endsFull, usualSources } from '@mile-thread/core/charging';
import { MOST_TRIES, type Edit, type Source, type ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { Button, Dropdown } from 'antd';
import clsx from 'clsx';
import type { Commit } from '../../document/session.ts';
import { useAnswer } from '../../jobs/client.ts';
import type { TriedSource } from '../../jobs/questions/charges.ts';
import { SEVERITY_WORD } from '../../kit/words.ts';
import { END_REASON, KEEPS_WORDS } from './model.ts';
import css from './sources.module.css';
import chargeCss from './charge.module.css';

const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);

/** Put a source into the thread; the one it had is kept among those tried. */
function taking({ charging }: ThreadDocument, source: Source): Edit[] {
  const { source: had, tries = [] } = charging!;
  const at = tries.findIndex((t) => JSON.stringify(t) === JSON.stringify(source));
  const rest = at < 0 ? [had, ...tries].slice(0, MOST_TRIES) : tries.map((t, k) => (k === at ? had : t));
  return [
    { op: 'replace', path: ['charging', 'source'], value: source },
    { op: charging!.tries ? 'replace' : 'add', path: ['charging', 'tries'], value: rest },
  ];
}

/** Sources side by side before the same charger and pack; any is taken with a click. */
export function Sources({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const { data } = useAnswer('sources', [doc]);
  const longest = Math.max(1, ...(data ?? []).map((t) => (t.end.keeps ? 0 : t.end.time)));
  const span = longest > 1 ? longest : 4 * SECONDS_PER_HOUR;
  const { tries = [] } = doc.charging!;
  return (
    <section className={css.sources} aria-label="Sources side by side">
      <header>
        <h4>Same charger and pack, other sources</h4>
        <span>0 to {hours(span)}; line: state of charge, area: current. Click one to put it in</span>
        <span className={chargeCss.space} />
        <Dropdown
          trigger={['click']}
          menu={{
            items: usualSources().map((s, key) => ({ key, label: s.name })),
            onClick: ({ key }) => {
              const made = usualSources()[Number(key)]!;
              commit('Try a source', [
                tries.length === 0
                  ? {
                      op: doc.charging!.tries ? 'replace' : 'add',
                      path: ['charging', 'tries'],
                      value: [made],
                    }
                  : {
                      op: 'replace',
                      path: ['charging', 'tries'],
                      value: [...tries, made].slice(-MOST_TRIES),
                    },
              ]);
            },
          }}
        >
          <Button size="small">+ try a source</Button>
        </Dropdown>
      </header>
      <div className={css.cards}>
        {data?.map((t, k) => (
          <Card
            key={`${t.source.name} ${k}`}
            tried={t}
            span={span}
            onTake={() => commit(`Charge from ${t.source.name}`, taking(doc, t.source))}
            {...(k > 0
              ? {
                  onRemove: () =>
                    commit(`Try ${t.source.name} no longer`, [
                      {
                        op: 'replace',
                        path: ['charging', 'tries'],
                        value: tries.filter((_, n) => n !== k - 1),
                      },
                    ]),
                }
              : {})}
          />
        ))}
        {!data && <p className="quiet">Charging from each of them …</p>}
      </div>
    </section>
  );
}

interface CardProps {
  tried: TriedSource;
  span: number;
  onTake(): void;
  onRemove?(): void;
}

function Card({ tried, span, onTake, onRemove }: CardProps) {
  const { source, inUse, to80, end, celsius, worst } = tried;
  const ends = endsFull(end.reason);
  const verdict = worst
    ? `${SEVERITY_WORD[worst.severity].glyph} ${worst.title}`
    : ends
      ? '✓ fits'
      : `✕ ${END_REASON[end.reason]}`;
  return (
    <div className={clsx(css.card, inUse && css.inUse)}>
      <button type="button" onClick={onTake} disabled={inUse} aria-label={`Charge from ${source.name}`}>
        <b>
          {source.name} {inUse && <em>in use</em>}
        </b>
        <Course {...tried.course} span={span} />
        <span>
          80 % <b>{to80 === undefined ? 'never' : hours(to80)}</b> full{' '}
          <b>{ends ? hours(end.time) : 'never'}</b>{' '}
          {celsius !== undefined && <b>{celsius > BURNT ? 'burns' : formatQuantity(celsius, '°C', 2)}</b>}
        </span>
        <span className={clsx(css.verdict, worst && css[worst.severity])} title={worst?.reason}>
          {verdict}
          {!worst && end.keeps ? `: ${KEEPS_WORDS[end.keeps]}` : ''}
        </span>
      </button>
      {onRemove && (
        <button
          type="button"
          className={clsx('link', css.away)}
          aria-label={`Remove ${source.name}`}
          onClick={onRemove}
        >
          ×
        </button>
      )}
    </div>
  );
}

/** [°C] of a junction beyond which no figure makes sense any more. */
const BURNT = 200;

const [WIDE, HIGH] = [180, 46];

/** A small picture of a charge: no axes, only to compare. */
function Course({ time, soc, amps, span }: TriedSource['course'] & { span: number }) {
  const x = (t: number) => Math.min(WIDE, (WIDE * t) / span);
  const inside = time.map((_, k) => k).filter((k) => time[k]! <= span * 1.0001);
  const line = inside.map((k) => `${x(time[k]!).toFixed(1)},${(HIGH - 4 - (HIGH - 8) * soc[k]!).toFixed(1)}`);
  const area = inside.map(
    (k) => `${x(time[k]!).toFixed(1)},${(HIGH - 0.75 * (HIGH - 8) * amps[k]!).toFixed(1)}`,
  );
  const last = inside.at(-1) ?? 0;
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className={css.course} aria-hidden="true">
      <path className={css.courseAmps} d={`M0,${HIGH}L${area.join('L')}L${x(time[last]!)},${HIGH}Z`} />
      <path className={css.courseSoc} d={`M${line.join('L')}`} />
    </svg>
  );
}
