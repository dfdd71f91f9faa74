import type { Finding } from '@mile-thread/core';
import { isSizable, type ThreadDocument } from '@mile-thread/core/model';
import { useEffect, useRef } from 'react';
import { NavLink, useLocation } from 'react-router';
import clsx from 'clsx';
import { stageLetter } from '../document/commands.ts';
import type { SessionStore } from '../document/session.ts';
import { useAllFindings } from '../jobs/client.ts';
import { SEVERITY_WORD } from '../kit/words.ts';
import { standing, STEPS, type Standing } from './places.ts';
import css from './frame.module.css';

/** The row of views, each with how it stands; below Sizing its stages. */
export function Places({ store }: { store: SessionStore }) {
  const doc = store((s) => s.doc);
  const findings = useAllFindings(doc);
  const { pathname } = useLocation();
  const row = useRef<HTMLElement>(null);
  // On a narrow screen the row scrolls: the present step is in sight.
  useEffect(() => {
    row.current?.querySelector('[data-here]')?.scrollIntoView({ block: 'nearest', inline: 'center' });
  }, [pathname]);
  return (
    <>
      <nav className={css.places} aria-label="Views of this thread" ref={row}>
        {STEPS.map((step) => {
          const to = step.to(doc);
          if (to === undefined) return null;
          return (
            <NavLink
              key={step.id}
              to={to}
              title={`Key ${step.key}`}
              data-here={pathname.includes(`/${step.id}`) || undefined}
            >
              {step.name}{' '}
              {findings && step.planned?.(doc) !== false && (
                <Mark {...standing(findings.filter((f) => f.place === step.id))} />
              )}
            </NavLink>
          );
        })}
      </nav>
      {pathname.includes('/sizing') && <StageChips doc={doc} findings={findings ?? []} />}
    </>
  );
}

function StageChips({ doc, findings }: { doc: ThreadDocument; findings: readonly Finding[] }) {
  return (
    <nav className={css.chips} aria-label="Stages of this thread">
      {doc.stages.filter(isSizable).map((s) => (
        <NavLink key={s.id} to={`sizing/${s.id}`} title="Keys [ and ]">
          <b>{stageLetter(doc, s.id)}</b> {s.name}{' '}
          <Mark {...standing(findings.filter((f) => f.element === s.id && f.place === 'sizing'))} />
        </NavLink>
      ))}
    </nav>
  );
}

/** A glyph with a count: how a place stands, in words for who cannot see it. */
function Mark({ worst, count }: Standing) {
  const { glyph, words } =
    worst === 'met'
      ? { glyph: '✓', words: 'all is met' }
      : {
          glyph: SEVERITY_WORD[worst].glyph,
          words: `${count} × ${SEVERITY_WORD[worst].word.toLowerCase()}`,
        };
  return (
    <span className={clsx(css.mark, css[worst])} title={words}>
      <i aria-hidden="true">{glyph}</i>
      {count > 0 && <b aria-hidden="true">{count}</b>}
      <span className="hidden">, {words}</span>
    </span>
  );
}
