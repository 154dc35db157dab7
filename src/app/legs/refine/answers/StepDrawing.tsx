import { useRef } from 'react';
import type { LoggedStep } from '#core/analysis/stepResponse.ts';
import type { AxisAnswer } from '#core/answers/answers.ts';
import { DEG } from '#core/math/scalar.ts';
import { formatNumber } from '#core/units/units.ts';
import { DragHandle } from '../../../drawing/DragHandle.tsx';

const W = 600;
const H = 292;
const LEFT = 56;
const RIGHT = W - 8;
const FLOOR = H - 58;
const TOP = 14;
/** When the wish comes, and how much of the answer is drawn, s. */
const BEFORE_S = 0.05;
export const SHOWN_S = 0.6;
/** So many pixels of the handle are a factor of e. */
const PER_E = 160;
const KEY_STEP = 1.05;

interface Props {
  readonly answer: AxisAnswer;
  /** With the gains that the board has, where they are other ones. */
  readonly before: AxisAnswer | null;
  /** As it was flown: of what was asked, with how sure it is. */
  readonly flown: LoggedStep | null;
  /** The same if what explains it best were so. */
  readonly explained: LoggedStep | null;
  readonly times: number | null;
  readonly onTimes: (times: number) => void;
}

/** A rate that is asked for suddenly, and how the craft answers; the handle turns all gains up and down together. */
export function StepDrawing({ answer, before, flown, explained, times, onTimes }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const asked = answer.asked / DEG;
  const most = Math.max(
    1.25,
    ...[answer, before].map((a) => (a ? 1.08 * highest(a) : 0)),
    ...[flown, explained].map((l) => (l ? 1.08 * Math.max(...l.mean) : 0)),
  );
  const top = Math.min(2.2, most) * asked;
  const x = (s: number) => LEFT + ((RIGHT - LEFT) * (s + BEFORE_S)) / (SHOWN_S + BEFORE_S);
  const y = (deg: number) => FLOOR - ((FLOOR - TOP) * deg) / top;
  const line = ({ step, asked: of }: AxisAnswer) => {
    const n = Math.floor(SHOWN_S / step.stepS);
    const points = Array.from(step.rates.subarray(0, n + 1), (r, k) => {
      // Far beyond the drawing is as good as beyond it.
      const deg = Math.min(3 * top, Math.max(-3 * top, (r / of) * asked));
      return `${x(k * step.stepS).toFixed(1)} ${y(deg).toFixed(1)}`;
    });
    return `M${x(-BEFORE_S)} ${y(0)}L${points.join('L')}`;
  };
  /** A logged answer, so many of its errors beside. */
  const logged = ({ mean, spread, stepS }: LoggedStep, errors: number) =>
    Array.from({ length: Math.min(mean.length, Math.floor(SHOWN_S / stepS)) }, (_, k) => {
      const deg = (mean[k]! + errors * spread[k]!) * asked;
      return `${x(k * stepS).toFixed(1)} ${y(Math.min(3 * top, Math.max(-3 * top, deg))).toFixed(1)}`;
    });
  const { delayS } = answer.figures;
  const handleX = x(Number.isNaN(delayS) ? SHOWN_S / 2 : Math.min(SHOWN_S, delayS));
  const handleY = y((answer.figures.reaches > 0.2 ? 0.5 * answer.figures.reaches : 0.5) * asked);
  const marks = legend(answer.state === 'rings', before !== null, flown !== null, explained !== null);
  // While it is held, the handle counts from where the curve would be with the board's own gains.
  const home = handleX + (times === null ? 0 : PER_E * Math.log(times));
  const from = useRef<number | null>(null);
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${W} ${H}`}
      className="w-full"
      role="group"
      aria-label={`Asked for ${formatNumber(asked, 0)} degrees a second of ${answer.axis}`}
      onPointerUp={() => {
        from.current = null;
      }}
    >
      <clipPath id="answer-drawn">
        <rect x={LEFT} y={TOP - 4} width={RIGHT - LEFT} height={FLOOR - TOP + 6} />
      </clipPath>
      {flown && (
        <path
          clipPath="url(#answer-drawn)"
          d={`M${logged(flown, 2).join('L')}L${logged(flown, -2).reverse().join('L')}Z`}
          fill="var(--lake-wash)"
        />
      )}
      {[0.5, 1].map((k) => (
        <g key={k}>
          {k < 1 && <path d={`M${LEFT} ${y(k * asked)}H${RIGHT}`} stroke="var(--line)" />}
          <text
            x={LEFT - 8}
            y={y(k * asked) + 4}
            textAnchor="end"
            fontSize={13}
            className="num"
            fill="var(--soft)"
          >
            {formatNumber(k * asked, 0)}
          </text>
        </g>
      ))}
      <text x={LEFT - 8} y={y(0) + 4} textAnchor="end" fontSize={13} className="num" fill="var(--soft)">
        0 °/s
      </text>
      <path d={`M${LEFT} ${y(0)}H${RIGHT}`} stroke="var(--contour)" />
      {[0.1, 0.2, 0.3, 0.4, 0.5].map((s) => (
        <g key={s}>
          <path d={`M${x(s)} ${FLOOR}v5`} stroke="var(--contour)" />
          <text x={x(s)} y={FLOOR + 20} textAnchor="middle" fontSize={13} className="num" fill="var(--soft)">
            {s} s
          </text>
        </g>
      ))}
      <path
        d={`M${x(-BEFORE_S)} ${y(0)}H${x(0)}V${y(asked)}H${RIGHT}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.4}
        strokeDasharray="3 4"
      />
      <text
        x={x(0) + 4}
        y={y(asked) - 7}
        fontSize={13}
        fill="var(--soft)"
        stroke="var(--sheet)"
        strokeWidth={4}
        paintOrder="stroke"
      >
        asked
      </text>
      {before && (
        <path
          clipPath="url(#answer-drawn)"
          d={line(before)}
          fill="none"
          stroke="var(--soft)"
          strokeWidth={1.6}
          strokeDasharray="7 4"
        />
      )}
      {flown && (
        <path
          clipPath="url(#answer-drawn)"
          d={`M${logged(flown, 0).join('L')}`}
          fill="none"
          stroke="var(--lake)"
          strokeWidth={2}
        />
      )}
      <path
        clipPath="url(#answer-drawn)"
        d={line(answer)}
        fill="none"
        stroke={answer.state === 'rings' ? 'var(--red)' : 'var(--forest)'}
        strokeWidth={3}
      />
      {explained && (
        <path
          clipPath="url(#answer-drawn)"
          d={`M${logged(explained, 0).join('L')}`}
          fill="none"
          stroke="var(--lake)"
          strokeWidth={2.4}
          strokeDasharray="1 5"
          strokeLinecap="round"
        />
      )}
      <g fontSize={13}>
        {marks.map(({ name, at, look, band }) => (
          <g key={name} transform={`translate(${at} ${H - 12})`}>
            {band && <path d="M0 0h28" stroke={band} strokeWidth={10} />}
            <path d="M0 0h28" fill="none" {...look} />
            <text x={36} y={4} fill={look.stroke === 'var(--forest)' ? 'var(--ink)' : look.stroke}>
              {name}
            </text>
          </g>
        ))}
      </g>
      {times !== null && (
        <>
          <DragHandle
            svg={svg}
            label="P, I and D together, times what the board has"
            value={Number(times.toFixed(2))}
            x={handleX}
            y={handleY}
            axis="x"
            onDrag={(px) => {
              from.current ??= home;
              onTimes(Math.exp((from.current - px) / PER_E));
            }}
            onStep={(n) => onTimes(times * KEY_STEP ** n)}
          />
          <text
            x={handleX + 22}
            y={handleY - 4}
            fontSize={20}
            className="num"
            fontWeight={600}
            stroke="var(--sheet)"
            strokeWidth={4}
            paintOrder="stroke"
          >
            {times.toFixed(2)}
          </text>
          <text
            x={handleX + 22}
            y={handleY + 14}
            fontSize={13}
            fill="var(--soft)"
            stroke="var(--sheet)"
            strokeWidth={4}
            paintOrder="stroke"
          >
            times what the board has, P, I and D together
          </text>
        </>
      )}
    </svg>
  );
}

/** How high it goes over what was asked, as a share of it. */
const highest = ({ step, asked }: AxisAnswer): number => Math.max(...step.rates) / asked;

/** The lines that are drawn, by name, each with its place from the left. */
function legend(rings: boolean, before: boolean, flown: boolean, explained: boolean) {
  const all = [
    {
      name: 'promised',
      wide: 112,
      there: true,
      look: { stroke: rings ? 'var(--red)' : 'var(--forest)', strokeWidth: 3 },
    },
    {
      name: 'as the board has it',
      wide: 166,
      there: before,
      look: { stroke: 'var(--soft)', strokeWidth: 1.6, strokeDasharray: '7 4' },
    },
    {
      name: 'flown',
      wide: 88,
      there: flown,
      look: { stroke: 'var(--lake)', strokeWidth: 2 },
      band: 'var(--lake-wash)',
    },
    {
      name: 'with what explains it',
      wide: 0,
      there: explained,
      look: {
        stroke: 'var(--lake)',
        strokeWidth: 2.4,
        strokeDasharray: '1 5',
        strokeLinecap: 'round' as const,
      },
    },
  ];
  let at = LEFT;
  return all.flatMap(({ there, wide, ...mark }) => {
    if (!there) return [];
    const here = { band: undefined, ...mark, at };
    at += wide;
    return [here];
  });
}
