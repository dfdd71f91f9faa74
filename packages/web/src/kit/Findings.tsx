import { sinceOf, type Finding } from '@mile-thread/core';
import { formatDuration, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import clsx from 'clsx';
import { SEVERITY_WORD } from './words.ts';
import css from './findings.module.css';

interface Props {
  /** undefined until the checks have answered */
  findings: Finding[] | undefined;
  onMove(time: number): void;
  onSelect(element: string): void;
  onApply(finding: Finding): void;
}

/** What the checks say, worst first. */
export function Findings({ findings, onMove, onSelect, onApply }: Props) {
  if (!findings) return <p className="quiet">Checking the run …</p>;
  if (findings.length === 0) return <p className="quiet">Nothing found. The path does what it should.</p>;
  return (
    <ul className={css.findings}>
      {findings.map((f) => {
        const { word, glyph } = SEVERITY_WORD[f.severity];
        const since = sinceOf(f);
        return (
          <li key={f.id} className={clsx(css.finding, css[f.severity])} data-finding={f.id}>
            <button type="button" className={css.findingTitle} onClick={() => onSelect(f.element)}>
              <span className={css.severity}>
                <i aria-hidden="true">{glyph}</i> {word}
              </span>
              {f.title}
              {since !== undefined && ` from ${formatDuration(since / SECONDS_PER_HOUR)} on`}
            </button>
            <p>{f.reason}</p>
            <div className={css.findingActions}>
              {f.action && (
                <button type="button" className="link strong" onClick={() => onApply(f)}>
                  {f.action.label}
                </button>
              )}
              {f.from !== undefined && f.from > 0 && (
                <button type="button" className="link" onClick={() => onMove(f.from!)}>
                  Move needle there
                </button>
              )}
            </div>
          </li>
        );
      })}
    </ul>
  );
}
