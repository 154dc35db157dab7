import { useMemo, useRef, useState } from 'react';
import type { Place } from '#core/navigation/earth.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import type { FlightPlan } from '#core/plan/plan.ts';
import type { RouteProblem } from '#core/plan/routeProblems.ts';
import type { RouteWay } from '#core/plan/routeWay.ts';
import type { Site } from '#core/site/site.ts';
import { formatQuantity } from '#core/units/units.ts';
import { NoReturnMark } from '../../../drawing/NoReturnMark.tsx';
import { SiteGround } from '../../../drawing/SiteGround.tsx';
import { type SiteFrame, siteFrame } from '../../../drawing/siteFrame.ts';
import { WindHandle } from '../../../drawing/WindHandle.tsx';
import { useApp } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { dragOn, pointOn } from '../../../ui/dragOn.ts';
import { moved } from './edits.ts';
import { FenceDrawn } from './FenceDrawn.tsx';
import { halo } from './halo.ts';
import { PointDrawn } from './PointDrawn.tsx';

export type Picked =
  | { readonly kind: 'point'; readonly at: number }
  | { readonly kind: 'fence'; readonly at: number; readonly corner: number };
export type Tool = 'look' | 'points' | 'area';

interface Props {
  readonly site: Site;
  readonly plan: FlightPlan;
  readonly way: RouteWay | null;
  readonly problems: readonly RouteProblem[];
  readonly track: readonly (readonly [number, number])[];
  readonly picked: Picked | null;
  readonly tool: Tool;
  /** Corners of an area that is being drawn. */
  readonly corners: readonly Place[];
  readonly radiusM: number;
  readonly wind: { readonly speedMps: number; readonly fromDeg: number };
  readonly onWind: (fromDeg: number, speedMps: number) => void;
  readonly onPick: (picked: Picked | null) => void;
  readonly onPlace: (place: Place) => void;
  readonly onMovePoint: (at: number, place: Place) => void;
  readonly onMoveCorner: (at: number, corner: number, place: Place) => void;
  readonly onMoveDrawn: (corner: number, place: Place) => void;
  readonly onRemovePoint: (at: number) => void;
}

const MOST_ZOOM = 16;
/** Arrow keys move by this, with Shift by ten times as much, m. */
const NUDGE_M = 10;
const FIT = 0.72;

interface View {
  readonly zoom: number;
  /** Middle of what is shown, map's units. */
  readonly x: number;
  readonly y: number;
}

const north = (f: SiteFrame): View => ({ zoom: 1, x: f.width / 2, y: f.height / 2 });

/** So that the plan and home fill the map. */
function fitted(frame: SiteFrame, plan: FlightPlan): View {
  const places = [
    ...plan.points,
    ...plan.fences.flatMap((f) => ('corners' in f.area ? f.area.corners : [f.area])),
  ];
  if (places.length === 0) return { zoom: 2, x: frame.home[0], y: frame.home[1] };
  const at = [frame.home, ...places.map((p) => frame.at(p))];
  const [xs, ys] = [at.map((p) => p[0]), at.map((p) => p[1])];
  const wide = Math.max(...xs) - Math.min(...xs);
  const high = Math.max(...ys) - Math.min(...ys);
  const zoom = Math.min((FIT * frame.width) / Math.max(wide, 1), (FIT * frame.height) / Math.max(high, 1));
  return {
    zoom: Math.min(MOST_ZOOM, Math.max(1, zoom)),
    x: (Math.max(...xs) + Math.min(...xs)) / 2,
    y: (Math.max(...ys) + Math.min(...ys)) / 2,
  };
}

/** Route and fences on the site's ground. */
export function RouteMap(props: Props) {
  const { site, plan, way, problems, track, picked, tool, corners, radiusM, wind } = props;
  const svg = useRef<SVGSVGElement>(null);
  const from = useRef<{ x: number; y: number; view: View } | null>(null);
  const units = useApp((s) => s.ui.units);
  const frame = siteFrame(site);
  const [view, setView] = useState<View>(() => fitted(frame, plan));
  const { zoom } = view;
  const [width, height] = [frame.width / zoom, frame.height / zoom];
  const left = Math.min(Math.max(0, view.x - width / 2), frame.width - width);
  const top = Math.min(Math.max(0, view.y - height / 2), frame.height - height);
  const shown = useMemo(() => ({ left, top, width, height }), [left, top, width, height]);
  const k = 1 / zoom;
  const local = (e: number, n: number) =>
    [frame.home[0] + e / frame.unitM, frame.home[1] - n / frame.unitM] as const;
  const path = (at: readonly (readonly [number, number])[]) =>
    at.map(([x, y]) => `${x.toFixed(3)} ${y.toFixed(3)}`).join('L');
  const flown = useMemo(
    () => track.map(([e, n]) => [frame.home[0] + e / frame.unitM, frame.home[1] - n / frame.unitM] as const),
    [track, frame],
  );
  const unheard = useMemo(() => stretches(way, (m) => !m.heard), [way]);
  const noReturn = way?.noReturn ?? way?.overFence;
  const nudge = (e: React.KeyboardEvent, place: Place, put: (p: Place) => void) => {
    const by = NUDGE_M * (e.shiftKey ? 10 : 1);
    const to = { ArrowUp: [by, 0], ArrowDown: [-by, 0], ArrowRight: [0, by], ArrowLeft: [0, -by] }[e.key];
    if (!to) return false;
    e.preventDefault();
    put(moved(place, to[0]!, to[1]!));
    return true;
  };
  const zoomBy = (by: number) =>
    setView((v) => ({ ...v, zoom: Math.min(MOST_ZOOM, Math.max(1, v.zoom * by)) }));
  const look = picked?.kind === 'point' ? plan.points[picked.at] : null;
  const plates = useMemo(
    () =>
      plated(
        plan.points.map((p) => frame.at(p)),
        PLATE / zoom,
      ),
    [plan.points, frame, zoom],
  );
  return (
    <div className="relative">
      <svg
        ref={svg}
        viewBox={`${left} ${top} ${width} ${height}`}
        className={`max-h-[430px] w-full min-w-[640px] touch-none rounded-[4px] border border-line ${frame.sea ? 'bg-sea' : 'bg-sheet'} ${tool === 'look' ? '' : 'cursor-crosshair'}`}
        aria-label={`Map of ${site.name}: route and fences`}
      >
        <SiteGround site={site} zoom={zoom} shown={shown} />
        {/* The ground takes what is not meant for anything that stands on it. */}
        <rect
          width={frame.width}
          height={frame.height}
          fill="transparent"
          onPointerDown={(e) => {
            const at = pointOn(svg.current, e);
            if (!at) return;
            if (tool !== 'look') {
              props.onPlace(frame.placeAt(at.x, at.y));
              return;
            }
            props.onPick(null);
            e.currentTarget.setPointerCapture(e.pointerId);
            from.current = {
              x: e.clientX,
              y: e.clientY,
              view: { ...view, x: left + width / 2, y: top + height / 2 },
            };
          }}
          onPointerMove={(e) => {
            const start = from.current;
            if (!start || !e.currentTarget.hasPointerCapture(e.pointerId)) return;
            const scale = width / svg.current!.getBoundingClientRect().width;
            setView({
              ...start.view,
              x: start.view.x - (e.clientX - start.x) * scale,
              y: start.view.y - (e.clientY - start.y) * scale,
            });
          }}
          onPointerUp={() => {
            from.current = null;
          }}
        />
        {plan.fences.map((fence, i) => (
          <FenceDrawn
            key={`${i} ${fence.name}`}
            fence={fence}
            at={i}
            frame={frame}
            k={k}
            picked={picked?.kind === 'fence' && picked.at === i ? picked.corner : null}
            quiet={tool !== 'look'}
            svg={svg}
            onPick={(corner) => props.onPick({ kind: 'fence', at: i, corner })}
            onMove={(corner, place) => props.onMoveCorner(i, corner, place)}
            nudge={nudge}
          />
        ))}
        {flown.length > 1 && (
          <path
            d={`M${path(flown)}`}
            fill="none"
            stroke="var(--lake)"
            strokeWidth={0.32 * k}
            strokeLinejoin="round"
            pointerEvents="none"
          />
        )}
        {plan.points.length > 0 && (
          <g fill="none" pointerEvents="none" strokeLinejoin="round">
            <path
              d={`M${path([frame.home, frame.at(plan.points[0]!)])}`}
              stroke="var(--soft)"
              strokeWidth={0.24 * k}
              strokeDasharray={`${0.9 * k} ${0.9 * k}`}
            />
            <path
              d={`M${path(plan.points.map((p) => frame.at(p)))}`}
              stroke="var(--sheet)"
              strokeWidth={1.1 * k}
            />
            <path
              d={`M${path(plan.points.map((p) => frame.at(p)))}`}
              stroke="var(--ink)"
              strokeWidth={0.42 * k}
            />
            {plan.points.map((p, i) => {
              const [x, y] = frame.at(p);
              return p.do === 'circle' || p.do === 'climb' ? (
                <circle
                  key={i}
                  cx={x}
                  cy={y}
                  r={radiusM / frame.unitM}
                  stroke="var(--ink)"
                  strokeWidth={0.3 * k}
                  strokeDasharray={p.do === 'climb' ? `${0.5 * k} ${0.5 * k}` : undefined}
                />
              ) : null;
            })}
            {unheard.map((s) => (
              <path
                key={s[0]!.wayM}
                d={`M${path(s.map((m) => local(m.eastM, m.northM)))}`}
                stroke="var(--amber)"
                strokeWidth={1.1 * k}
                strokeDasharray={`${0.3 * k} ${0.8 * k}`}
              />
            ))}
          </g>
        )}
        <path
          transform={`translate(${frame.home[0]} ${frame.home[1]}) scale(${k})`}
          d="M0 -1.500L1.500 0 0 1.500-1.500 0Z"
          fill="var(--forest)"
          stroke="var(--sheet)"
          strokeWidth={0.25}
          pointerEvents="none"
        />
        {problems
          .filter((p) => p.at && p.id !== 'route-no-return' && p.id !== 'return-fence')
          .map((p) => (
            <g
              key={p.id}
              transform={`translate(${local(p.at!.eastM, p.at!.northM).join(' ')}) scale(${k})`}
              pointerEvents="none"
            >
              <path
                d="M0 -1.700L1.600 1.100H-1.600Z"
                fill="var(--sheet)"
                stroke={p.severity === 'blocks' ? 'var(--red)' : 'var(--amber)'}
                strokeWidth={0.4}
                strokeLinejoin="round"
              />
              <path d="M0 -.7V.2M0 .55V.7" stroke="var(--ink)" strokeWidth={0.35} />
            </g>
          ))}
        {corners.length > 0 && (
          <g>
            <path
              d={`M${path(corners.map((c) => frame.at(c)))}${corners.length > 2 ? 'Z' : ''}`}
              fill="var(--lake-wash)"
              fillOpacity={0.5}
              stroke="var(--lake)"
              strokeWidth={0.4 * k}
              pointerEvents="none"
            />
            {corners.map((c, i) => {
              const [x, y] = frame.at(c);
              return (
                <g
                  key={i}
                  transform={`translate(${x} ${y}) scale(${k})`}
                  role="button"
                  tabIndex={0}
                  aria-label={`Corner ${i + 1} of the area: arrows move it`}
                  className="cursor-move"
                  {...dragOn(svg, (p) => props.onMoveDrawn(i, frame.placeAt(p.x, p.y)))}
                  onKeyDown={(e) => nudge(e, c, (place) => props.onMoveDrawn(i, place))}
                >
                  <circle r={1.6} fill="transparent" />
                  <rect
                    x={-0.7}
                    y={-0.7}
                    width={1.4}
                    height={1.4}
                    fill="var(--sheet)"
                    stroke="var(--lake)"
                    strokeWidth={0.4}
                  />
                </g>
              );
            })}
          </g>
        )}
        {plan.points.map((p, i) => (
          <PointDrawn
            key={i}
            point={p}
            at={i}
            of={plan.points.length}
            xy={frame.at(p)}
            k={k}
            crowded={!plates.has(i)}
            picked={picked?.kind === 'point' && picked.at === i}
            first={picked?.kind !== 'point' && i === 0}
            words={`${formatQuantity(p.heightM, 'm', units, 0)} above ${p.above === 'home' ? 'home' : 'the ground'}`}
            drag={dragOn(
              svg,
              (to) => props.onMovePoint(i, frame.placeAt(to.x, to.y)),
              () => props.onPick({ kind: 'point', at: i }),
            )}
            onKeyDown={(e) => {
              if (nudge(e, p, (place) => props.onMovePoint(i, place))) return;
              const to = { PageDown: i + 1, PageUp: i - 1 }[e.key];
              if (to !== undefined && plan.points[to]) {
                e.preventDefault();
                props.onPick({ kind: 'point', at: to });
              } else if (e.key === 'Delete') {
                e.preventDefault();
                props.onRemovePoint(i);
              }
            }}
            onFocus={() => props.onPick({ kind: 'point', at: i })}
          />
        ))}
        {noReturn && (
          <NoReturnMark at={local(noReturn.eastM, noReturn.northM)} limit={noReturn.limit} k={k} />
        )}
        <g transform={`translate(${left} ${top}) scale(${k})`}>
          <WindHandle wind={wind} onWind={props.onWind} x={7} y={frame.height - 11} />
        </g>
        {look && (
          <text
            transform={`translate(${left + width - 2 * k} ${top + height - 2 * k})`}
            fontSize={2.1 * k}
            textAnchor="end"
            className="num"
            fill="var(--ink)"
            {...halo}
            strokeWidth={0.6 * k}
          >
            {formatQuantity(
              Math.hypot(northOf(site.home.lat, look.lat), eastOf(site.home.lat, site.home.lon, look.lon)),
              'm',
              units,
              0,
            )}{' '}
            from home
          </text>
        )}
      </svg>
      <div className="absolute top-2 right-2 flex gap-1">
        <Button
          className="px-2 py-0.5"
          aria-label="Nearer"
          disabled={zoom >= MOST_ZOOM}
          onClick={() => zoomBy(1.6)}
        >
          +
        </Button>
        <Button
          className="px-2 py-0.5"
          aria-label="Farther"
          disabled={zoom <= 1}
          onClick={() => zoomBy(1 / 1.6)}
        >
          −
        </Button>
        <Button className="px-2 py-0.5 text-[13px]" onClick={() => setView(fitted(frame, plan))}>
          the route
        </Button>
        <Button className="px-2 py-0.5 text-[13px]" onClick={() => setView(north(frame))}>
          all
        </Button>
      </div>
    </div>
  );
}

/** Between two plates with numbers, map's units. */
const PLATE = 3.2;

/** Points that have room for a plate: the first, the last, and of the others those that stand on none before them. */
function plated(at: readonly (readonly [number, number])[], apart: number): Set<number> {
  const out = new Set<number>();
  for (const i of [0, at.length - 1, ...at.keys()]) {
    const here = at[i];
    if (here && [...out].every((j) => Math.hypot(at[j]![0] - here[0], at[j]![1] - here[1]) > apart))
      out.add(i);
  }
  return out;
}

/** Pieces of the way for which something holds. */
function stretches(
  way: RouteWay | null,
  holds: (m: RouteWay['moments'][number]) => boolean,
): RouteWay['moments'][number][][] {
  const out: RouteWay['moments'][number][][] = [];
  let open: RouteWay['moments'][number][] | null = null;
  for (const m of way?.moments ?? []) {
    if (!holds(m)) {
      open = null;
      continue;
    }
    if (open) open.push(m);
    else {
      open = [m];
      out.push(open);
    }
  }
  return out.filter((s) => s.length > 1);
}
