import { useRef } from 'react';
import type { Wanted } from '#core/answers/gainSchedule.ts';
import { DragHandle } from '../../../drawing/DragHandle.tsx';

const W = 528;
const H = 236;
const LEFT = 52;
const RIGHT = W - 26;
const FLOOR = H - 44;
const TOP = 14;
/** From an eighth to four times. */
const [LEAST, MOST] = [1 / 8, 4];
const marks = [
  [4, '4 ×'],
  [2, '2 ×'],
  [1, 'as written'],
  [0.5, '½'],
  [0.25, '¼'],
] as const;

export interface LawPoint {
  /** Along the drawing: m/s or throttle. */
  readonly x: number;
  readonly wanted: Wanted;
  /** By the law. */
  readonly gain: number;
  /** By the law where the throttle is shut, of wings. */
  readonly shut: number;
}

interface Props {
  readonly points: readonly LawPoint[];
  readonly ticks: readonly { readonly x: number; readonly text: string }[];
  /** Where gains hold as written. */
  readonly reference: number;
  /** The ends of the law, along the drawing; null where they cannot be moved. */
  readonly lowest: number | null;
  readonly highest: number | null;
  readonly onLowest: (x: number) => void;
  readonly onHighest: (x: number) => void;
  readonly step: number;
  /** What handles tell: along the drawing in shown units. */
  readonly shown: { readonly factor: number; readonly symbol: string };
}

/** What gains are multiplied by over speed or throttle, on what the craft's own model would have them be. */
export function LawDrawing(props: Props) {
  const { points, ticks, reference, lowest, highest, onLowest, onHighest, step, shown } = props;
  const svg = useRef<SVGSVGElement>(null);
  const [from, to] = [points[0]!.x, points.at(-1)!.x];
  const x = (v: number) => LEFT + ((RIGHT - LEFT) * (v - from)) / Math.max(1e-6, to - from);
  const at = (px: number) =>
    Math.min(to, Math.max(from, from + ((px - LEFT) / (RIGHT - LEFT)) * (to - from)));
  const y = (times: number) => {
    const share = Math.log(Math.min(MOST, Math.max(LEAST, times)) / LEAST) / Math.log(MOST / LEAST);
    return FLOOR - (FLOOR - TOP) * share;
  };
  const line = (of: (p: LawPoint) => number) =>
    `M${points
      .filter((p) => Number.isFinite(of(p)))
      .map((p) => `${x(p.x).toFixed(1)} ${y(of(p)).toFixed(1)}`)
      .join('L')}`;
  /** What the law gives there, between the points. */
  const gainAt = (v: number) => {
    const k = Math.max(
      1,
      points.findIndex((p) => p.x >= v),
    );
    const [a, b] = [points[k - 1]!, points[k]!];
    return a.gain + ((b.gain - a.gain) * (v - a.x)) / Math.max(1e-6, b.x - a.x);
  };
  const last = points.at(-1)!;
  const shut = points.some((p) => Math.abs(Math.log(p.shut / p.gain)) > 0.02);
  const handles = [
    { id: 'lowest', label: 'Gains grow down to', v: lowest, move: onLowest },
    { id: 'highest', label: 'Gains fall up to', v: highest, move: onHighest },
  ];
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${W} ${H}`}
      className="w-full max-w-[760px]"
      role="group"
      aria-label="What gains are multiplied by"
    >
      {marks.map(([times, text]) => (
        <g key={times}>
          <path
            d={`M${LEFT} ${y(times)}H${RIGHT}`}
            stroke={times === 1 ? 'var(--contour)' : 'var(--line)'}
            strokeDasharray={times === 1 ? '3 3' : undefined}
          />
          <text
            x={times === 1 ? LEFT + 4 : LEFT - 12}
            y={y(times) + (times === 1 ? -5 : 4)}
            textAnchor={times === 1 ? 'start' : 'end'}
            fontSize={13}
            fill="var(--soft)"
          >
            {text}
          </text>
        </g>
      ))}
      <path d={`M${LEFT} ${FLOOR}H${RIGHT}`} stroke="var(--contour)" />
      {ticks.map((t) => (
        <g key={t.text}>
          <path d={`M${x(t.x)} ${FLOOR}v5`} stroke="var(--contour)" />
          <text
            x={x(t.x)}
            y={FLOOR + 20}
            textAnchor="middle"
            fontSize={13}
            className="num"
            fill="var(--soft)"
          >
            {t.text}
          </text>
        </g>
      ))}
      <path
        d={line((p) => p.wanted.gain)}
        fill="none"
        stroke="var(--contour)"
        strokeWidth={9}
        strokeLinecap="round"
        opacity={0.5}
      />
      {reference >= from && reference <= to && (
        <path
          d={`M${x(reference)} ${y(gainAt(reference)) - 7}l7 7l-7 7l-7 -7Z`}
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth={1.4}
        />
      )}
      {shut && (
        <>
          <path
            d={line((p) => p.shut)}
            fill="none"
            stroke="var(--amber)"
            strokeWidth={2}
            strokeDasharray="6 4"
          />
          <text x={RIGHT} y={y(last.shut) - 8} textAnchor="end" fontSize={13} fill="var(--amber)">
            throttle shut
          </text>
        </>
      )}
      <path d={line((p) => p.gain)} fill="none" stroke="var(--forest)" strokeWidth={2.6} />
      <text x={RIGHT} y={y(last.gain) + 18} textAnchor="end" fontSize={13} fill="var(--forest)">
        by this law
      </text>
      <text x={x(from) + 16} y={y(points[0]!.wanted.gain) - 10} fontSize={13} fill="var(--soft)">
        what the craft would want
      </text>
      {handles.map(
        ({ id, label, v, move }) =>
          v !== null && (
            <DragHandle
              key={id}
              svg={svg}
              label={`${label}, ${shown.symbol}`}
              value={Number((v * shown.factor).toFixed(2))}
              x={x(Math.min(to, Math.max(from, v)))}
              y={y(gainAt(Math.min(to, Math.max(from, v))))}
              axis="x"
              onDrag={(px) => move(at(px))}
              onStep={(n) => move(Math.min(to, Math.max(from, v + step * n)))}
            />
          ),
      )}
    </svg>
  );
}
