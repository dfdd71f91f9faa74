import type { Issue } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';

/** A check for values of a tool that are no part of the document: within limits, or said why not. */
export function between(least: number, most: number, unit: string, take: (value: number) => void) {
  return (value: number | undefined): Issue[] => {
    if (value === undefined || !(value >= least && value <= most)) {
      const allowed = `from ${formatQuantity(least, unit)} to ${formatQuantity(most, unit)}`;
      return [{ code: 'range', path: '', given: String(value), allowed }];
    }
    take(value);
    return [];
  };
}
