import { SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { useNeedle } from '../document/view.ts';
import css from './charts.module.css';

/** The needle of the run on another chart over time: where it stands, not to be dragged there. @param hours its axis */
export function TimeMark({ hours }: { hours: readonly number[] }) {
  const time = useNeedle((s) => s.time) / SECONDS_PER_HOUR;
  const [from, to] = [hours[0]!, hours[hours.length - 1]!];
  if (!(time >= from && time <= to && to > from)) return null;
  return <i className={css.timeMark} style={{ left: `${(100 * (time - from)) / (to - from)}%` }} />;
}
