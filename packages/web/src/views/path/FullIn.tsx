import { endsFull } from '@mile-thread/core/charging';
import { formatDuration, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import type { ThreadDocument } from '@mile-thread/core/model';
import { Link } from 'react-router';
import { useCharge } from '../../jobs/client.ts';

/** How long the thread's own source takes to fill the pack, with the way to Charging. */
export function FullIn({ doc }: { doc: ThreadDocument }) {
  const charge = useCharge(doc).data?.charge;
  if (!charge) return <>…</>;
  const { reason, time } = charge.end;
  const ends = endsFull(reason);
  return (
    <Link to="../charge" data-short={!ends || undefined}>
      {ends ? formatDuration(time / SECONDS_PER_HOUR) : 'never'}
    </Link>
  );
}
