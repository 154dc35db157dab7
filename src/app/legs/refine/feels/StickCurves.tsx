import { isRotorcraft } from '#core/airframe/airframe.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { answerOf } from '#core/airframe/turning.ts';
import { inSet } from '#core/control/controlSet.ts';
import { DEG } from '#core/math/scalar.ts';
import { stickDemand, stickShapeOf } from '#core/modes/stickShape.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { formatNumber, formatQuantity } from '#core/units/units.ts';
import { useSampled } from '../../../live/hooks.ts';
import { live } from '../../../live/telemetry.ts';
import { selectValues } from '../../../store/selectors.ts';
import { useApp } from '../../../store/store.ts';
import { AnySettingField, SettingField } from '../../../ui/SettingField.tsx';

const axes = ['roll', 'pitch', 'yaw'] as const;
const W = 226;
const H = 130;

/** What each stick asks for along its way, in degrees a second, and what the craft can give. */
export function StickCurves({ set }: { readonly set: number }) {
  const values = useApp(selectValues);
  const airframe = useApp((s) => s.craft.airframe)!;
  const units = useApp((s) => s.ui.units);
  const s = settingsOf(values);
  const channels = useSampled(() => live('receiver')?.channels ?? null, 60);
  const speed = isRotorcraft(airframe) ? null : 1.3 * stallSpeed(airframe);
  return (
    <section className="mt-3 max-w-[860px] border-line border-t pt-3" aria-label="What the sticks ask for">
      <h2 className="font-semibold">What the sticks ask for</h2>
      <p className="text-soft">
        In Rate, how fast it turns along the way of each stick. Softer about the middle by{' '}
        <SettingField name="rx.expo" />; the ends stay.
      </p>
      <div className="mt-2 grid gap-4 min-[700px]:grid-cols-3">
        {axes.map((axis, i) => {
          const shape = stickShapeOf(values, axis);
          const key = inSet(`rate.${axis}.max`, set);
          const most = s.number(key);
          const at = (us: number) => stickDemand(us, shape) * most;
          const channel = s.number(`rx.${axis}.channel`);
          const us = channels?.[channel - 1] ?? null;
          const can = speed === null ? null : answerOf(airframe, i as 0 | 1 | 2, speed).rate / DEG;
          return (
            <div key={axis}>
              <Curve axis={axis} at={at} shape={shape} most={most} us={us} can={can} />
              <p className="text-[13px] text-soft">
                Full stick <AnySettingField name={key} />, half a stick{' '}
                {formatNumber(at((shape.middle + shape.high) / 2), 0)} °/s.
              </p>
              {can !== null && speed !== null && can > 3 && can < most && (
                <p className="text-[13px] text-amber">
                  At {formatQuantity(speed, 'm/s', units, 1)} its surfaces turn it by {formatNumber(can, 0)}{' '}
                  °/s at most: the end of the stick asks for more than they give.
                </p>
              )}
            </div>
          );
        })}
      </div>
    </section>
  );
}

function Curve({
  axis,
  at,
  shape,
  most,
  us,
  can,
}: {
  readonly axis: (typeof axes)[number];
  readonly at: (us: number) => number;
  readonly shape: { readonly low: number; readonly middle: number; readonly high: number };
  readonly most: number;
  readonly us: number | null;
  readonly can: number | null;
}) {
  const x = (pulse: number) => 8 + ((W - 16) * (pulse - shape.low)) / (shape.high - shape.low);
  const y = (rate: number) => H / 2 - ((H / 2 - 10) * rate) / Math.max(1, most);
  const points = Array.from({ length: 81 }, (_, k) => shape.low + ((shape.high - shape.low) * k) / 80);
  const d = points.map((p, k) => `${k === 0 ? 'M' : 'L'}${x(p).toFixed(1)} ${y(at(p)).toFixed(1)}`).join('');
  const cap = can !== null && can > 3 && can < most ? can : null;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="w-full max-w-[260px]"
      role="img"
      aria-label={`${axis}: ${formatNumber(most, 0)} degrees a second at full stick`}
    >
      <path d={`M8 ${H / 2}H${W - 8}M${x(shape.middle)} 8V${H - 8}`} stroke="var(--contour)" fill="none" />
      {cap !== null && (
        <path
          d={`M8 ${y(cap)}H${W - 8}M8 ${y(-cap)}H${W - 8}`}
          stroke="var(--amber)"
          strokeDasharray="4 4"
          fill="none"
        />
      )}
      <path d={d} fill="none" stroke={`var(--${axis})`} strokeWidth={2.4} />
      {us !== null && <circle cx={x(us)} cy={y(at(us))} r={5} fill="var(--lake)" />}
      <text x={12} y={20} fontSize={13} fontWeight={600} fill="var(--ink)">
        {axis}
      </text>
    </svg>
  );
}
