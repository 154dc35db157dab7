import type { RouteMoment, RouteWay } from '#core/plan/routeWay.ts';
import { formatDuration, formatQuantity } from '#core/units/units.ts';
import { ChargeStrip, DistanceTicks, HeightLines } from '../../../drawing/sideView.tsx';
import { useApp } from '../../../store/store.ts';

const WIDTH = 720;
const HEIGHT = 200;
const LEFT = 62;
const RIGHT = 690;
const TOP = 22;
const FLOOR = 146;
const BAR = 24;
/** Between two numbers over the profile. */
const NAMES_APART = 24;

/** The route from the side: height over the ground along it, where the link is lost to the ground, and the charge. */
export function RouteProfile({
  way,
  reserveShare,
  picked,
  onPick,
}: {
  readonly way: RouteWay;
  readonly reserveShare: number;
  readonly picked: number | null;
  readonly onPick: (at: number) => void;
}) {
  const units = useApp((s) => s.ui.units);
  const { moments, arrivals } = way;
  const noReturn = way.noReturn ?? way.overFence;
  const last = moments.at(-1)!;
  const far = Math.max(100, last.wayM);
  const top = Math.ceil((Math.max(60, ...moments.map((m) => Math.max(m.heightM, m.groundM))) + 30) / 50) * 50;
  const low = Math.min(0, ...moments.map((m) => m.groundM));
  const x = (way: number) => LEFT + (way / far) * (RIGHT - LEFT);
  const y = (h: number) => FLOOR - ((h - low) / (top - low)) * (FLOOR - TOP);
  const m = (v: number) => formatQuantity(v, 'm', units, 0);
  const path = (height: (p: RouteMoment) => number) =>
    moments.map((p) => `${x(p.wayM).toFixed(1)} ${y(height(p)).toFixed(1)}`).join('L');
  const unheard = moments.filter((p) => !p.heard);
  const named = new Set<number>();
  let from = Number.NEGATIVE_INFINITY;
  for (const [i, a] of arrivals.entries())
    if (x(a.wayM) - from > NAMES_APART) {
      named.add(i);
      from = x(a.wayM);
    }
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full min-w-[640px]"
      aria-label="The route from the side"
    >
      <HeightLines topM={top} left={LEFT} right={RIGHT} y={y} />
      <path
        d={`M${path((p) => p.groundM)}L${x(last.wayM)} ${FLOOR + 3}L${x(0)} ${FLOOR + 3}Z`}
        fill="var(--sunk)"
        stroke="var(--contour)"
        strokeWidth={1.4}
      />
      <path
        d={`M${path((p) => p.heightM)}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={2.4}
        strokeLinejoin="round"
      />
      {unheard.map((p) => (
        <circle key={p.wayM + p.seconds} cx={x(p.wayM)} cy={y(p.heightM)} r={2.4} fill="var(--amber)" />
      ))}
      {arrivals.map((a, i) => (
        <g key={i} className="cursor-pointer" onPointerDown={() => onPick(i)}>
          <path
            d={`M${x(a.wayM)} ${TOP - 4}V${FLOOR}`}
            stroke={picked === i ? 'var(--ink)' : 'var(--line)'}
            strokeWidth={picked === i ? 1.6 : 1}
          />
          {(named.has(i) || picked === i) && (
            <text
              x={x(a.wayM)}
              y={TOP - 8}
              textAnchor="middle"
              fontSize={13}
              className="num"
              fontWeight={picked === i ? 600 : 400}
              fill={picked === i ? 'var(--ink)' : 'var(--soft)'}
            >
              {i + 1}
            </text>
          )}
        </g>
      ))}
      {noReturn && (
        <g pointerEvents="none" className={noReturn.limit === 'fence' ? 'text-amber' : 'text-red'}>
          <path d={`M${x(noReturn.wayM)} ${y(noReturn.heightM)}v-34`} stroke="currentColor" strokeWidth={2} />
          <path d={`M${x(noReturn.wayM)} ${y(noReturn.heightM) - 34}h16l-5 5 5 5h-16z`} fill="currentColor" />
        </g>
      )}
      <DistanceTicks farM={far} most={6} floor={FLOOR} x={x} />
      <ChargeStrip
        points={moments.map((p) => ({ x: x(p.wayM), share: p.share }))}
        reserveShare={reserveShare}
        left={LEFT}
        right={RIGHT}
        bottom={HEIGHT - 4}
        high={BAR}
      />
      <title>{`${m(way.lengthM)} in ${formatDuration(way.seconds)}`}</title>
    </svg>
  );
}
