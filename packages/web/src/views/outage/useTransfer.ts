import type { BackupAnswers } from '@mile-thread/core/charging';
import { useOutageNeedle } from '../../document/view.ts';

/** [s] The instant mains goes that is next to the needle; undefined where it never does. */
export function useTransfer({ rows }: BackupAnswers): number | undefined {
  return useOutageNeedle(({ time }) =>
    rows.length === 0
      ? undefined
      : rows.reduce((a, b) => (Math.abs(b.from - time) < Math.abs(a.from - time) ? b : a)).from,
  );
}
