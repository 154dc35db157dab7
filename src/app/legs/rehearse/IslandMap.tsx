import { contours } from 'd3-contour';
import { memo, useRef } from 'react';
import type { RehearsalResult, TrackPoint } from '#core/formats/rehearsalResult.ts';
import { type Scenario, TORVHOLM } from '#core/formats/scenario.ts';
import { DEG, wrapBearingDeg } from '#core/math/scalar.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import { homeOnGround, torvholm } from '../../store/selectors.ts';

/** Drawing units: 100 m a unit of the terrain grid, north up, the grid's corner at the origin. */
const CELL = torvholm.cellM;
const px = (eastM: number) => (eastM - torvholm.westM) / CELL;
const py = (northM: number) => torvholm.rows - 1 - (northM - torvholm.southM) / CELL;

const LEVELS = [0, 25, 50, 75, 100, 150, 200, 250, 300, 350, 400];
const heights = Array.from(torvholm.heights);
const rings = contours()
  .size([torvholm.columns, torvholm.rows])
  .thresholds(LEVELS)(heights)
  .map((c) => ({
    level: c.value,
    // d3 puts a value at the middle of its cell, half a unit in.
    path: c.coordinates
      .map((poly) =>
        poly
          .map(
            (ring) =>
              `M${ring.map(([a, b]) => `${(a! - 0.5).toFixed(2)} ${(b! - 0.5).toFixed(2)}`).join('L')}Z`,
          )
          .join(''),
      )
      .join(''),
  }));

const Ground = memo(function Ground() {
  return (
    <g aria-hidden="true">
      {rings.map((r, i) =>
        i === 0 ? (
          <path key={r.level} d={r.path} fill="var(--sheet)" stroke="var(--lake)" strokeWidth={0.3} />
        ) : (
          <path
            key={r.level}
            d={r.path}
            fill="var(--contour)"
            fillOpacity={0.05}
            stroke="var(--contour)"
            strokeWidth={r.level % 100 === 0 ? 0.26 : 0.13}
          />
        ),
      )}
      <g fontSize={2.5} fill="var(--soft)" fontStyle="italic" textAnchor="middle">
        <text x={px(-3200)} y={py(620)}>
          Aldrygg 412 m
        </text>
        <text x={px(3350)} y={py(950)}>
          Svarthamar 287 m
        </text>
        <text x={px(0)} y={py(-2449) + 4.6}>
          Mossvik
        </text>
      </g>
    </g>
  );
});

interface Props {
  readonly scenario: Scenario;
  readonly result: RehearsalResult | null;
  /** Index of the track point looked at. */
  readonly cursor: number;
  readonly onOutbound: (bearingDeg: number, distanceM: number) => void;
}

const colorOf = (mode: string) =>
  mode === 'return' ? 'var(--forest)' : mode === 'level' ? 'var(--lake)' : 'var(--yaw)';

/** Torvholm with the track on it; the outbound point is a handle. */
export function IslandMap({ scenario, result, cursor, onOutbound }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const { homeEastM, homeNorthM } = homeOnGround;
  const b = scenario.outbound.bearingDeg * DEG;
  const goal = [
    px(homeEastM + scenario.outbound.distanceM * Math.sin(b)),
    py(homeNorthM + scenario.outbound.distanceM * Math.cos(b)),
  ] as const;
  const drag = (e: React.PointerEvent) => {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix || !e.currentTarget.hasPointerCapture(e.pointerId)) return;
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix.inverse());
    move(
      p.x * CELL + torvholm.westM - homeEastM,
      (torvholm.rows - 1 - p.y) * CELL + torvholm.southM - homeNorthM,
    );
  };
  const move = (east: number, north: number) => {
    const distance = Math.min(9000, Math.max(300, Math.round(Math.hypot(east, north) / 50) * 50));
    onOutbound(Math.round(wrapBearingDeg(Math.atan2(east, north) / DEG)), distance);
  };
  const lost = result?.lostLink.find((s) => s.state === 'noticed');
  const here = result?.track[cursor];
  const at = (p: TrackPoint): readonly [number, number] => [
    px(eastOf(TORVHOLM.lat, TORVHOLM.lon, p.lon)),
    py(northOf(TORVHOLM.lat, p.lat)),
  ];
  const lostPoint = lost && result?.track.find((p) => p.atS >= lost.atS);
  const wind = scenario.wind;
  return (
    <svg
      ref={svg}
      viewBox="2 4 116 64"
      className="h-full w-full bg-sea"
      aria-label="Map of Torvholm with the track"
    >
      <Ground />
      {result &&
        segments(result.track).map((s) => (
          <path
            key={s.from}
            d={`M${s.points
              .map((p) =>
                at(p)
                  .map((v) => v.toFixed(2))
                  .join(' '),
              )
              .join('L')}`}
            fill="none"
            stroke={colorOf(s.mode)}
            strokeWidth={0.5}
            strokeLinejoin="round"
          />
        ))}
      <path
        d={`M${px(homeEastM)} ${py(homeNorthM)}L${goal[0]} ${goal[1]}`}
        stroke="var(--faint)"
        strokeWidth={0.16}
        strokeDasharray="0.7 0.9"
      />
      <path
        transform={`translate(${px(homeEastM)} ${py(homeNorthM)})`}
        d="M0 -1.500L1.500 0 0 1.500-1.500 0Z"
        fill="var(--forest)"
      />
      <g
        role="slider"
        tabIndex={0}
        aria-label="Outbound point: arrows turn it, with Shift farther or nearer"
        aria-valuenow={scenario.outbound.bearingDeg}
        aria-valuemin={0}
        aria-valuemax={360}
        className="cursor-move touch-none"
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={drag}
        onKeyDown={(e) => {
          const step =
            e.key === 'ArrowRight' || e.key === 'ArrowUp'
              ? 1
              : e.key === 'ArrowLeft' || e.key === 'ArrowDown'
                ? -1
                : 0;
          if (step === 0) return;
          e.preventDefault();
          const { bearingDeg, distanceM } = scenario.outbound;
          if (e.shiftKey) onOutbound(bearingDeg, Math.min(9000, Math.max(300, distanceM + 100 * step)));
          else onOutbound(wrapBearingDeg(bearingDeg + 2 * step), distanceM);
        }}
      >
        <circle cx={goal[0]} cy={goal[1]} r={2.2} fill="transparent" />
        <circle cx={goal[0]} cy={goal[1]} r={1} fill="var(--sheet)" stroke="var(--lake)" strokeWidth={0.4} />
      </g>
      {lostPoint && (
        <g transform={`translate(${at(lostPoint)[0]} ${at(lostPoint)[1]})`}>
          <circle r={0.9} fill="var(--sheet)" stroke="var(--red)" strokeWidth={0.4} />
          <text x={1.6} y={-1} fontSize={2.2} fontWeight={600} fill="var(--red)">
            link lost
          </text>
        </g>
      )}
      {here && <circle cx={at(here)[0]} cy={at(here)[1]} r={0.9} fill="var(--ink)" />}
      <g transform={`translate(110 56)`} aria-hidden="true">
        <circle r={4.6} fill="var(--sheet)" stroke="var(--line)" strokeWidth={0.2} />
        <g transform={`rotate(${wind.fromDeg + 180})`}>
          <path
            d="M0 2.800V-2.600M-1.200 -1.200L0 -2.800 1.200 -1.200"
            fill="none"
            stroke="var(--lake)"
            strokeWidth={0.5}
          />
        </g>
        <text y={7.4} textAnchor="middle" fontSize={2.3} className="num" fill="var(--soft)">
          {wind.speedMps} m/s
        </text>
      </g>
    </svg>
  );
}

/** Runs of one mode, each reaching over to the first point of the next. */
function segments(track: readonly TrackPoint[]): { mode: string; from: number; points: TrackPoint[] }[] {
  const out: { mode: string; from: number; points: TrackPoint[] }[] = [];
  for (const [i, p] of track.entries()) {
    const last = out.at(-1);
    if (last && last.mode === p.mode) last.points.push(p);
    else {
      last?.points.push(p);
      out.push({ mode: p.mode, from: i, points: [p] });
    }
  }
  return out;
}
