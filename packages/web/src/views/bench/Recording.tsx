import type { BenchCurve, ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { useEffect, useRef } from 'react';
import { dropRecording, findOrphans, useRecordings, type Kept } from '../../storage/recordings.ts';
import { curveOf } from './model.ts';
import { recordRun } from '../../atBench/record.ts';
import { stopAll, useBench, useRecorded } from '../../atBench/connections.ts';
import css from './curves.module.css';

interface Props {
  doc: ThreadDocument;
  threadId: string;
  onKeep(curve: BenchCurve): boolean;
}

/** Rows that are worth keeping. */
const LEAST_ROWS = 8;
/** [ms] One that has just begun has no rows yet. */
const BEGUN = 60_000;

/** A run-down being recorded; and what was recorded and not yet taken, through a reload too. */
export function Recording({ threadId, onKeep }: Props) {
  // What is connected for another thread is none of this one's.
  const recording = useBench((s) => (s.threadId === threadId ? s.recording : undefined));
  const meter = useBench((s) => (s.threadId === threadId ? s.connections.meter : undefined));
  const count = useRecorded((s) => s.count);
  const here = useRef(true);
  useEffect(() => {
    here.current = true;
    return () => void (here.current = false);
  }, []);
  useEffect(() => void findOrphans(threadId).catch(() => undefined), [threadId]);
  // Not read again with every piece of the one that goes on.
  const kept = useRecordings(recording ? undefined : threadId);
  // A run that is over goes onto the run by itself; what a reload or a lost line cut short waits to be looked at.
  const waiting = (kept ?? []).filter((k) => k.recording.id !== recording?.id);
  useEffect(() => {
    for (const { rows, recording: of, beingWritten } of waiting) {
      if (!beingWritten && rows.length < LEAST_ROWS && Date.now() - of.startedAt > BEGUN)
        void dropRecording(of.id);
    }
  });
  if (recording) {
    const last = useRecorded.getState().rows.rows.at(-1);
    return (
      <p className={css.recording}>
        <b>● recording</b> {count} readings
        {last &&
          `, ${formatDuration(last[0] / SECONDS_PER_HOUR)}, ${last[1].toFixed(2)} V, ${last[2].toFixed(3)} A`}
        <button type="button" className="link strong" onClick={() => void stopAll()}>
          end it
        </button>
      </p>
    );
  }
  const take = (k: Kept) => {
    if (onKeep(curveOf(k))) void dropRecording(k.recording.id);
  };
  const record = async () => {
    const whole = await recordRun(threadId);
    // Who has gone to another view finds it here, to be laid over the run by hand.
    if (whole && here.current) take(whole);
  };
  return (
    <>
      {waiting
        .filter((k) => k.rows.length >= LEAST_ROWS)
        .map((k) =>
          k.beingWritten ? (
            <p key={k.recording.id} className={css.recording}>
              <b>● being recorded in another tab</b> {k.count} readings so far; it can be laid over the run
              when that has ended
            </p>
          ) : (
            <p key={k.recording.id} className={css.recording}>
              <b>Recorded {new Date(k.recording.startedAt).toTimeString().slice(0, 5)}</b>
              {k.count} readings in {formatDuration(k.rows.at(-1)![0] / SECONDS_PER_HOUR)}
              <button type="button" className="link strong" onClick={() => take(k)}>
                lay it over the run
              </button>
              <button type="button" className="link" onClick={() => void dropRecording(k.recording.id)}>
                throw it away
              </button>
            </p>
          ),
        )}
      {meter && (
        <p className={css.recording}>
          <button type="button" className="link strong" onClick={() => void record()}>
            Record a run-down
          </button>
          {meter.via === 'simulated'
            ? 'from full, its own loads on, until nothing flows any more'
            : 'switch the loads on when you have begun; volts at the pack, every twentieth of a second'}
        </p>
      )}
    </>
  );
}
