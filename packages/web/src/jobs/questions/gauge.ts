import { gaugeReading, type GaugeReading } from '@mile-thread/core';
import type { ThreadDocument } from '@mile-thread/core/model';
import { runOf } from './runs.ts';

/** What a thread's gauge tells of its pack; none where it has none or nothing runs. */
export function gauge(doc: ThreadDocument): GaugeReading | null {
  const { gauge: own } = doc.pack;
  const run = runOf(doc);
  return own && run.deadEnd.time > 0 ? gaugeReading(doc, run, own) : null;
}
