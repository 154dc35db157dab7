import { useMemo, useRef } from 'react';
import { DEG, wrapBearingDeg } from '#core/math/scalar.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import type { FlightPlan } from '#core/plan/plan.ts';
import type { RouteMoment } from '#core/plan/routeWay.ts';
import type { Limit } from '#core/reach/homeMarch.ts';
import { limitFigure, limitNames } from '#core/reach/place.ts';
import type { Site } from '#core/site/site.ts';
import { formatBearing, formatQuantity } from '#core/units/units.ts';
import { NoReturnMark } from '../../../drawing/NoReturnMark.tsx';
import { SiteGround } from '../../../drawing/SiteGround.tsx';
import { siteFrame } from '../../../drawing/siteFrame.ts';
import { WindHandle } from '../../../drawing/WindHandle.tsx';
import type { FlownCheck } from '../../../store/reachSlice.ts';
import { useApp } from '../../../store/store.ts';
import { dragOn } from '../../../ui/dragOn.ts';
import type { DrawnReach } from '../../../workers/drawnReach.ts';
import { borderLine } from './borderLine.ts';

interface Props {
  readonly site: Site;
  readonly map: DrawnReach | null;
  /** The place that is looked at, from home. */
  readonly bearingDeg: number;
  readonly distanceM: number;
  readonly checks: readonly FlownCheck[];
  readonly wind: { readonly speedMps: number; readonly fromDeg: number };
  /** The route that is drawn, and the first place of it that it would not come home from. */
  readonly plan: FlightPlan;
  readonly noReturn: RouteMoment | null;
  readonly onPlace: (bearingDeg: number, distanceM: number) => void;
  readonly onWind: (fromDeg: number, speedMps: number) => void;
}

const NEAREST_M = 200;
const FARTHEST_M = 8400;
const ink: Readonly<Record<Limit, string>> = {
  energy: 'var(--amber)',
  wind: 'var(--lake)',
  ground: 'var(--ink)',
  time: 'var(--yaw)',
  fence: 'var(--roll)',
};
/** Pieces shorter than this get no badge, and badges stand so far from each other, map's units. */
const BADGE_LEAST = 7;
const BADGE_APART = 12;

/** The site from above, with the line that it comes home from. */
export function ReachChart(props: Props) {
  const { site, map, bearingDeg, distanceM, checks, wind, plan, noReturn, onPlace, onWind } = props;
  const svg = useRef<SVGSVGElement>(null);
  const units = useApp((s) => s.ui.units);
  const frame = siteFrame(site);
  const { home, unitM } = frame;
  const at = ([e, n]: readonly [number, number]) => [home[0] + e / unitM, home[1] - n / unitM] as const;
  const drawn = useMemo(() => {
    if (!map) return null;
    const to = ([e, n]: readonly [number, number]) => [home[0] + e / unitM, home[1] - n / unitM] as const;
    const good = map.rings
      .map(
        (ring) =>
          `M${ring
            .map((p) =>
              to(p)
                .map((v) => v.toFixed(2))
                .join(' '),
            )
            .join('L')}Z`,
      )
      .join('');
    const pieces = map.pieces.map((piece) => {
      const points = piece.points.map(to);
      return { piece, line: borderLine(piece.limit, points, piece.badSide), points };
    });
    return { good, pieces, badges: badgesOf(pieces, frame.width, frame.height) };
  }, [map, home, unitM, frame]);
  const goal = at([distanceM * Math.sin(bearingDeg * DEG), distanceM * Math.cos(bearingDeg * DEG)]);
  const move = (x: number, y: number) => {
    const place = frame.placeAt(x, y);
    const east = eastOf(site.home.lat, site.home.lon, place.lon);
    const north = northOf(site.home.lat, place.lat);
    onPlace(
      Math.round(wrapBearingDeg(Math.atan2(east, north) / DEG)),
      Math.min(FARTHEST_M, Math.max(NEAREST_M, Math.round(Math.hypot(east, north) / 50) * 50)),
    );
  };
  const beyond = `M0 0H${frame.width}V${frame.height}H0Z`;
  return (
    <svg
      ref={svg}
      viewBox={frame.viewBox}
      className={`max-h-[440px] w-full min-w-[640px] rounded-[4px] border border-line ${frame.sea ? 'bg-sea' : 'bg-sheet'}`}
      aria-label={`Map of ${site.name}: where it comes home from`}
    >
      <defs>
        <pattern
          id="not-home"
          width="1.6"
          height="1.6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0V1.6" stroke="var(--soft)" strokeWidth="0.16" strokeOpacity="0.55" />
        </pattern>
      </defs>
      <SiteGround site={site} />
      {drawn && (
        <>
          <path d={`${beyond}${drawn.good}`} fillRule="evenodd" fill="var(--sunk)" fillOpacity={0.45} />
          <path d={`${beyond}${drawn.good}`} fillRule="evenodd" fill="url(#not-home)" />
          {drawn.pieces.map(({ piece, line }) => (
            <g key={`${piece.points[0]!.join()} ${piece.limit}`} stroke={ink[piece.limit]}>
              <path
                d={line.line}
                fill="none"
                strokeWidth={0.4}
                strokeDasharray={line.dash}
                strokeLinejoin="round"
              />
              {line.filled ? (
                <path d={line.marks} fill={ink[piece.limit]} stroke="none" />
              ) : (
                <path d={line.marks} fill="none" strokeWidth={0.32} />
              )}
            </g>
          ))}
        </>
      )}
      {plan.points.length > 0 && (
        <path
          d={`M${[site.home, ...plan.points].map((p) => frame.at(p).join(' ')).join('L')}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={0.3}
          strokeDasharray="1.2 0.5"
          pointerEvents="none"
        >
          <title>The route that is drawn</title>
        </path>
      )}
      {noReturn && <NoReturnMark at={at([noReturn.eastM, noReturn.northM])} limit={noReturn.limit} />}
      <path
        d={`M${home[0]} ${home[1]}L${goal[0]} ${goal[1]}`}
        stroke="var(--ink)"
        strokeWidth={0.22}
        pointerEvents="none"
      />
      <path
        transform={`translate(${home[0]} ${home[1]})`}
        d="M0 -1.500L1.500 0 0 1.500-1.500 0Z"
        fill="var(--forest)"
      />
      {checks.map((c) => (
        <CheckMark key={`${c.eastM} ${c.northM}`} at={at([c.eastM, c.northM])} home={c.home} />
      ))}
      {drawn?.badges.map(({ piece, x, y, left }) => (
        <g key={`${x} ${y}`} transform={`translate(${x} ${y})`} aria-hidden="true" pointerEvents="none">
          <circle r={1.5} fill={ink[piece.limit]} stroke="var(--sheet)" strokeWidth={0.3} />
          <text y={0.75} textAnchor="middle" fontSize={2} fontWeight={600} fill="var(--sheet)">
            {limitNames[piece.limit].letter}
          </text>
          <text
            x={left ? -2.2 : 2.2}
            textAnchor={left ? 'end' : 'start'}
            fontSize={2.1}
            paintOrder="stroke"
            stroke="var(--sheet)"
            strokeWidth={0.6}
            strokeLinejoin="round"
          >
            <tspan y={-0.4} x={left ? -2.2 : 2.2} fontWeight={600} fill={ink[piece.limit]}>
              {limitNames[piece.limit].name}
            </tspan>
            <tspan y={2} x={left ? -2.2 : 2.2} fill="var(--ink)">
              {limitFigure(piece.beyond, units)}
            </tspan>
          </text>
        </g>
      ))}
      <g
        role="slider"
        tabIndex={0}
        aria-label="Place that is looked at: arrows turn it about home, with Shift farther or nearer"
        aria-valuenow={bearingDeg}
        aria-valuemin={0}
        aria-valuemax={360}
        aria-valuetext={`bearing ${bearingDeg}°, ${formatQuantity(distanceM, 'm', units, 0)} from home`}
        className="cursor-move touch-none"
        {...dragOn(svg, (p) => move(p.x, p.y))}
        onKeyDown={(e) => {
          const up = e.key === 'ArrowRight' || e.key === 'ArrowUp';
          const down = e.key === 'ArrowLeft' || e.key === 'ArrowDown';
          if (!up && !down) return;
          e.preventDefault();
          const by = up ? 1 : -1;
          if (e.shiftKey)
            onPlace(bearingDeg, Math.min(FARTHEST_M, Math.max(NEAREST_M, distanceM + 100 * by)));
          else onPlace(wrapBearingDeg(bearingDeg + 2 * by), distanceM);
        }}
      >
        <circle cx={goal[0]} cy={goal[1]} r={2.4} fill="transparent" />
        <circle
          cx={goal[0]}
          cy={goal[1]}
          r={1.1}
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth={0.45}
        />
        <text
          x={goal[0] + 2}
          y={goal[1] + 0.8}
          fontSize={2.2}
          className="num"
          fill="var(--ink)"
          paintOrder="stroke"
          stroke="var(--sheet)"
          strokeWidth={0.6}
        >
          {formatBearing(bearingDeg * DEG)}
        </text>
      </g>
      <WindHandle wind={wind} onWind={onWind} x={7} y={frame.height - 11} />
    </svg>
  );
}

/** A place that was flown from: home, or not. Told apart by shape. */
function CheckMark({ at: [x, y], home }: { readonly at: readonly [number, number]; readonly home: boolean }) {
  return home ? (
    <path
      transform={`translate(${x} ${y})`}
      d="M0 -.8L.8 0 0 .8-.8 0Z"
      fill="var(--forest)"
      stroke="var(--sheet)"
      strokeWidth={0.15}
    />
  ) : (
    <circle cx={x} cy={y} r={0.62} fill="var(--sheet)" stroke="var(--red)" strokeWidth={0.34} />
  );
}

/** The long pieces' middles, as far as they do not stand on each other. */
function badgesOf<T extends { readonly points: readonly (readonly [number, number])[] }>(
  pieces: readonly T[],
  width: number,
  height: number,
): (T & { readonly x: number; readonly y: number; readonly left: boolean })[] {
  const lengthOf = (points: T['points']) =>
    points.reduce(
      (sum, p, i) => (i === 0 ? 0 : sum + Math.hypot(p[0] - points[i - 1]![0], p[1] - points[i - 1]![1])),
      0,
    );
  const out: (T & { x: number; y: number; left: boolean })[] = [];
  for (const piece of [...pieces].sort((a, b) => lengthOf(b.points) - lengthOf(a.points))) {
    if (lengthOf(piece.points) < BADGE_LEAST || out.length >= 6) break;
    // Of its points that can be seen, the middle one.
    const seen = piece.points.filter(([x, y]) => x > 3 && y > 3 && x < width - 3 && y < height - 4);
    const middle = seen[Math.floor(seen.length / 2)];
    if (!middle || out.some((o) => Math.hypot(o.x - middle[0], o.y - middle[1]) < BADGE_APART)) continue;
    out.push({ ...piece, x: middle[0], y: middle[1], left: middle[0] > 0.68 * width });
  }
  return out;
}
