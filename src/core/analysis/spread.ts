/** NaN of nothing. */
export function mean(values: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i]!;
  return sum / values.length;
}

/** Standard deviation about the mean; NaN of nothing. */
export function spread(values: ArrayLike<number>): number {
  const middle = mean(values);
  let squares = 0;
  for (let i = 0; i < values.length; i++) squares += (values[i]! - middle) ** 2;
  return Math.sqrt(squares / values.length);
}
