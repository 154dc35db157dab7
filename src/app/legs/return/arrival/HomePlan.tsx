import { contours } from 'd3-contour';
import { useMemo } from 'react';
import { groundAbout, groundHeight } from '#core/flight/terrain.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import { APPROACH_ROOM_M, type Approach, ARRIVAL_WINDS_DEG } from '#core/reach/arrivals.ts';
import type { Site } from '#core/site/site.ts';
import { formatQuantity } from '#core/units/units.ts';
import { useApp } from '../../../store/store.ts';
import type { Arrived } from './useArrivals.ts';

const SIZE = 360;
const CELLS = 48;
const STEPS_M = [1, 2, 5, 10, 20, 50];

interface Props {
  readonly site: Site;
  /** Half the side of what is shown, m. */
  readonly halfM: number;
  readonly radiusM: number;
  /** Those of a wing that lands; none otherwise. */
  readonly approaches: readonly Approach[];
  readonly flown: readonly Arrived[];
  readonly picked: number | null;
  readonly onPick: (fromDeg: number) => void;
}

/** Home from above, so near that a circle and an approach are seen; where flights ended in eight winds. */
export function HomePlan({ site, halfM, radiusM, approaches, flown, picked, onPick }: Props) {
  const units = useApp((s) => s.ui.units);
  const k = SIZE / (2 * halfM);
  const at = ([e, n]: readonly [number, number]) => [SIZE / 2 + k * e, SIZE / 2 - k * n] as const;
  const lines = useMemo(() => contoursNear(site, halfM), [site, halfM]);
  const path = (points: readonly (readonly [number, number])[]) =>
    points.length < 2
      ? ''
      : `M${points
          .map((p) =>
            at(p)
              .map((v) => v.toFixed(1))
              .join(' '),
          )
          .join('L')}`;
  const bar = [20, 50, 100, 200, 500].find((m) => m * k > 50) ?? 1000;
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      className="w-full max-w-[440px] rounded-[4px] border border-line bg-sheet"
      aria-label="Home from above, with the arrivals"
    >
      {lines.map((l) => (
        <path
          key={l.level}
          d={l.path}
          fill="none"
          stroke="var(--contour)"
          strokeWidth={0.7}
          strokeOpacity={0.7}
        />
      ))}
      {site.obstacles.map((o) => {
        const [x, y] = at([eastOf(site.home.lat, site.home.lon, o.lon), northOf(site.home.lat, o.lat)]);
        return (
          <circle
            key={`${o.name} ${o.lat}`}
            cx={x}
            cy={y}
            r={Math.max(3, k * o.radiusM)}
            fill="var(--amber-wash)"
            stroke="var(--amber)"
          />
        );
      })}
      <circle
        cx={SIZE / 2}
        cy={SIZE / 2}
        r={k * radiusM}
        fill="none"
        stroke="var(--forest)"
        strokeWidth={1.2}
        strokeDasharray="5 4"
      />
      {approaches.map((a) => (
        <path
          key={a.fromDeg}
          d={path([a.gate, [0, 0]])}
          stroke={a.clearanceM < APPROACH_ROOM_M ? 'var(--red)' : 'var(--forest)'}
          strokeWidth={picked === a.fromDeg ? 2.4 : 1}
          strokeDasharray={a.clearanceM < APPROACH_ROOM_M ? '2 3' : undefined}
          strokeOpacity={picked === null || picked === a.fromDeg ? 1 : 0.4}
        />
      ))}
      {flown.map((f) => (
        <path
          key={f.fromDeg}
          d={path(f.way)}
          fill="none"
          stroke="var(--lake)"
          strokeWidth={picked === f.fromDeg ? 2 : 0.8}
          strokeOpacity={picked === null ? 0.6 : picked === f.fromDeg ? 1 : 0.15}
        />
      ))}
      <path d={`M${SIZE / 2} ${SIZE / 2 - 7}l7 7-7 7-7-7Z`} fill="var(--forest)" />
      {flown.map((f) => {
        const [x, y] = at(f.end);
        const home = f.verdict === 'home';
        return (
          <g
            key={f.fromDeg}
            role="button"
            tabIndex={0}
            aria-label={`Wind from ${f.fromDeg}°: ${home ? 'home' : 'not home'}`}
            aria-pressed={picked === f.fromDeg}
            className="cursor-pointer"
            onClick={() => onPick(f.fromDeg)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter' && e.key !== ' ') return;
              e.preventDefault();
              onPick(f.fromDeg);
            }}
          >
            <circle cx={x} cy={y} r={9} fill="transparent" />
            {home ? (
              <path
                d={`M${x} ${y - 5}l5 5-5 5-5-5Z`}
                fill="var(--sheet)"
                stroke="var(--forest)"
                strokeWidth={2}
              />
            ) : (
              <path
                d={`M${x - 4} ${y - 4}l8 8M${x + 4} ${y - 4}l-8 8`}
                stroke="var(--red)"
                strokeWidth={2.4}
              />
            )}
          </g>
        );
      })}
      {ARRIVAL_WINDS_DEG.map((deg) => {
        const a = (deg * Math.PI) / 180;
        const r = SIZE / 2 - 12;
        return (
          <text
            key={deg}
            x={SIZE / 2 + r * Math.sin(a)}
            y={SIZE / 2 - r * Math.cos(a) + 4}
            textAnchor="middle"
            fontSize={11}
            fill={picked === deg ? 'var(--ink)' : 'var(--faint)'}
            fontWeight={picked === deg ? 600 : 400}
          >
            {['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'][deg / 45]}
          </text>
        );
      })}
      <g transform={`translate(14 ${SIZE - 26})`}>
        <path d={`M0 -4V0H${bar * k}V-4`} fill="none" stroke="var(--soft)" />
        <text x={(bar * k) / 2} y={-6} textAnchor="middle" fontSize={11} className="num" fill="var(--soft)">
          {formatQuantity(bar, 'm', units, 0)}
        </text>
      </g>
    </svg>
  );
}

/** Contour lines of the ground near home. */
function contoursNear(site: Site, halfM: number): { readonly level: number; readonly path: string }[] {
  if (!site.terrain.known) return [];
  const { terrain, homeEastM, homeNorthM } = groundAbout(site.terrain, site.home);
  const cell = (2 * halfM) / (CELLS - 1);
  const heights = Array.from({ length: CELLS * CELLS }, (_, i) =>
    groundHeight(
      terrain,
      homeEastM - halfM + (i % CELLS) * cell,
      homeNorthM + halfM - Math.floor(i / CELLS) * cell,
    ),
  );
  const [low, high] = [Math.min(...heights), Math.max(...heights)];
  const step = STEPS_M.find((s) => (high - low) / s <= 10) ?? 100;
  const levels: number[] = [];
  for (let level = Math.ceil(low / step) * step; level < high; level += step) levels.push(level);
  const k = SIZE / (CELLS - 1);
  return contours()
    .size([CELLS, CELLS])
    .thresholds(levels)(heights)
    .map((c) => ({
      level: c.value,
      path: c.coordinates
        .flat()
        .map(
          (ring) =>
            `M${ring.map(([x, y]) => `${((x! - 0.5) * k).toFixed(1)} ${((y! - 0.5) * k).toFixed(1)}`).join('L')}Z`,
        )
        .join(''),
    }));
}
