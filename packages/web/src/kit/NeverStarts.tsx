import type { ThreadDocument } from '@mile-thread/core/model';
import { END_WORDS, type DeadReason } from '@mile-thread/core/solve';
import clsx from 'clsx';
import type { Commit } from '../document/session.ts';
import { useFindings } from '../jobs/client.ts';
import css from './never.module.css';

/** What would mend a thread that ends before it begins. Common practice, no source. */
const MENDS: Partial<Record<DeadReason, string>> = {
  collapse: 'Ask less of it, put more cells in parallel or in series, or take cells of less resistance.',
  trip: 'Ask less of it, or fit a protection board that carries what the loads draw.',
  cutoff: 'Charge the pack before it starts, or set the cut-off below the volts it sags to.',
  empty: 'Charge the pack before it starts.',
  nothingDraws: 'Hang a load on it that draws something.',
  unfinished: 'Simplify the path where a stage hangs on another that cannot carry it.',
};

interface Props {
  doc: ThreadDocument;
  reason: DeadReason;
  commit: Commit;
  /** above what there is to show all the same, not in its place */
  above?: boolean;
}

/** Said in the place of a run that never begins: why, and what would mend it. */
export function NeverStarts({ doc, reason, commit, above = false }: Props) {
  const findings = useFindings(doc) ?? [];
  const why = findings.find((f) => f.id.startsWith(reason === 'cutoff' ? 'cut-off' : reason));
  const action = (why ?? findings[0])?.action;
  return (
    <div className={clsx(css.never, above && css.above)} role="status">
      <h4>Nothing runs: {END_WORDS[reason]} at the first instant</h4>
      <p>
        {why && `${why.reason} `}
        {MENDS[reason]} The pack is shown open, with nothing flowing.
      </p>
      {action && (
        <button type="button" className="link strong" onClick={() => commit(action.label, action.edits)}>
          {action.label}
        </button>
      )}
    </div>
  );
}
