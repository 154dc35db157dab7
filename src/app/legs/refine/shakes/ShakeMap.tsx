import { useMemo } from 'react';
import { middleOf, type ThrottleSpectra } from '#core/analysis/throttleSpectra.ts';
import { takesAt, trackedLines } from '#core/answers/filterChoice.ts';
import { type FilterSet, notchAt } from '#core/control/gyroFilter.ts';
import { formatNumber } from '#core/units/units.ts';
import { hillsOf, leftHeights, rawHeights, type ShakeFrame, xOf, yOf } from './hills.ts';

const W = 728;
const H = 400;
const FRAME: ShakeFrame = { left: 44, right: W - 6, top: 24, floor: H - 30 };
const MARKED_HZ = [10, 25, 50, 100, 150, 200, 300, 400];
/** Decibels that low-passes take off, marked where they do. */
const TAKES_DB = [3, 6, 9, 12];
const LEAST_APART = 52;

interface Props {
  readonly spectra: ThrottleSpectra;
  readonly set: FilterSet;
  /** Throttle at cruise or hover. */
  readonly middle: number;
  /** How often propellers turn at a throttle, Hz. */
  readonly shaft: (throttle: number) => number;
}

/** What the gyro says by frequency and throttle: dotted as it is, filled as the filters leave it, and where each of them takes from it. */
export function ShakeMap({ spectra, set, middle, shaft }: Props) {
  const raw = useMemo(() => hillsOf(rawHeights(spectra), spectra.stepHz, FRAME), [spectra]);
  const left = useMemo(
    () => hillsOf(leftHeights(spectra, set, middle, shaft), spectra.stepHz, FRAME),
    [spectra, set, middle],
  );
  const y = (throttle: number) => yOf(FRAME, throttle);
  const x = (hz: number) => xOf(FRAME, hz);
  const flown = spectra.bands.flatMap((b, k) => (b ? [middleOf(k, spectra.bands.length)] : []));
  const [low, high] = [Math.min(...flown), Math.max(...flown)];
  const throttles = Array.from({ length: 25 }, (_, k) => low + ((high - low) * k) / 24);
  const line = (hzAt: (throttle: number) => number) =>
    `M${throttles
      .filter((t) => hzAt(t) > 6 && hzAt(t) < 560)
      .map((t) => `${x(hzAt(t)).toFixed(1)} ${y(t).toFixed(1)}`)
      .join('L')}`;
  // Half of the power goes between these: the centre times what the quality makes of it.
  const half = 1 / (2 * set.notchQ);
  const edge = (sign: 1 | -1, times: number) =>
    line((t) => times * notchAt(set, t, middle, shaft) * (Math.sqrt(1 + half * half) + sign * half));
  const notches = Array.from({ length: set.notchHz > 0 ? set.harmonics : 0 }, (_, k) => ({
    times: k + 1,
    inner: edge(-1, k + 1),
    outer: edge(1, k + 1),
  }));
  const takes = TAKES_DB.map((db) => ({
    db,
    x: x(takesAt(set, db)),
  })).filter(
    (t, k, all) =>
      Number.isFinite(t.x) && t.x < FRAME.right - 20 && (k === 0 || t.x - all[k - 1]!.x > LEAST_APART),
  );
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="mt-3 w-full max-w-[860px]"
      role="img"
      aria-label={`Shake by frequency and throttle, flown from ${formatNumber(100 * low, 0)} to ${formatNumber(100 * high, 0)} % of it`}
    >
      <clipPath id="shake-drawn">
        <rect
          x={FRAME.left}
          y={FRAME.top}
          width={FRAME.right - FRAME.left}
          height={FRAME.floor - FRAME.top}
        />
      </clipPath>
      <g clipPath="url(#shake-drawn)">
        {left.map(({ db, path }) => (
          <path
            key={db}
            d={path}
            fill="var(--wood)"
            fillOpacity={0.16}
            stroke="var(--contour)"
            strokeWidth={0.7}
          />
        ))}
        {raw.map(({ db, path }) => (
          <path
            key={db}
            d={path}
            fill="none"
            stroke="var(--contour)"
            strokeWidth={0.8}
            strokeDasharray="1 3"
          />
        ))}
        {notches.map(({ times, inner, outer }) => (
          <g key={times} stroke="var(--forest)">
            <path
              d={`${inner}L${outer.slice(1).split('L').reverse().join('L')}Z`}
              fill="var(--forest)"
              fillOpacity={0.1}
              stroke="none"
            />
            <path d={inner} fill="none" strokeWidth={2} />
            <path d={outer} fill="none" strokeWidth={2} />
          </g>
        ))}
        {set.track > 0 && (
          <g stroke="var(--forest)">
            {[set.trackFromHz, set.trackToHz].map((hz) => (
              <path
                key={hz}
                d={`M${x(hz)} ${FRAME.top}V${FRAME.floor}`}
                strokeWidth={1.4}
                strokeDasharray="8 5"
              />
            ))}
            {spectra.bands.flatMap((band, k) => {
              const at = middleOf(k, spectra.bands.length);
              const lines = band ? trackedLines(set, band, notchAt(set, at, middle, shaft)) : [];
              return lines.map((hz) => (
                <circle
                  key={`${k} ${hz}`}
                  cx={x(hz)}
                  cy={y(at)}
                  r={4.5}
                  fill="var(--sheet)"
                  strokeWidth={1.8}
                />
              ));
            })}
          </g>
        )}
        <g fill="none" stroke="var(--ink)" strokeWidth={1} strokeDasharray="6 4">
          <path d={line(shaft)} />
          <path d={line((t) => 2 * shaft(t))} />
        </g>
      </g>
      <Along hz={shaft} high={high} low={low} text="the propellers, once a turn" />
      <Along hz={(t) => 2 * shaft(t)} high={high} low={low} text="their blades, twice a turn" />
      <path
        d={`M${FRAME.left} ${FRAME.top}H${FRAME.right}V${FRAME.floor}H${FRAME.left}Z`}
        fill="none"
        stroke="var(--contour)"
      />
      <path d={`M${FRAME.left} ${y(middle)}H${FRAME.right}`} stroke="var(--soft)" strokeDasharray="1 4" />
      <g fontSize={13} fill="var(--soft)">
        <text x={FRAME.right - 4} y={y(middle) - 5} textAnchor="end" {...halo}>
          usual {formatNumber(100 * middle, 0)} %
        </text>
        {[20, 40, 60, 80, 100].map((p) => (
          <text key={p} x={FRAME.left - 6} y={y(p / 100) + 4} textAnchor="end" className="num">
            {p}
          </text>
        ))}
        <text x={FRAME.left - 6} y={FRAME.floor + 4} textAnchor="end">
          %
        </text>
        {MARKED_HZ.map((hz) => (
          <g key={hz}>
            <path d={`M${x(hz)} ${FRAME.floor}v5`} stroke="var(--contour)" />
            <text x={x(hz)} y={FRAME.floor + 20} textAnchor="middle" className="num">
              {hz}
            </text>
          </g>
        ))}
        <text x={FRAME.right} y={FRAME.floor + 20} textAnchor="end">
          Hz
        </text>
        {takes.map(({ db, x: at }) => (
          <g key={db}>
            <path d={`M${at} ${FRAME.top}V${FRAME.floor}`} stroke="var(--forest)" strokeDasharray="1 4" />
            <text x={at} y={FRAME.top - 7} textAnchor="middle" fill="var(--forest)">
              −{db} dB
            </text>
          </g>
        ))}
        {takes.length > 0 && takes[0]!.x > FRAME.left + 190 && (
          <text x={FRAME.left} y={FRAME.top - 7} fill="var(--forest)">
            what low-passes take
          </text>
        )}
      </g>
    </svg>
  );
}

const halo = { stroke: 'var(--sheet)', strokeWidth: 4, paintOrder: 'stroke' } as const;

/** Words along a line, where it is to be seen. */
function Along({
  hz,
  low,
  high,
  text,
}: {
  readonly hz: (throttle: number) => number;
  readonly low: number;
  readonly high: number;
  readonly text: string;
}) {
  const [from, to] = [low + 0.12 * (high - low), low + 0.5 * (high - low)];
  if (!(hz(to) < 450 && hz(from) > 8)) return null;
  const [ax, ay, bx, by] = [xOf(FRAME, hz(from)), yOf(FRAME, from), xOf(FRAME, hz(to)), yOf(FRAME, to)];
  const turn = (Math.atan2(by - ay, bx - ax) * 180) / Math.PI;
  return (
    <text
      transform={`translate(${ax} ${ay}) rotate(${turn.toFixed(1)}) translate(0 -6)`}
      fontSize={13}
      fontStyle="italic"
      {...halo}
    >
      {text}
    </text>
  );
}
