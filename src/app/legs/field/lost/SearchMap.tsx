import { useMemo, useRef } from 'react';
import { latitudeAt, longitudeAt, type Place } from '#core/navigation/earth.ts';
import type { LastSeen } from '#core/search/lastSeen.ts';
import { BANDS, bandsOf, type Likelihood } from '#core/search/likelihood.ts';
import type { WalkStep } from '#core/search/walk.ts';
import type { Site } from '#core/site/site.ts';
import { HomeMark } from '../../../drawing/HomeMark.tsx';
import { SiteGround } from '../../../drawing/SiteGround.tsx';
import { fitted, siteFrame } from '../../../drawing/siteFrame.ts';
import { dragOn } from '../../../ui/dragOn.ts';

interface Props {
  readonly site: Site;
  readonly seen: LastSeen;
  readonly map: Likelihood | null;
  readonly walk: readonly WalkStep[];
  readonly stands: Place;
  /** Squares that were looked over. */
  readonly searched: readonly (Place & { readonly sideM: number })[];
  /** All of the way from where one stands, or the squares alone. */
  readonly near: boolean;
  readonly onStand: (place: Place) => void;
}

/** How dark each band of the searched area is, from the likeliest on. */
const DARK = [0.85, 0.62, 0.42, 0.25, 0.11] as const;
/** Steps of the walk that are drawn. */
const DRAWN_STEPS = 6;
const WIDE = 1.55;

/** The ground with the chance that it lies on it, and the walk over the likeliest squares. */
export function SearchMap({ site, seen, map, walk, stands, searched, near, onStand }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const frame = siteFrame(site);
  const { unitM } = frame;
  const [x0, y0] = frame.at(seen);
  const at = (east: number, north: number) => [x0 + east / unitM, y0 - north / unitM] as const;
  const bands = useMemo(() => (map ? pathsOf(map, x0, y0, unitM) : []), [map, x0, y0, unitM]);
  const me = frame.at(stands);
  const steps = walk.slice(0, DRAWN_STEPS);
  const view = fitted(
    [
      ...steps.map((s) => at(s.east, s.north)),
      ...(near && steps.length > 0 ? [] : [[x0, y0] as const, me]),
      // As far as the first fifth of the area goes.
      ...(map && !near ? likely(map).map(([e, n]) => at(e, n)) : []),
    ],
    unitM,
    WIDE,
  );
  const zoom = frame.width / view.width;
  const k = 1 / zoom;
  const go = (x: number, y: number) => onStand(frame.placeAt(x, y));
  return (
    <svg
      ref={svg}
      viewBox={`${view.left} ${view.top} ${view.width} ${view.height}`}
      className={`w-full rounded-[4px] border border-line ${frame.sea ? 'bg-sea' : 'bg-sheet'}`}
      aria-label={`Map of ${site.name}: where it may lie`}
    >
      <SiteGround site={site} zoom={zoom} shown={view} />
      {bands.map((d, i) => (
        <path key={BANDS[i]} d={d} fill="var(--roll)" fillOpacity={DARK[i]!} />
      ))}
      {searched.map((s) => {
        const [x, y] = frame.at(s);
        const half = s.sideM / 2 / unitM;
        return (
          <path
            key={`${s.lat} ${s.lon}`}
            d={`M${x - half} ${y - half}h${2 * half}v${2 * half}h${-2 * half}zl${2 * half} ${2 * half}m${-2 * half} 0l${2 * half} ${-2 * half}`}
            fill="var(--sheet)"
            fillOpacity={0.6}
            stroke="var(--soft)"
            strokeWidth={0.2 * k}
          >
            <title>looked over, not there</title>
          </path>
        );
      })}
      <path
        d={`M${[me, ...steps.map((s) => at(s.east, s.north))].map((p) => p.join(' ')).join('L')}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={0.4 * k}
        strokeDasharray={`${1.2 * k} ${0.8 * k}`}
      />
      {steps.map((s, i) => {
        const [x, y] = at(s.east, s.north);
        const half = s.sideM / 2 / unitM;
        return (
          <g key={`${s.north} ${s.east}`}>
            <rect
              x={x - half}
              y={y - half}
              width={2 * half}
              height={2 * half}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={0.3 * k}
            />
            <g transform={`translate(${x} ${y}) scale(${k})`}>
              <path
                d="M0 -2.400 2.400 0 0 2.400 -2.400 0Z"
                fill="var(--sheet)"
                stroke="var(--ink)"
                strokeWidth={0.3}
              />
              <text y={1} fontSize={2.8} textAnchor="middle" className="num" fill="var(--ink)">
                {i + 1}
              </text>
            </g>
          </g>
        );
      })}
      <g transform={`translate(${x0} ${y0}) scale(${k})`}>
        <g transform={`rotate(${(seen.courseRad * 180) / Math.PI})`}>
          <path
            d="M0 -3.200 1.500 2 0 1.100 -1.500 2Z"
            fill="var(--lake)"
            stroke="var(--sheet)"
            strokeWidth={0.35}
          />
        </g>
        <text
          x={2.6}
          y={-1.6}
          fontSize={2.5}
          fill="var(--ink)"
          stroke="var(--sheet)"
          strokeWidth={0.7}
          paintOrder="stroke"
        >
          last seen
        </text>
      </g>
      <HomeMark at={frame.home} k={k} />
      <g
        role="slider"
        tabIndex={0}
        aria-label="Where you stand. Arrows move it."
        aria-valuenow={Math.round(stands.lat * 1e5)}
        aria-valuetext={`${stands.lat.toFixed(5)}, ${stands.lon.toFixed(5)}`}
        transform={`translate(${me[0]} ${me[1]}) scale(${k})`}
        className="cursor-grab touch-none"
        {...dragOn(svg, (p) => go(p.x, p.y))}
        onKeyDown={(e) => {
          const by = (e.shiftKey ? 10 : 2) * k;
          const step = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[
            e.key
          ];
          if (!step) return;
          e.preventDefault();
          go(me[0] + step[0]!, me[1] + step[1]!);
        }}
      >
        <circle r={4} fill="transparent" />
        <circle r={1.7} fill="var(--forest)" stroke="var(--sheet)" strokeWidth={0.5} />
        <circle r={0.6} fill="var(--sheet)" />
        <text
          x={2.6}
          y={3.4}
          fontSize={2.5}
          fill="var(--ink)"
          stroke="var(--sheet)"
          strokeWidth={0.7}
          paintOrder="stroke"
        >
          you
        </text>
      </g>
    </svg>
  );
}

/** Bands of the map as paths, runs of squares along each row. */
function pathsOf(map: Likelihood, x0: number, y0: number, unitM: number): readonly string[] {
  const bands = bandsOf(map);
  const side = map.cellM / unitM;
  return BANDS.map((_, band) => {
    let d = '';
    for (let j = 0; j < map.rows; j++)
      for (let i = 0; i < map.columns; i++) {
        if (bands[j * map.columns + i] !== band) continue;
        let end = i;
        while (end < map.columns && bands[j * map.columns + end] === band) end++;
        const x = x0 + (map.westM + i * map.cellM) / unitM;
        const y = y0 - (map.southM + (j + 1) * map.cellM) / unitM;
        d += `M${x.toFixed(3)} ${y.toFixed(3)}h${((end - i) * side).toFixed(3)}v${side.toFixed(3)}h${(-(end - i) * side).toFixed(3)}z`;
        i = end - 1;
      }
    return d;
  });
}

/** Corners of the area that is searched in the first two fifths, metres from where it was last seen. */
function likely(map: Likelihood): readonly (readonly [number, number])[] {
  let [west, east, south, north] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const cell of map.order.subarray(0, Math.ceil(0.2 * map.order.length))) {
    const e = map.westM + ((cell % map.columns) + 0.5) * map.cellM;
    const n = map.southM + (Math.floor(cell / map.columns) + 0.5) * map.cellM;
    west = Math.min(west, e);
    east = Math.max(east, e);
    south = Math.min(south, n);
    north = Math.max(north, n);
  }
  return [
    [west, south],
    [east, north],
  ];
}

/** A place so many metres from another. */
export const placeFrom = (from: Place, north: number, east: number): Place => ({
  lat: latitudeAt(from.lat, north),
  lon: longitudeAt(from.lat, from.lon, east),
});
