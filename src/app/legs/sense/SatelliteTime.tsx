import type { Telemetry } from '#core/wire/telemetry.ts';
import { useSampled } from '../../live/hooks.ts';
import { recent } from '../../live/telemetry.ts';

const W = 720;
const H = 74;
const LEFT = 92;

/** Satellites used since the board started, with when the receiver spoke and first had a fix. */
export function SatelliteTime({
  sky,
  needed,
}: {
  readonly sky: Telemetry['sky'] | null;
  readonly needed: number;
}) {
  const points = useSampled(() => recent('sky', 250).map((s) => [s.atS, s.value.used] as const), 1000);
  const nowS = points.at(-1)?.[0] ?? 0;
  if (!sky || points.length < 2) return null;
  const fromS = points[0]![0] < 20 ? 0 : points[0]![0];
  const x = (s: number) => LEFT + ((W - LEFT - 60) * (s - fromS)) / Math.max(10, nowS - fromS);
  const most = Math.max(needed + 2, ...points.map(([, n]) => n));
  const y = (n: number) => H - 20 - (34 * n) / most;
  const line = points
    .map(
      ([s, n], i) =>
        `${i === 0 ? 'M' : 'H'}${x(s).toFixed(1)}${i === 0 ? ` ${y(n).toFixed(1)}` : `V${y(n).toFixed(1)}`}`,
    )
    .join('');
  const marks = [
    { s: sky.spokeS, words: 'speaks', color: 'var(--soft)' },
    { s: sky.fixS, words: 'first fix', color: 'var(--forest)' },
  ].filter((m) => m.s >= fromS && m.s >= 0);
  const close = marks.length === 2 && x(marks[1]!.s) - x(marks[0]!.s) < 110;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="mt-1 w-full"
      role="img"
      aria-label={`Satellites used over time: ${points.at(-1)![1]} now, ${nowS.toFixed(0)} seconds after power on`}
    >
      <text x={0} y={30} fontSize={13} fill="var(--soft)">
        satellites used
      </text>
      <text x={0} y={46} fontSize={13} fill="var(--soft)">
        since power on
      </text>
      <path d={`M${LEFT} ${H - 20}H${W - 60}`} stroke="var(--contour)" />
      <path d={`M${LEFT} ${y(needed)}H${W - 60}`} stroke="var(--line)" strokeDasharray="3 4" />
      <text x={W - 54} y={y(needed) + 4} fontSize={13} fill="var(--soft)">
        {needed} to arm
      </text>
      <path d={line} fill="none" stroke="var(--lake)" strokeWidth={2} />
      {marks.map((m, i) => (
        <g key={m.words}>
          <path d={`M${x(m.s)} 14V${H - 20}`} stroke={m.color} strokeWidth={1.4} />
          <text
            x={x(m.s) + (close && i === 0 ? -5 : 5)}
            y={12}
            fontSize={13}
            textAnchor={close && i === 0 ? 'end' : 'start'}
            fill={m.color}
          >
            <tspan className="num">{m.s.toFixed(1)}</tspan> s {m.words}
          </text>
        </g>
      ))}
      <text x={W - 60} y={H - 4} fontSize={13} textAnchor="end" fill="var(--soft)" className="num">
        {nowS.toFixed(0)} s
      </text>
      <text x={LEFT} y={H - 4} fontSize={13} fill="var(--soft)" className="num">
        {fromS.toFixed(0)} s
      </text>
    </svg>
  );
}
