import type { Motor } from '#core/airframe/airframe.ts';

/** Which way a propeller turns, as an arrow round part of its disc. */
export function Rotation({
  spin,
  cx,
  cy,
  r,
}: {
  readonly spin: Motor['spin'];
  readonly cx: number;
  readonly cy: number;
  readonly r: number;
}) {
  if (r < 7) return null;
  const s = spin === 'clockwise' ? 1 : -1;
  const q = 0.74 * r;
  const a = 0.9;
  const from = [cx - s * q * Math.sin(a), cy - q * Math.cos(a)] as const;
  const to = [cx + s * q * Math.sin(a), cy - q * Math.cos(a)] as const;
  const turn = (s * a * 180) / Math.PI + (s > 0 ? 0 : 180);
  const h = Math.min(7, Math.max(3.5, 0.2 * r));
  return (
    <g className="pointer-events-none" aria-hidden="true">
      <path
        d={`M${from[0]} ${from[1]}A${q} ${q} 0 0 ${s > 0 ? 1 : 0} ${to[0]} ${to[1]}`}
        fill="none"
        stroke="var(--soft)"
        strokeWidth={1.3}
        strokeDasharray="none"
      />
      <path
        d={`M${h} 0L${-0.5 * h} ${-0.7 * h}V${0.7 * h}z`}
        fill="var(--soft)"
        stroke="none"
        transform={`translate(${to[0]} ${to[1]}) rotate(${turn})`}
      />
    </g>
  );
}
