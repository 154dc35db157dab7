import { memo, useRef } from 'react';
import { type Flown, indexAt } from '#core/flown/flown.ts';
import type { Series } from '#core/flown/series.ts';
import type { Surprise } from '#core/flown/surprises.ts';
import { displayOf, formatClock, formatNumber, formatQuantity, type UnitSystem } from '#core/units/units.ts';
import { slidTo } from '../../../drawing/slidTo.ts';
import { pointOn } from '../../../ui/dragOn.ts';
import { extent, plotPath } from './plotPath.ts';

export type ToldSeries = Series & { readonly values: Float64Array };

interface Props {
  readonly flown: Flown;
  readonly groundM: Float64Array;
  readonly plotted: readonly ToldSeries[];
  /** The same of the flight beside it, and what is added to a time of this one to have the other's. */
  readonly beside: {
    readonly seconds: Float64Array;
    readonly series: readonly ToldSeries[];
    readonly offsetS: number;
  } | null;
  readonly surprises: readonly Surprise[];
  readonly units: UnitSystem;
  /** The time that is shown, s. */
  readonly span: readonly [number, number];
  readonly atS: number;
  readonly onGo: (atS: number) => void;
}

const LEFT = 118;
const WIDTH = 640;
const PROFILE = 76;
const PLOT = 54;
const TOP = 6;
const GAP = 12;

/** Along time: height over the ground, what is followed, what surprised; one cursor runs over all of it. */
export function FlownStrip(props: Props) {
  const { flown, plotted, units, span, atS, onGo } = props;
  const svg = useRef<SVGSVGElement>(null);
  const height = TOP + PROFILE + plotted.length * (PLOT + GAP) + 22;
  const x = LEFT + ((atS - span[0]) / (span[1] - span[0])) * WIDTH;
  const i = indexAt(flown.seconds, atS);
  const seek = (e: React.PointerEvent) => {
    const p = pointOn(svg.current, e);
    if (p) onGo(span[0] + Math.min(1, Math.max(0, (p.x - LEFT) / WIDTH)) * (span[1] - span[0]));
  };
  const h = flown.told.height?.[i] ?? Number.NaN;
  return (
    <div className="relative">
      <Still {...props} height={height} />
      <svg
        ref={svg}
        viewBox={`0 0 ${LEFT + WIDTH + 8} ${height}`}
        className="absolute inset-0 h-full w-full cursor-crosshair touch-none"
        role="slider"
        tabIndex={0}
        aria-label="Time in the flight"
        aria-valuenow={Math.round(atS)}
        aria-valuemin={0}
        aria-valuemax={Math.round(flown.seconds.at(-1)!)}
        aria-valuetext={`${formatClock(atS)}${Number.isFinite(h) ? `, ${formatQuantity(h, 'm', units, 0)} above the sea` : ''}`}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          seek(e);
        }}
        onPointerMove={(e) => e.buttons > 0 && seek(e)}
        onKeyDown={(e) => {
          const to = slidTo(e, atS, flown.seconds.at(-1)!, 1);
          if (to === null) return;
          e.preventDefault();
          onGo(to);
        }}
      >
        {plotted.map((s, k) => {
          const y = TOP + PROFILE + GAP + k * (PLOT + GAP);
          const v = s.values[i]!;
          return (
            <text key={s.id} x={0} y={y + 30} fontSize={13} className="num" fill="var(--lake)">
              {Number.isFinite(v) ? formatQuantity(v, s.unit, units, s.digits) : '–'}
            </text>
          );
        })}
        <text x={0} y={TOP + 30} fontSize={13} className="num" fill="var(--lake)">
          {Number.isFinite(h) ? formatQuantity(h, 'm', units, 0) : '–'}
        </text>
        {x >= LEFT && x <= LEFT + WIDTH && (
          <>
            <path d={`M${x} ${TOP}V${height - 18}`} stroke="var(--ink)" strokeWidth={1.3} />
            <g transform={`translate(${Math.min(Math.max(x, LEFT + 16), LEFT + WIDTH - 16)} ${height - 5})`}>
              <rect x={-34} y={-12} width={68} height={16} fill="var(--sheet)" />
              <text textAnchor="middle" fontSize={13.5} className="num">
                {formatClock(atS)}
              </text>
            </g>
          </>
        )}
      </svg>
    </div>
  );
}

/** All that does not move with the cursor, on a layer of its own, so that it is painted once. */
const Still = memo(
  function Still({
    flown,
    groundM,
    plotted,
    beside,
    surprises,
    units,
    span,
    height,
  }: Props & { readonly height: number }) {
    const [fromS, toS] = span;
    const { seconds } = flown;
    const scale = { fromS, toS, left: LEFT, width: WIDTH };
    const x = (t: number) => LEFT + ((t - fromS) / (toS - fromS)) * WIDTH;
    const heights = flown.told.height;
    const own = heights && extent(seconds, heights, fromS, toS);
    const ground = extent(seconds, groundM, fromS, toS);
    const least = Math.max(0, Math.min(own?.least ?? 0, ground?.least ?? Number.POSITIVE_INFINITY) - 10);
    const most = Math.max(own?.most ?? 0, ground?.most ?? 0, least + 60);
    const profile = { ...scale, top: TOP, low: TOP + PROFILE, least, most };
    const ridge = ground ? plotPath(seconds, groundM, profile) : '';
    const every = tick(toS - fromS);
    return (
      <svg
        viewBox={`0 0 ${LEFT + WIDTH + 8} ${height}`}
        className="block w-full will-change-transform"
        aria-hidden="true"
      >
        {surprises.map((s, n) => {
          const [a, b] = [Math.max(fromS, s.fromS), Math.min(toS, s.toS)];
          if (b < a) return null;
          return (
            <g key={s.kind}>
              <rect
                x={x(a)}
                y={TOP}
                width={Math.max(2, x(b) - x(a))}
                height={PROFILE}
                fill="var(--amber-wash)"
                opacity={0.6}
              />
              <text
                x={x(a) + 2}
                y={TOP + 10 + 11 * (n % 4)}
                fontSize={13.5}
                className="num"
                fill="var(--amber)"
              >
                {n + 1}
              </text>
            </g>
          );
        })}
        <text x={0} y={TOP + 13} fontSize={13} fill="var(--soft)">
          height
        </text>
        {ridge !== '' && (
          <path
            d={`${ridge}L${x(Math.min(toS, seconds.at(-1)!))} ${TOP + PROFILE}L${x(Math.max(fromS, seconds[0]!))} ${TOP + PROFILE}Z`}
            fill="var(--sunk)"
            stroke="var(--contour)"
          />
        )}
        {heights && (
          <path d={plotPath(seconds, heights, profile)} fill="none" stroke="var(--lake)" strokeWidth={1.8} />
        )}
        {plotted.map((s, k) => {
          const top = TOP + PROFILE + GAP + k * (PLOT + GAP);
          const there = beside?.series.find((b) => b.id === s.id);
          const theirs =
            beside && there
              ? extent(beside.seconds, there.values, fromS + beside.offsetS, toS + beside.offsetS)
              : null;
          const mine = extent(seconds, s.values, fromS, toS);
          if (!mine) return null;
          const bounds = {
            least: Math.min(mine.least, theirs?.least ?? mine.least),
            most: Math.max(mine.most, theirs?.most ?? mine.most),
          };
          const { factor } = displayOf(s.unit, units);
          const plot = { ...scale, top, low: top + PLOT, ...bounds };
          return (
            <g key={s.id}>
              <path d={`M${LEFT} ${top + PLOT}H${LEFT + WIDTH}`} stroke="var(--line)" />
              <text x={0} y={top + 13} fontSize={13} fill="var(--soft)">
                {s.name}
              </text>
              <text
                x={LEFT - 4}
                y={top + 9}
                fontSize={13.5}
                textAnchor="end"
                className="num"
                fill="var(--faint)"
              >
                {formatNumber(bounds.most * factor, s.digits)}
              </text>
              <text
                x={LEFT - 4}
                y={top + PLOT}
                fontSize={13.5}
                textAnchor="end"
                className="num"
                fill="var(--faint)"
              >
                {formatNumber(bounds.least * factor, s.digits)}
              </text>
              {beside && there && (
                <path
                  d={plotPath(beside.seconds, there.values, {
                    ...plot,
                    fromS: fromS + beside.offsetS,
                    toS: toS + beside.offsetS,
                  })}
                  fill="none"
                  stroke="var(--soft)"
                  strokeWidth={1}
                  strokeDasharray="4 3"
                />
              )}
              <path
                d={plotPath(seconds, s.values, plot)}
                fill="none"
                stroke="var(--roll)"
                strokeWidth={1.3}
              />
            </g>
          );
        })}
        {Array.from(
          { length: Math.floor((toS - fromS) / every) + 1 },
          (_, n) => (Math.ceil(fromS / every) + n) * every,
        )
          .filter((t) => t <= toS)
          .map((t) => (
            <g key={t}>
              <path d={`M${x(t)} ${height - 18}v4`} stroke="var(--faint)" />
              <text
                x={x(t)}
                y={height - 5}
                fontSize={13.5}
                textAnchor="middle"
                className="num"
                fill="var(--faint)"
              >
                {formatClock(t)}
              </text>
            </g>
          ))}
      </svg>
    );
  },
  (a, b) =>
    a.flown === b.flown &&
    a.plotted === b.plotted &&
    a.beside === b.beside &&
    a.surprises === b.surprises &&
    a.units === b.units &&
    a.span[0] === b.span[0] &&
    a.span[1] === b.span[1] &&
    a.groundM === b.groundM,
);

const TICKS = [1, 2, 5, 10, 30, 60, 120, 300, 600, 1800];
const tick = (span: number) => TICKS.find((t) => span / t <= 9) ?? 3600;
