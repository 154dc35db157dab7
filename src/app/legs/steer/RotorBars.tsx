import { useMemo, useRef } from 'react';
import { actuatorNames, type MotorId } from '#core/airframe/actuators.ts';
import { type Airframe, widthOf } from '#core/airframe/airframe.ts';
import { topView } from '#core/airframe/outline.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingOf } from '#core/settings/typed.ts';
import { CraftTop } from '../../drawing/CraftTop.tsx';
import { useFrame } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { store } from '../../store/store.ts';

const BAR = 64;
const BAR_W = 12;

/** What the board would give each rotor now, 0..1, by motor; null where it does not tell. */
export function rotorShares(values: Values): Partial<Record<string, number>> | null {
  const answers = live('answers');
  if (!answers || answers.shares.length === 0) return null;
  return Object.fromEntries(
    answers.shares.flatMap((share, i) => {
      const drives = settingOf(values, `out.${i + 1}.drives`);
      return drives && drives !== 'nothing' ? [[drives, share]] : [];
    }),
  );
}

/** The craft from above with a bar at each rotor: what the board would give it, were it armed. */
export function RotorBars({
  airframe,
  more,
}: {
  readonly airframe: Airframe;
  readonly more: readonly MotorId[];
}) {
  const root = useRef<SVGGElement>(null);
  const view = useMemo(() => topView(airframe), [airframe]);
  const { length, ahead } = view;
  const k = Math.min(300 / widthOf(airframe), 220 / (length + ahead));
  const ys = view.motors.map((m) => m.centre[1] * k);
  const top = Math.min(-ahead * k, ...view.motors.map((m) => (m.centre[1] - m.discRadius) * k)) - 34;
  const bottom =
    Math.max(
      length * k,
      Math.max(...ys) + BAR / 2,
      ...view.motors.map((m) => (m.centre[1] + m.discRadius) * k),
    ) + 8;
  useFrame(() => {
    const shares = rotorShares(store.getState().settings.base);
    for (const bar of root.current?.querySelectorAll<SVGRectElement>('rect[data-rotor]') ?? []) {
      const h = BAR * (shares?.[bar.dataset.rotor!] ?? 0);
      bar.setAttribute('height', h.toFixed(1));
      bar.setAttribute('y', (Number(bar.dataset.foot) - h).toFixed(1));
    }
  });
  return (
    <svg
      viewBox={`-230 ${top} 460 ${bottom - top}`}
      className="w-full"
      role="img"
      aria-label="The craft from above, with a bar at each rotor for what the board would give it"
    >
      <CraftTop airframe={airframe} scale={k} settled={new Set(more)} />
      <g ref={root}>
        {view.motors.map((m) => {
          const id = m.id as MotorId;
          const side = m.centre[0] < -0.01 ? -1 : 1;
          // A lower rotor stands beside the upper one of its arm.
          const out = m.discRadius * k + 12 + (id.includes('lower') ? BAR_W + 8 : 0);
          const x = m.centre[0] * k + side * out - (side < 0 ? BAR_W : 0);
          const foot = m.centre[1] * k + BAR / 2;
          const marked = more.includes(id);
          return (
            <g key={id}>
              <rect
                x={x}
                y={foot - BAR}
                width={BAR_W}
                height={BAR}
                fill="var(--sheet)"
                stroke={marked ? 'var(--forest)' : 'var(--contour)'}
                strokeWidth={marked ? 2 : 1.2}
              />
              <rect
                data-rotor={id}
                data-foot={foot}
                x={x}
                y={foot}
                width={BAR_W}
                height={0}
                fill="var(--lake)"
              />
              <path d={`M${x - 3} ${foot - BAR / 2}h${BAR_W + 6}`} stroke="var(--ink)" />
              <title>{actuatorNames[id]}</title>
            </g>
          );
        })}
      </g>
      <text x={-226} y={top + 14} fontSize={13} fill="var(--soft)">
        from above; the mark is half throttle
      </text>
    </svg>
  );
}
