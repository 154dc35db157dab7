import { memo, useMemo } from 'react';
import { type Flown, modeRuns } from '#core/flown/flown.ts';
import type { Surprise } from '#core/flown/surprises.ts';
import { latitudeAt, longitudeAt } from '#core/navigation/earth.ts';
import type { Site } from '#core/site/site.ts';
import { HomeMark } from '../../../drawing/HomeMark.tsx';
import { modeColor } from '../../../drawing/modeColor.ts';
import { SiteGround } from '../../../drawing/SiteGround.tsx';
import { fitted, type SiteFrame, siteFrame } from '../../../drawing/siteFrame.ts';

interface Props {
  readonly site: Site;
  readonly flown: Flown;
  /** Laid beside it; null for none. */
  readonly beside: Flown | null;
  readonly surprises: readonly Surprise[];
  /** Indices of the moments that are looked at. */
  readonly cursor: number;
  readonly besideCursor: number;
  readonly onGo: (atS: number) => void;
}

const WIDE = 1.5;
/** A point of a track so near to the one before it is not drawn, in units of a map fitted to a hundred. */
const NEAR = 0.12;

/** The ground with the track over it, what surprised as numbered marks, and another flight beside it. */
export function FlownMap({ site, flown, beside, surprises, cursor, besideCursor, onGo }: Props) {
  const frame = siteFrame(site);
  const view = useMemo(() => {
    const own = placesOf(flown, frame);
    const other = beside ? placesOf(beside, frame) : [];
    return fitted(
      [...own, ...other].filter((p) => Number.isFinite(p[0] + p[1])).concat([[frame.home[0], frame.home[1]]]),
      frame.unitM,
      WIDE,
    );
  }, [flown, beside, frame]);
  const k = view.width / frame.width;
  const here = placeAt(flown, frame, cursor);
  const there = beside && besideCursor >= 0 ? placeAt(beside, frame, besideCursor) : null;
  const viewBox = `${view.left} ${view.top} ${view.width} ${view.height}`;
  return (
    <div className="relative">
      <Still {...{ site, flown, beside, surprises, view, onGo }} />
      <svg
        viewBox={viewBox}
        className="pointer-events-none absolute inset-0 h-full w-full border border-transparent"
        aria-hidden="true"
      >
        {there && (
          <circle
            cx={there[0]}
            cy={there[1]}
            r={1 * k}
            fill="var(--sheet)"
            stroke="var(--soft)"
            strokeWidth={0.4 * k}
          />
        )}
        {here && (
          <g
            transform={`translate(${here[0]} ${here[1]}) scale(${k}) rotate(${((flown.told.yaw?.[cursor] ?? 0) * 180) / Math.PI})`}
          >
            <path
              d="M0 -3.200 1.700 2.200 0 1.200 -1.700 2.200Z"
              fill="var(--ink)"
              stroke="var(--sheet)"
              strokeWidth={0.4}
            />
          </g>
        )}
      </svg>
    </div>
  );
}

/** All that does not move with the cursor, on a layer of its own, so that it is painted once. */
const Still = memo(function Still({
  site,
  flown,
  beside,
  surprises,
  view,
  onGo,
}: Omit<Props, 'cursor' | 'besideCursor'> & { readonly view: ReturnType<typeof fitted> }) {
  const frame = siteFrame(site);
  const k = view.width / frame.width;
  return (
    <svg
      viewBox={`${view.left} ${view.top} ${view.width} ${view.height}`}
      className={`block w-full rounded-[4px] border border-line will-change-transform ${frame.sea ? 'bg-sea' : 'bg-sheet'}`}
      aria-label={`Map of ${site.name} with the track of ${flown.name}`}
    >
      <SiteGround site={site} zoom={1 / k} shown={view} />
      {beside && <Track flown={beside} frame={frame} k={k} beside />}
      <Track flown={flown} frame={frame} k={k} />
      <HomeMark at={frame.home} k={k} />
      {surprises.map((s, i) => {
        const p = placeAt(flown, frame, s.at);
        if (!p) return null;
        return (
          <g
            key={s.kind}
            role="button"
            tabIndex={0}
            aria-label={`${s.title}: go there`}
            className="cursor-pointer"
            transform={`translate(${p[0]} ${p[1]}) scale(${k})`}
            onClick={() => onGo(flown.seconds[s.at]!)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter' && e.key !== ' ') return;
              e.preventDefault();
              onGo(flown.seconds[s.at]!);
            }}
          >
            <path
              d="M0 -2.700 2.500 1.800H-2.500Z"
              fill="var(--amber-wash)"
              stroke="var(--amber)"
              strokeWidth={0.35}
              strokeLinejoin="round"
            />
            <text y={1.2} fontSize={2.3} textAnchor="middle" className="num" fill="var(--ink)">
              {i + 1}
            </text>
          </g>
        );
      })}
    </svg>
  );
});

/** One that is laid beside is dashed and has no colour of a mode. */
const Track = memo(function Track({
  flown,
  frame,
  k,
  beside = false,
}: {
  readonly flown: Flown;
  readonly frame: SiteFrame;
  readonly k: number;
  readonly beside?: boolean;
}) {
  const places = placesOf(flown, frame);
  return (
    <>
      {modeRuns(flown).map(({ mode, from, to }) => {
        let d = '';
        let [px, py] = [Number.NaN, Number.NaN];
        for (let i = from; i < Math.min(places.length, to + 1); i++) {
          const [x, y] = places[i]!;
          if (!Number.isFinite(x + y)) continue;
          if (i < to && Math.hypot(x - px, y - py) < NEAR * k) continue;
          d += `${d === '' ? 'M' : 'L'}${x.toFixed(3)} ${y.toFixed(3)}`;
          [px, py] = [x, y];
        }
        return (
          <path
            key={from}
            d={d}
            fill="none"
            stroke={beside ? 'var(--soft)' : modeColor(mode)}
            strokeWidth={(beside ? 0.35 : 0.6) * k}
            strokeDasharray={beside ? `${1.2 * k} ${0.9 * k}` : undefined}
            strokeLinejoin="round"
          />
        );
      })}
    </>
  );
});

const kept = new WeakMap<
  Flown,
  { readonly frame: SiteFrame; readonly places: readonly (readonly [number, number])[] }
>();

/** Where each moment stands on a map; NaN where no place is told. */
function placesOf(flown: Flown, frame: SiteFrame): readonly (readonly [number, number])[] {
  const known = kept.get(flown);
  if (known?.frame === frame) return known.places;
  const places = Array.from(
    flown.seconds,
    (_, i) => placeAt(flown, frame, i) ?? ([Number.NaN, Number.NaN] as const),
  );
  kept.set(flown, { frame, places });
  return places;
}

function placeAt({ told, origin }: Flown, frame: SiteFrame, i: number): readonly [number, number] | null {
  const [north, east] = [told.north?.[i] ?? Number.NaN, told.east?.[i] ?? Number.NaN];
  if (!Number.isFinite(north + east)) return null;
  return frame.at({ lat: latitudeAt(origin.lat, north), lon: longitudeAt(origin.lat, origin.lon, east) });
}
