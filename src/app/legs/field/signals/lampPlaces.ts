import { type Airframe, isRotorcraft, widthOf, wingOf } from '#core/airframe/airframe.ts';
import { topView } from '#core/airframe/outline.ts';

/** Metres right of and behind the nose of each lamp: a third along the left, a third along the right, the rest behind. */
export function lampPlaces(airframe: Airframe, n: number): (readonly [number, number])[] {
  const wide = widthOf(airframe);
  const { length } = topView(airframe);
  const wing = isRotorcraft(airframe) ? null : wingOf(airframe);
  const left = Math.ceil(n / 3);
  const right = Math.ceil((2 * n) / 3) - left;
  const rear = n - left - right;
  const along = (i: number, of: number) => (i + 1) / (of + 0.5);
  const side = (sign: number, of: number) =>
    Array.from({ length: of }, (_, i) => {
      const t = Math.min(0.97, along(i, of));
      const aft = wing ? wing.rootAftM + t * (wing.tipAftM - wing.rootAftM) : 0.5 * length;
      return [sign * t * 0.5 * wide, aft] as const;
    });
  const behind = Array.from(
    { length: rear },
    (_, i) => [0.12 * wide * (along(i, rear) - 0.5) * (rear > 1 ? 1 : 0), length] as const,
  );
  return [...side(-1, left), ...side(1, right), ...behind];
}
