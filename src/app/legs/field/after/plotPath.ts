/** A series as the path of its envelope: in each of many narrow slices of time its least and its greatest, so that nothing short is lost. */

export interface Scale {
  readonly fromS: number;
  readonly toS: number;
  readonly left: number;
  readonly width: number;
  /** Where the greatest and the least stand. */
  readonly top: number;
  readonly low: number;
  readonly least: number;
  readonly most: number;
}

/** @returns an empty path where nothing is told in that time */
export function plotPath(seconds: Float64Array, values: Float64Array, s: Scale): string {
  const x = (t: number) => s.left + ((t - s.fromS) / (s.toS - s.fromS)) * s.width;
  const span = s.most - s.least || 1;
  const y = (v: number) => (s.low - ((v - s.least) / span) * (s.low - s.top)).toFixed(1);
  let path = '';
  let pen = false;
  let slice = Number.NaN;
  let [first, low, high, last] = [0, 0, 0, 0];
  const flush = () => {
    if (Number.isNaN(slice)) return;
    const at = (s.left + slice).toFixed(1);
    path += `${pen ? 'L' : 'M'}${at} ${y(first)}`;
    if (high !== low) path += `L${at} ${y(high)}L${at} ${y(low)}L${at} ${y(last)}`;
    pen = true;
    slice = Number.NaN;
  };
  for (let i = 0; i < seconds.length; i++) {
    const t = seconds[i]!;
    if (t < s.fromS) continue;
    if (t > s.toS) break;
    const v = values[i]!;
    if (!Number.isFinite(v)) {
      flush();
      pen = false;
      continue;
    }
    const here = Math.round(x(t) - s.left);
    if (here !== slice) {
      flush();
      slice = here;
      first = v;
      low = v;
      high = v;
    }
    low = Math.min(low, v);
    high = Math.max(high, v);
    last = v;
  }
  flush();
  return path;
}

/** Least and greatest of a series within a time; null where nothing is told. */
export function extent(
  seconds: Float64Array,
  values: Float64Array,
  fromS: number,
  toS: number,
): { readonly least: number; readonly most: number } | null {
  let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let i = 0; i < seconds.length; i++) {
    const v = values[i]!;
    if (seconds[i]! < fromS || seconds[i]! > toS || !Number.isFinite(v)) continue;
    least = Math.min(least, v);
    most = Math.max(most, v);
  }
  return least <= most ? { least, most } : null;
}
