import type { RouteMoment } from '#core/plan/routeWay.ts';

/** On a map: from here on along the route it would not come home, or only over a fence. @param k how much finer it is drawn */
export function NoReturnMark({
  at: [x, y],
  limit,
  k = 1,
}: {
  readonly at: readonly [number, number];
  readonly limit: RouteMoment['limit'];
  readonly k?: number;
}) {
  const ink = limit === 'fence' ? 'var(--amber)' : 'var(--red)';
  return (
    <g transform={`translate(${x} ${y}) scale(${k})`} pointerEvents="none">
      <path d="M0 0V-4.200" stroke={ink} strokeWidth={0.4} />
      <path d="M0 -4.200h2.900l-.9 .9 .9 .9h-2.900z" fill={ink} />
      <circle r={0.55} fill="var(--sheet)" stroke={ink} strokeWidth={0.35} />
      <text
        x={3.4}
        y={-2.6}
        fontSize={2}
        fill={ink}
        fontWeight={600}
        paintOrder="stroke"
        stroke="var(--sheet)"
        strokeWidth={0.6}
        strokeLinejoin="round"
      >
        {limit === 'fence' ? 'home only over a fence from here on' : 'no way home from here on'}
      </text>
    </g>
  );
}
