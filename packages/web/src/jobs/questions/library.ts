import { stageLibrary } from '@mile-thread/core';
import type { StageRecord } from '@mile-thread/core/model';

/** The generic stages. */
export function library(): StageRecord[] {
  return stageLibrary();
}
