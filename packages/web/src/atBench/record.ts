import { ThinnedRows, type RecordedRow } from '@mile-thread/core/logs';
import { MOST_POINTS } from '@mile-thread/core/model';
import { beginRecording, type Kept, type Writing } from '../storage/recordings.ts';
import {
  attempt,
  change,
  driver,
  endRecording,
  EVERY,
  running,
  stopAll,
  tellFrame,
  useBench,
  useRecorded,
  wait,
} from './connections.ts';

const { setState: put, getState: now } = useBench;

/** Rows after which a recording without volts or current is over, and rows a piece of it has. */
const OVER = 12;
const PIECE = 20;
/** Rows of the largest, ten seconds, and pieces from which on they grow. */
const LARGEST = 200;
const PIECES = 100;

/**
 * Record a run-down with the loads on until nothing flows any more, or until it is stopped.
 * @returns what was recorded, where it came to its end by itself
 */
export async function recordRun(threadId: string): Promise<Kept | undefined> {
  let whole: Kept | undefined;
  await attempt('Recording', async () => {
    const meter = driver('meter');
    const simulated = now().connections.meter!.via === 'simulated';
    if (simulated) {
      await driver('hands').tell('LOADS off');
      await driver('hands').tell('PACK:FILL');
      await meter.tell('LEADS pack');
      change('meter', { place: 'pack' });
    }
    const started = Date.now();
    const writing = await beginRecording(threadId, started);
    const { id } = writing;
    running.ending = false;
    useRecorded.setState({ rows: new ThinnedRows(MOST_POINTS), count: 0 });
    put({ recording: { id, rows: 0, started } });
    tellFrame();
    try {
      if (simulated) await switchOn();
      const from = simulated ? await driver('hands').number('LOADS:SINCE?') : started / 1000;
      /** Time, volts and current; of a real meter one after the other. */
      const row = async (): Promise<Row> => {
        if (simulated) {
          const [seconds, volts, amps] = await meter.numbers('READ:ALL?', 3);
          return [seconds! - from, volts!, amps!];
        }
        const seconds = Date.now() / 1000 - from;
        return [seconds, await meter.read('volts'), await meter.read('amps')];
      };
      await rows(writing, row);
      if (!running.ending) {
        const recording = { id, threadId, startedAt: started };
        whole = {
          recording,
          rows: [...useRecorded.getState().rows.rows],
          count: useRecorded.getState().count,
          beingWritten: false,
        };
      }
    } finally {
      writing.end();
      if (simulated) await loadsOff();
    }
  });
  await endRecording();
  return whole;
}

/** Whatever ended it, the loads do not stay on; a line that is gone has taken them off. */
async function loadsOff(): Promise<void> {
  put({ loads: 'off' });
  try {
    await driver('hands').tell('LOADS off');
  } catch {
    await stopAll();
  }
}

async function switchOn(): Promise<void> {
  await driver('hands').tell('LOADS on');
  put({ loads: 'on' });
  tellFrame();
}

type Row = RecordedRow;

async function rows(writing: Writing, read: () => Promise<Row>): Promise<void> {
  const recorded = useRecorded.getState().rows;
  let piece: Row[] = [];
  let idle = 0;
  let most = 0;
  const keep = async () => {
    const rows = piece;
    piece = [];
    await writing.keep(rows);
  };
  try {
    for (let due = performance.now(); !running.ending && idle < OVER;) {
      // By the clock, not from when the last one was through; what was missed is not made up for.
      due = Math.max(due + EVERY, performance.now());
      const next = wait(due - performance.now());
      const row = await read();
      const [seconds, , amps] = row;
      const last = recorded.rows.at(-1);
      if (!last || seconds > last[0]) {
        recorded.push(row);
        piece.push(row);
      }
      most = Math.max(most, amps);
      idle = recorded.count > OVER && amps < 0.02 * most ? idle + 1 : 0;
      useRecorded.setState({ count: recorded.count });
      if (piece.length >= Math.min(LARGEST, Math.max(PIECE, recorded.count / PIECES))) await keep();
      await next;
    }
  } finally {
    await keep();
  }
}
