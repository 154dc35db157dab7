import { useMemo, useRef } from 'react';
import type { Airframe } from '#core/airframe/airframe.ts';
import { axisAnswer, MARGIN_LEAST_DEG } from '#core/answers/answers.ts';
import type { BoardDescription } from '#core/board/description.ts';
import type { Axis } from '#core/mixer/authority.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { formatQuantity } from '#core/units/units.ts';
import { DragHandle } from '../../../drawing/DragHandle.tsx';
import { useApp } from '../../../store/store.ts';

const W = 728;
const H = 104;
const LEFT = 56;
const RIGHT = W - 20;
const FLOOR = H - 30;
const TOP = 10;
const POINTS = 9;
const MOST_DEG = 150;

interface Props {
  readonly airframe: Airframe;
  readonly values: Values;
  readonly pads: BoardDescription['pads'];
  readonly axis: Axis;
  readonly slowest: number;
  readonly fastest: number;
  readonly speed: number;
  readonly onSpeed: (speed: number) => void;
}

/** What is left until it rings, from just above the stall to faster than is flown; the handle is the speed that is looked at. */
export function OverSpeeds({ airframe, values, pads, axis, slowest, fastest, speed, onSpeed }: Props) {
  const units = useApp((s) => s.ui.units);
  const svg = useRef<SVGSVGElement>(null);
  const points = useMemo(
    () =>
      Array.from({ length: POINTS }, (_, k) => {
        const mps = slowest + ((fastest - slowest) * k) / (POINTS - 1);
        const answer = axisAnswer(airframe, values, pads, axis, mps);
        // A loop that cannot ring has all of it left.
        const left = answer?.margin.crossover?.degrees ?? MOST_DEG;
        return { mps, left: answer?.state === 'rings' ? Math.min(0, left) : left };
      }),
    [airframe, values, pads, axis, slowest, fastest],
  );
  const x = (mps: number) => LEFT + ((RIGHT - LEFT) * (mps - slowest)) / Math.max(0.1, fastest - slowest);
  const y = (deg: number) => FLOOR - ((FLOOR - TOP) * Math.min(MOST_DEG, Math.max(0, deg))) / MOST_DEG;
  const mpsAt = (px: number) =>
    Math.min(fastest, Math.max(slowest, slowest + ((px - LEFT) / (RIGHT - LEFT)) * (fastest - slowest)));
  const worst = points.reduce((a, b) => (b.left < a.left ? b : a));
  return (
    <section aria-label="Over its speeds" className="mt-3 border-line border-t pt-3">
      <h2 className="font-semibold">Over its speeds</h2>
      <p className="text-soft">
        {worst.left < MOST_DEG ? (
          <>
            Least is left at {formatQuantity(worst.mps, 'm/s', units, 1)}:{' '}
            <span className={`num ${worst.left < MARGIN_LEAST_DEG ? 'text-amber' : ''}`}>
              {Math.round(worst.left)}°
            </span>
            .
          </>
        ) : (
          'At none of them does a delay make it ring.'
        )}{' '}
        The mark is the speed that is looked at above.
      </p>
      <svg
        ref={svg}
        viewBox={`0 0 ${W} ${H}`}
        className="w-full max-w-[760px]"
        role="group"
        aria-label="What is left until it rings, by speed"
      >
        <path d={`M${LEFT} ${FLOOR}H${RIGHT}`} stroke="var(--contour)" />
        <path d={`M${LEFT} ${y(MARGIN_LEAST_DEG)}H${RIGHT}`} stroke="var(--amber)" strokeDasharray="3 3" />
        <text x={LEFT - 8} y={y(MARGIN_LEAST_DEG) + 4} textAnchor="end" fontSize={13} className="num">
          {MARGIN_LEAST_DEG}°
        </text>
        <path
          d={`M${points.map((p) => `${x(p.mps).toFixed(1)} ${y(p.left).toFixed(1)}`).join('L')}`}
          fill="none"
          stroke="var(--forest)"
          strokeWidth={2.4}
        />
        {points
          .filter((_, k) => k % 2 === 0)
          .map((p) => (
            <text
              key={p.mps}
              x={x(p.mps)}
              y={FLOOR + 22}
              textAnchor="middle"
              fontSize={13}
              className="num"
              fill="var(--soft)"
            >
              {formatQuantity(p.mps, 'm/s', units, 0)}
            </text>
          ))}
        <path d={`M${x(speed)} ${TOP}V${FLOOR}`} stroke="var(--lake)" strokeDasharray="2 3" />
        <DragHandle
          svg={svg}
          label="Speed that is looked at"
          value={Number(speed.toFixed(1))}
          x={x(speed)}
          y={FLOOR}
          axis="x"
          onDrag={(px) => onSpeed(mpsAt(px))}
          onStep={(n) => onSpeed(Math.min(fastest, Math.max(slowest, speed + 0.1 * n)))}
        />
      </svg>
    </section>
  );
}
