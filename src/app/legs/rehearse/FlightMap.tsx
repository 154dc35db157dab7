import { useRef } from 'react';
import type { RehearsalResult, TrackPoint } from '#core/formats/rehearsalResult.ts';
import type { Scenario } from '#core/formats/scenario.ts';
import { DEG, wrapBearingDeg } from '#core/math/scalar.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import type { Site } from '#core/site/site.ts';
import { modeColor } from '../../drawing/modeColor.ts';
import { SiteGround } from '../../drawing/SiteGround.tsx';
import { siteFrame } from '../../drawing/siteFrame.ts';
import { WindHandle } from '../../drawing/WindHandle.tsx';
import type { KeptFlight } from '../../store/rehearsalSlice.ts';
import { dragOn } from '../../ui/dragOn.ts';

interface Props {
  readonly site: Site;
  readonly scenario: Scenario;
  readonly result: RehearsalResult | null;
  /** Index of the track point looked at. */
  readonly cursor: number;
  readonly kept: readonly KeptFlight[];
  readonly onOutbound: (bearingDeg: number, distanceM: number) => void;
  readonly onWind: (fromDeg: number, speedMps: number) => void;
}

/** The site with the track on it; the outbound point is a handle. */
export function FlightMap({ site, scenario, result, kept, cursor, onOutbound, onWind }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const frame = siteFrame(site);
  const { home } = frame;
  const b = scenario.outbound.bearingDeg * DEG;
  const goal = [
    home[0] + (scenario.outbound.distanceM * Math.sin(b)) / frame.unitM,
    home[1] - (scenario.outbound.distanceM * Math.cos(b)) / frame.unitM,
  ] as const;
  const drag = dragOn(svg, (p) => {
    const place = frame.placeAt(p.x, p.y);
    move(eastOf(site.home.lat, site.home.lon, place.lon), northOf(site.home.lat, place.lat));
  });
  const move = (east: number, north: number) => {
    const distance = Math.min(9000, Math.max(300, Math.round(Math.hypot(east, north) / 50) * 50));
    onOutbound(Math.round(wrapBearingDeg(Math.atan2(east, north) / DEG)), distance);
  };
  const lost = result?.lostLink.find((s) => s.state === 'noticed');
  const here = result?.track[cursor];
  const at = (p: TrackPoint) => frame.at(p);
  const line = (points: readonly TrackPoint[]) =>
    `M${points
      .map((p) =>
        at(p)
          .map((v) => v.toFixed(2))
          .join(' '),
      )
      .join('L')}`;
  const lostPoint = lost && result?.track.find((p) => p.atS >= lost.atS);
  const wind = scenario.wind;
  return (
    <svg
      ref={svg}
      viewBox={frame.viewBox}
      className={`h-full w-full ${frame.sea ? 'bg-sea' : 'bg-sheet'}`}
      aria-label={`Map of ${site.name} with the track`}
    >
      <SiteGround site={site} />
      {kept.map((k) => (
        <g key={k.id}>
          <path
            d={line(k.result.track)}
            fill="none"
            stroke="var(--soft)"
            strokeWidth={0.3}
            strokeDasharray={`${0.4 + 0.5 * (k.id % 3)} 0.6`}
          />
          <NumberMark id={k.id} at={at(k.result.track[Math.floor(k.result.track.length * 0.6)]!)} />
        </g>
      ))}
      {result &&
        segments(result.track).map((s) => (
          <path
            key={s.from}
            d={line(s.points)}
            fill="none"
            stroke={modeColor(s.mode)}
            strokeWidth={0.5}
            strokeLinejoin="round"
          />
        ))}
      <path
        d={`M${home[0]} ${home[1]}L${goal[0]} ${goal[1]}`}
        stroke="var(--faint)"
        strokeWidth={0.16}
        strokeDasharray="0.7 0.9"
      />
      <path
        transform={`translate(${home[0]} ${home[1]})`}
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
        {...drag}
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
      <WindHandle wind={wind} onWind={onWind} x={frame.width - 8} y={frame.height - 12} />
    </svg>
  );
}

/** A kept flight's number on its track. */
function NumberMark({ id, at }: { readonly id: number; readonly at: readonly [number, number] }) {
  return (
    <g transform={`translate(${at[0]} ${at[1]})`}>
      <circle r={1.3} fill="var(--sheet)" stroke="var(--soft)" strokeWidth={0.25} />
      <text y={0.75} textAnchor="middle" fontSize={2} className="num" fill="var(--ink)">
        {id}
      </text>
    </g>
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
