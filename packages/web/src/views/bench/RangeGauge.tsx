import type { PlanStep } from '@mile-thread/core/bench';
import type { BenchReading } from '@mile-thread/core/model';
import css from './bench.module.css';

const WIDTH = 240;
const HEIGHT = 30;
const EDGE = 8;
/** Half ranges that are shown beside a range. */
const AROUND = 2.2;

/** The range a reading is expected in, and where the readings are: what is beyond the picture stands at its end. */
export function RangeGauge({ step, readings }: { step: PlanStep; readings: readonly BenchReading[] }) {
  const { predicted: p } = step;
  if (!p) return <span />;
  const half = Math.max((p.p90 - p.p10) / 2, 1e-3 * Math.abs(p.value));
  const middle = (p.p90 + p.p10) / 2;
  const x = (v: number) => {
    const share = (v - middle + AROUND * half) / (2 * AROUND * half);
    return EDGE + Math.min(1, Math.max(0, share)) * (WIDTH - 2 * EDGE);
  };
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className={css.gauge}
      aria-hidden="true"
    >
      <line x1={EDGE} x2={WIDTH - EDGE} y1={15} y2={15} />
      <rect x={x(p.p10)} y={9} width={Math.max(2, x(p.p90) - x(p.p10))} height={12} rx={2} />
      <line x1={x(p.value)} x2={x(p.value)} y1={6} y2={24} data-expected />
      {readings.map((r, k) => (
        <circle key={k} cx={x(r.value)} cy={15} r={4.6} />
      ))}
    </svg>
  );
}
