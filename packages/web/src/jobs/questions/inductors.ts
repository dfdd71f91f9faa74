import { pickInductors, type InductorTask, type ListedInductor } from '@mile-thread/core/design';

/** Inductors of the generic list that carry it. */
export function inductors(task: InductorTask): ListedInductor[] {
  return pickInductors(task, 8);
}
