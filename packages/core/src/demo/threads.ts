import type { ThreadDocument } from '../model/thread.ts';
import { libraryDoorLock } from './doorLock.ts';
import { tidePoolMicroscope } from './microscope.ts';
import { streetPuppet } from './puppet.ts';
import { lakeWaterSampler } from './sampler.ts';
import { ferryStop } from './sign.ts';

/** Threads that ship with the application, the one to begin with first. All of it invented. */
export function demoThreads(): ThreadDocument[] {
  return [tidePoolMicroscope(), ferryStop(), libraryDoorLock(), streetPuppet(), lakeWaterSampler()];
}
