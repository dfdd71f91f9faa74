/**
 * Coefficients of Σ c·column that come nearest to the values, by normal equations and Cholesky: for columns that are nearly
 * orthogonal, as those of a designed basis are. A column that says nothing new gets none.
 * @param rows of the columns' values, one after the other, `columns` in each
 * Textbook.
 */
export function leastSquares(rows: Float64Array, columns: number, values: ArrayLike<number>): Float64Array {
  const n = columns;
  const matrix = new Float64Array(n * n);
  const found = new Float64Array(n);
  for (let r = 0; r < values.length; r++) {
    const o = r * n;
    for (let i = 0; i < n; i++) {
      const x = rows[o + i]!;
      found[i]! += x * values[r]!;
      for (let j = 0; j <= i; j++) matrix[i * n + j]! += x * rows[o + j]!;
    }
  }
  for (let i = 0; i < n; i++) {
    const own = matrix[i * n + i]!;
    for (let j = 0; j <= i; j++) {
      let sum = matrix[i * n + j]!;
      for (let k = 0; k < j; k++) sum -= matrix[i * n + k]! * matrix[j * n + k]!;
      if (j < i) matrix[i * n + j] = matrix[j * n + j]! > 0 ? sum / matrix[j * n + j]! : 0;
      else matrix[i * n + i] = sum > DEPENDENT * own ? Math.sqrt(sum) : 0;
    }
  }
  const pivot = (i: number) => matrix[i * n + i]!;
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < i; k++) found[i]! -= matrix[i * n + k]! * found[k]!;
    found[i] = pivot(i) > 0 ? found[i]! / pivot(i) : 0;
  }
  for (let i = n - 1; i >= 0; i--) {
    for (let k = i + 1; k < n; k++) found[i]! -= matrix[k * n + i]! * found[k]!;
    found[i] = pivot(i) > 0 ? found[i]! / pivot(i) : 0;
  }
  return found;
}

/** Share of a column's own sum of squares below which the others say all of it. */
const DEPENDENT = 1e-10;
