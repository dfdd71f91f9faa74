import { thinned } from '@mile-thread/core/logs';
import type { LoggedCurve, PredictedCourse } from '@mile-thread/core/bench';
import type { LogColumns as Columns, LogNote } from '@mile-thread/core/logs';
import {
  issueSentence,
  MOST_CURVES,
  type BenchCurve,
  type Edit,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { readingsKey } from '@mile-thread/core/solve';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { App } from 'antd';
import { useMemo, useState, type DragEvent } from 'react';
import { CurvePlot, type CurveLine } from '../../charts/CurvePlot.tsx';
import type { Commit } from '../../document/session.ts';
import { ask, useAnswer } from '../../jobs/client.ts';
import type { CurveOver } from '../../jobs/questions/bench.ts';
import type { Explaining } from '../../jobs/useExplanation.ts';
import { FileButton } from '../../kit/FileButton.tsx';
import { LogColumns } from '../../kit/LogColumns.tsx';
import { withProgress } from '../../kit/progress.tsx';
import { Recording } from './Recording.tsx';
import { useBench, useRecorded } from '../../atBench/connections.ts';
import css from './curves.module.css';

interface Props {
  doc: ThreadDocument;
  /** the document as it is when a log has been read */
  present(): ThreadDocument;
  course: PredictedCourse;
  commit: Commit;
  explaining: Explaining;
  threadId: string;
}

/** Points of a curve beside one that is being recorded. */
const BESIDE = 200;
/** Largest log that is read, in bytes: a reading a second for two days is some twelve million. */
const MOST_BYTES = 30e6;

/** Logged volts over the predicted run: dropped as a file, or recorded here. */
export function Curves({ doc, present, course, commit, explaining, threadId }: Props) {
  const { message } = App.useApp();
  const [file, setFile] = useState<{ name: string; text: string; read: LoggedCurve }>();
  const [over, setOver] = useState(false);
  const { curves = [] } = doc;
  const { data: laid } = useAnswer('curvesOver', curves.length > 0 ? [doc, readingsKey(doc)] : undefined);
  const live = useLiveLine(threadId);
  const predicted = useMemo(
    () => ({
      name: 'predicted',
      hours: course.hours,
      volts: course.volts.map((p) => p.value),
      low: course.volts.map((p) => p.p10),
      high: course.volts.map((p) => p.p90),
      sooner: course.end.p10 / course.end.value,
      later: course.end.p90 / course.end.value,
    }),
    [course],
  );
  // While one is being recorded and drawn with every reading, the others are drawn by fewer points.
  const recording = live !== undefined;
  const logged = useMemo(
    () =>
      (curves.length > 0 ? (laid ?? []) : []).map((c) => {
        const shown = thinned(c.logged, recording ? BESIDE : Infinity);
        const few = (list: number[]) => shown.map((k) => list[k]!);
        return { ...c, hours: few(c.hours), volts: few(c.logged), off: few(c.off) };
      }),
    [laid, curves.length, recording],
  );
  const { found } = explaining;
  const learnt = useMemo(
    () => (found && curves.length > 0 ? { name: 'with the new values', ...found.course } : undefined),
    [found, curves.length],
  );
  const keep = (curve: BenchCurve) => {
    const { curves: had } = present();
    if (had && had.length >= MOST_CURVES) {
      void message.warning(`A thread holds ${MOST_CURVES} curves: take one away first.`);
      return false;
    }
    const value = [...(had ?? []), curve];
    const edit: Edit = { op: had ? 'replace' : 'add', path: ['curves'], value };
    return commit(`Take the curve ${curve.name}`, [edit]).length === 0;
  };
  const read = async (name: string, text: string, columns?: Columns) => {
    const found = await withProgress(message, `Reading ${name}`, (options) =>
      ask('loggedFile', [name, text, columns, new Date().toISOString()], options),
    );
    if (!found) return;
    // What could be told from its headings is taken at once; else a person says which column is which.
    if (found.curve && !columns && curves.length < MOST_CURVES && keep(found.curve)) {
      setFile(undefined);
      if (found.notes.length > 0) void message.info(`${name}: ${found.notes.map(noteWords).join(' ')}`, 8);
    } else setFile({ name, text, read: found });
  };
  const take = async (files: File[]) => {
    for (const f of files) {
      if (f.size > MOST_BYTES) void message.warning(`${f.name} is too large: logs of at most 30 MB.`);
      else await read(f.name, await f.text());
    }
  };
  const drop = (e: DragEvent) => {
    e.preventDefault();
    setOver(false);
    void take([...e.dataTransfer.files]);
  };
  return (
    <section
      aria-label="Curves"
      className={css.curves}
      data-over={over || undefined}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <header>
        <h4>Volts into the path</h4>
        {curves.map((c, k) => (
          <span key={k} className={css.chip}>
            {c.name} · {c.seconds.length.toLocaleString('en')} rows{' '}
            <button
              type="button"
              className="link"
              aria-label={`Take the curve ${c.name} away`}
              onClick={() =>
                commit(`Take the curve ${c.name} away`, [
                  curves.length === 1
                    ? { op: 'remove', path: ['curves'] }
                    : { op: 'remove', path: ['curves', k] },
                ])
              }
            >
              ×
            </button>
          </span>
        ))}
        <span className={css.room} />
        <FileButton
          size="small"
          accept=".csv,.txt,.tsv,.log,text/csv,text/plain"
          multiple
          onFiles={(f) => void take(f)}
        >
          Log as CSV
        </FileButton>
      </header>
      {file && (
        <Read
          file={file}
          onColumns={(columns) => void read(file.name, file.text, columns)}
          onKeep={(curve) => keep(curve) && setFile(undefined)}
          onAway={() => setFile(undefined)}
          full={curves.length >= MOST_CURVES}
        />
      )}
      <div className={css.plot}>
        <CurvePlot
          {...{ predicted, logged, learnt, live }}
          need={doc.goals.hours}
          label={`${doc.name}, logged and predicted volts`}
        />
      </div>
      <Recording {...{ doc, threadId, commit }} onKeep={keep} />
      <p className="quiet">
        {curves.length === 0 && !live
          ? 'Drop a log of a run-down here: of a meter, a logger or a load, as CSV. The band is what the tolerances allow.'
          : laid?.map((c) => curveWords(c)).join(' ')}
      </p>
    </section>
  );
}

/** Points of the line that is being recorded. */
const LIVE_POINTS = 250;

/** What is being recorded, as a line; a new one with every reading. */
function useLiveLine(threadId: string): CurveLine | undefined {
  const recording = useBench((s) => (s.threadId === threadId ? s.recording : undefined));
  // Every other reading is enough to see it grow; the words beside tell each.
  const count = useRecorded((s) => s.count - (s.count % 2));
  return useMemo(() => {
    if (!recording || count < 2) return undefined;
    const all = useRecorded.getState().rows.rows;
    const rows = thinned(
      all.map((r) => r[1]),
      LIVE_POINTS,
    ).map((k) => all[k]!);
    return { name: 'now', hours: rows.map((r) => r[0] / SECONDS_PER_HOUR), volts: rows.map((r) => r[1]) };
  }, [recording, count]);
}

function curveWords({ name, end, start, rms, charge, energy }: CurveOver): string {
  const began =
    start > 1 ? `, its first ${formatDuration(start / SECONDS_PER_HOUR)} before the load came on` : '';
  const ended = end === undefined ? 'stopped before its end' : `ended after ${formatDuration(end)}`;
  const took =
    charge === undefined ? '' : `; ${formatQuantity(charge, 'Ah', 4)}, ${formatQuantity(energy!, 'Wh', 4)}`;
  return `${name} ${ended}${began}${took}; off by ${(1000 * rms).toFixed(0)} mV on the whole.`;
}

const NOTE = {
  newestFirst: 'its lines run newest first; they were turned.',
  summerTime: 'an hour came twice as summer time ended; it was counted on.',
  midnight: 'its clock passed midnight; it was counted on.',
  restart: 'its clock began anew; the longest run was taken,',
  gap: 'a gap of',
  spikes: 'single lines whose volts jump were left out:',
};

function noteWords({ what, line, by }: LogNote): string {
  const where = line === undefined ? '' : `Line ${line}: `;
  if (what === 'gap') return `${where}${NOTE.gap} ${formatDuration(by / SECONDS_PER_HOUR)}, bridged.`;
  if (what === 'spikes') return `${NOTE.spikes} ${by}.`;
  return what === 'restart' ? `${where}${NOTE.restart} ${by} lines left out.` : `${where}${NOTE[what]}`;
}

interface ReadProps {
  file: { name: string; read: LoggedCurve };
  full: boolean;
  onColumns(columns: Columns): void;
  onKeep(curve: BenchCurve): void;
  onAway(): void;
}

/** A log whose columns a person sets right, or that cannot be read, and why. */
function Read({ file: { name, read }, full, onColumns, onKeep, onAway }: ReadProps) {
  const { heads, columns, sample, issues, notes, sum, curve } = read;
  return (
    <div className={css.read} role="group" aria-label={`Columns of ${name}`}>
      <p>
        <b>{name}</b>{' '}
        {sum && (
          <>
            {sum.rows} rows in {formatDuration(sum.seconds / SECONDS_PER_HOUR)}
            {columns.amps &&
              `, ${formatQuantity(sum.charge / SECONDS_PER_HOUR, 'Ah', 4)}, ${formatQuantity(sum.energy / SECONDS_PER_HOUR, 'Wh', 4)}`}{' '}
          </>
        )}
        <button type="button" className="link" onClick={onAway}>
          away
        </button>
      </p>
      <div>
        <LogColumns {...{ name, heads, columns }} bare onChange={onColumns} />
      </div>
      <pre>{sample.map((fields) => fields.slice(0, 6).join('   ')).join('\n')}</pre>
      {notes.map((n, k) => (
        <p key={k}>{noteWords(n)}</p>
      ))}
      {issues.slice(0, 3).map((issue, k) => (
        <p key={k} role="alert">
          ✕ {issueSentence(issue)}
        </p>
      ))}
      {full && <p role="alert">✕ A thread holds {MOST_CURVES} curves: take one away first.</p>}
      {curve && !full && (
        <button type="button" className="link strong" onClick={() => onKeep(curve)}>
          Lay it over the run
        </button>
      )}
    </div>
  );
}
