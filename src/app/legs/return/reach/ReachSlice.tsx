import type { WayPoint } from '#core/reach/homeMarch.ts';
import { formatDuration, formatQuantity } from '#core/units/units.ts';
import { ChargeStrip, DistanceTicks, HeightLines } from '../../../drawing/sideView.tsx';
import { useApp } from '../../../store/store.ts';
import type { ReachWay } from '../../../workers/drawnReach.ts';

const WIDTH = 720;
const HEIGHT = 196;
const LEFT = 62;
const RIGHT = 690;
const TOP = 18;
const FLOOR = 150;
/** Height of the strip of charge. */
const BAR = 22;
const ARROWS = 5;
/** Less than this over ground is standing still. */
const STANDS_MPS = 0.6;

/** The way home from one place, from the side: height over the ground, wind, time and charge along it. Home is at the left. */
export function ReachSlice({ way, reserveShare }: { readonly way: ReachWay; readonly reserveShare: number }) {
  const units = useApp((s) => s.ui.units);
  const { points, place } = way;
  const far = Math.max(...points.map((p) => p.distanceM), 100);
  const top = Math.ceil((Math.max(...points.map((p) => Math.max(p.heightM, p.groundM)), 60) + 40) / 50) * 50;
  const low = Math.min(0, ...points.map((p) => p.groundM));
  const x = (d: number) => LEFT + (d / far) * (RIGHT - LEFT);
  const y = (h: number) => FLOOR - ((h - low) / (top - low)) * (FLOOR - TOP);
  const m = (v: number) => formatQuantity(v, 'm', units, 0);
  const last = points.at(-1)!;
  const arrived = last.distanceM < 30;
  const path = (of: readonly WayPoint[], height: (p: WayPoint) => number) =>
    `M${of.map((p) => `${x(p.distanceM).toFixed(1)} ${y(height(p)).toFixed(1)}`).join('L')}`;
  const arrows = Array.from({ length: ARROWS }, (_, i) => {
    const d = far * ((i + 0.5) / ARROWS);
    return points.reduce((a, b) => (Math.abs(b.distanceM - d) < Math.abs(a.distanceM - d) ? b : a));
  }).filter((p, i, all) => p.wayMps > 0 && all.indexOf(p) === i);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full min-w-[640px]"
      aria-label="The way home from there, from the side"
    >
      <HeightLines topM={top} left={LEFT} right={RIGHT} y={y} />
      <path
        d={`${path(points, (p) => p.groundM)}L${x(last.distanceM)} ${FLOOR + 3}L${x(points[0]!.distanceM)} ${FLOOR + 3}Z`}
        fill="var(--sunk)"
        stroke="var(--contour)"
        strokeWidth={1.4}
      />
      <path
        d={path(points, (p) => p.heightM)}
        fill="none"
        stroke="var(--forest)"
        strokeWidth={3}
        strokeLinejoin="round"
      />
      {!arrived && (
        <g>
          <path
            d={`M${x(last.distanceM)} ${y(last.heightM)}H${x(0)}`}
            stroke="var(--red)"
            strokeWidth={2.4}
            strokeDasharray="7 5"
          />
          <text
            x={x(last.distanceM / 2)}
            y={y(last.heightM) - 7}
            textAnchor="middle"
            fontSize={13}
            fontWeight={600}
            fill="var(--red)"
          >
            {place.limit === 'wind' ? 'makes no way from here on' : 'does not get any farther'}
          </text>
        </g>
      )}
      {arrows.map((p, i) => (
        <text
          key={p.distanceM}
          x={i === 0 ? LEFT + 8 : x(p.distanceM)}
          y={Math.max(TOP - 4, y(p.heightM) - 8)}
          textAnchor={i === 0 ? 'start' : 'middle'}
          fontSize={13}
          className="num"
          fill={p.wayMps < STANDS_MPS ? 'var(--red)' : 'var(--lake)'}
        >
          {formatQuantity(p.wayMps, 'm/s', units, 0)}
          {i === 0 && ' over ground'}
        </text>
      ))}
      {place.clearanceM < 60 && place.clearanceAtM > 1 && (
        <g>
          <circle
            cx={x(place.clearanceAtM)}
            cy={y(nearest(points, place.clearanceAtM).groundM)}
            r={4}
            fill="var(--sheet)"
            stroke={place.clearanceM < 30 ? 'var(--red)' : 'var(--contour)'}
            strokeWidth={2}
          />
          <text
            x={Math.min(RIGHT - 60, x(place.clearanceAtM) + 8)}
            y={y(nearest(points, place.clearanceAtM).groundM) + 14}
            fontSize={13}
            fill={place.clearanceM < 30 ? 'var(--red)' : 'var(--soft)'}
          >
            {m(Math.abs(place.clearanceM))} {place.clearanceM < 0 ? 'below' : 'above'} the ground
          </text>
        </g>
      )}
      <path d={`M${x(0)} ${y(0) - 6}l6 6-6 6-6-6Z`} fill="var(--forest)" />
      <circle
        cx={x(points[0]!.distanceM)}
        cy={y(points[0]!.heightM)}
        r={5}
        fill="var(--sheet)"
        stroke="var(--ink)"
        strokeWidth={2}
      />
      <ChargeStrip
        points={points.map((p) => ({ x: x(p.distanceM), share: p.batteryShare }))}
        reserveShare={reserveShare}
        left={LEFT}
        right={RIGHT}
        bottom={HEIGHT - 4}
        high={BAR}
      />
      <DistanceTicks farM={far} most={4} floor={FLOOR} x={x} from={LEFT + 160} />
      <text x={LEFT} y={FLOOR + 17} fontSize={13} fill="var(--soft)">
        {arrived ? `home after ${formatDuration(last.seconds)}` : 'home'}
      </text>
    </svg>
  );
}

const nearest = (points: readonly WayPoint[], distanceM: number): WayPoint =>
  points.reduce((a, b) => (Math.abs(b.distanceM - distanceM) < Math.abs(a.distanceM - distanceM) ? b : a));
