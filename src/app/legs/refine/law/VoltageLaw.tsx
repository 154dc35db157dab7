import { useMemo } from 'react';
import type { Airframe } from '#core/airframe/airframe.ts';
import { gainTimesOf } from '#core/answers/axisModel.ts';
import { gainsWanted, referenceFlight, voltagesOf } from '#core/answers/gainSchedule.ts';
import type { BoardDescription } from '#core/board/description.ts';
import type { Axis } from '#core/mixer/authority.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { formatNumber } from '#core/units/units.ts';
import { SettingField } from '../../../ui/SettingField.tsx';

const W = 420;
const H = 130;
const LEFT = 40;
const RIGHT = W - 30;
const FLOOR = H - 40;
const TOP = 12;
const MOST = 1.5;

interface Props {
  readonly airframe: Airframe;
  readonly values: Values;
  readonly pads: BoardDescription['pads'];
  readonly axis: Axis;
}

/** Of rotors: what a battery that falls takes from the motors, and how gains make up for it. */
export function VoltageLaw({ airframe, values, pads, axis }: Props) {
  const points = useMemo(() => {
    const volts = voltagesOf(airframe);
    const flights = volts.map((v) => ({
      speedMps: 0,
      flown: { throttle: v.throttle, supplyV: v.volts },
    }));
    const wanted = gainsWanted(airframe, values, pads, axis, referenceFlight(airframe, values), flights);
    return volts.map((v, k) => ({
      cell: v.volts / airframe.battery.cells,
      wanted: wanted[k]!.gain,
      // What the throttle does to them is drawn above.
      gain: gainTimesOf(airframe, { ...values, 'rate.by': 'nothing' }, 0, { supplyV: v.volts }).gain,
    }));
  }, [airframe, values, pads, axis]);
  const [full, empty] = [points[0]!.cell, points.at(-1)!.cell];
  const x = (cell: number) => LEFT + ((RIGHT - LEFT) * (full - cell)) / (full - empty);
  const y = (times: number) =>
    FLOOR - (FLOOR - TOP) * Math.min(1, Math.max(0, (times - 1 / MOST) / (MOST - 1 / MOST)));
  const line = (of: (p: (typeof points)[number]) => number) =>
    `M${points.map((p) => `${x(p.cell).toFixed(1)} ${y(of(p)).toFixed(1)}`).join('L')}`;
  return (
    <section aria-label="As the battery falls" className="mt-4 border-line border-t pt-3">
      <h2 className="font-semibold">As the battery falls</h2>
      <div className="grid gap-x-6 min-[900px]:grid-cols-[420px_minmax(0,1fr)]">
        <svg
          viewBox={`0 0 ${W} ${H}`}
          className="w-full max-w-[420px]"
          role="img"
          aria-label="What gains are multiplied by, from a full battery to an empty one"
        >
          <path d={`M${LEFT} ${y(1)}H${RIGHT}`} stroke="var(--contour)" strokeDasharray="3 3" />
          <text x={LEFT - 6} y={y(1) + 4} textAnchor="end" fontSize={13} className="num" fill="var(--soft)">
            1
          </text>
          <path d={`M${LEFT} ${FLOOR}H${RIGHT}`} stroke="var(--contour)" />
          {points
            .filter((_, k) => k % 2 === 0)
            .map((p) => (
              <text
                key={p.cell}
                x={x(p.cell)}
                y={FLOOR + 20}
                textAnchor="middle"
                fontSize={13}
                className="num"
                fill="var(--soft)"
              >
                {formatNumber(p.cell, 2)} V
              </text>
            ))}
          <path
            d={line((p) => p.wanted)}
            fill="none"
            stroke="var(--contour)"
            strokeWidth={9}
            strokeLinecap="round"
            opacity={0.5}
          />
          <path d={line((p) => p.gain)} fill="none" stroke="var(--forest)" strokeWidth={2.6} />
        </svg>
        <dl className="flex flex-wrap content-start gap-x-8 gap-y-3">
          <div>
            <dt className="text-soft">goes with volts to the power</dt>
            <dd>
              <SettingField name="rate.voltPower" size="large" />
            </dd>
          </div>
          <div>
            <dt className="text-soft">as written at, per cell</dt>
            <dd>
              <SettingField name="rate.volts" size="large" />
            </dd>
          </div>
        </dl>
      </div>
    </section>
  );
}
