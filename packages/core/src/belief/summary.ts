/** What many runs come to. */
export interface Summary {
  count: number;
  /** those that 10, 50 and 90 % of the runs do not reach */
  p10: number;
  p50: number;
  p90: number;
  mean: number;
  deviation: number;
}

/** Quantiles and moments of a sample of at least one value. */
export function summaryOf(values: ArrayLike<number>): Summary {
  const sorted = Float64Array.from(values).sort();
  const count = sorted.length;
  const mean = sorted.reduce((sum, v) => sum + v, 0) / count;
  const square = sorted.reduce((sum, v) => sum + (v - mean) ** 2, 0);
  return {
    count,
    p10: quantile(sorted, 0.1),
    p50: quantile(sorted, 0.5),
    p90: quantile(sorted, 0.9),
    mean,
    deviation: Math.sqrt(square / Math.max(1, count - 1)),
  };
}

/** Straight between the sample's own values. Hyndman and Fan 1996, definition 7 (from memory). @param sorted rising */
function quantile(sorted: Float64Array, share: number): number {
  const at = share * (sorted.length - 1);
  const below = Math.floor(at);
  const above = Math.min(below + 1, sorted.length - 1);
  return sorted[below]! + (at - below) * (sorted[above]! - sorted[below]!);
}

/** Share of a sample that reaches a need, 0…1. */
export function reaching(values: ArrayLike<number>, need: number): number {
  let count = 0;
  for (let k = 0; k < values.length; k++) if (values[k]! >= need) count++;
  return count / values.length;
}
