import type { Airframe } from '#core/airframe/airframe.ts';
import { dischargeUnder, usedAtMark } from '#core/calibration/power.ts';
import { openCircuitV } from '#core/flight/battery.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingOf } from '#core/settings/typed.ts';

const W = 720;
const H = 170;
const [LEFT, RIGHT, TOP, BOTTOM] = [52, 178, 10, 28];

interface Props {
  readonly airframe: Airframe;
  readonly values: Values;
  readonly cells: number;
  /** Of the pack. */
  readonly ohms: number;
  /** At cruise, or in a hover. */
  readonly amps: number;
}

/** A cell of this battery as it empties under the load of cruise, with the marks that the board warns at. */
export function Discharge({ airframe, values, cells, ohms, amps }: Props) {
  const { chemistry } = airframe.battery;
  const curve = dischargeUnder((left) => openCircuitV(chemistry, left), { cells, ohms, amps });
  const rested = dischargeUnder((left) => openCircuitV(chemistry, left), { cells, ohms: 0, amps });
  const mah = settingOf(values, 'battery.capacity') ?? airframe.battery.capacityMah;
  const minutes = (share: number) => (mah * share * 0.06) / Math.max(0.1, amps);
  const [least, most] = chemistry === 'lipo' ? [3, 4.25] : [2.4, 4.25];
  const x = (used: number) => LEFT + (W - LEFT - RIGHT) * used;
  const y = (v: number) => TOP + (H - TOP - BOTTOM) * (1 - (v - least) / (most - least));
  const path = (points: typeof curve) =>
    points
      .filter((p) => p.volts >= least)
      .map((p, i) => `${i === 0 ? 'M' : 'L'}${x(p.used).toFixed(1)} ${y(p.volts).toFixed(1)}`)
      .join('');
  const marks = [
    { key: 'battery.low', words: 'low', color: 'var(--amber)' },
    { key: 'battery.empty', words: 'empty', color: 'var(--red)' },
  ] as const;
  const all = marks.map((m) => {
    const volts = settingOf(values, m.key) ?? 3.5;
    const used = usedAtMark(curve, volts);
    return { ...m, volts, used, left: minutes(1 - used) };
  });
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="mt-2 w-full max-w-[860px]"
      role="img"
      aria-label={`Voltage of a cell at ${amps.toFixed(1)} A as it empties; low after ${minutes(all[0]!.used).toFixed(0)} minutes, empty after ${minutes(all[1]!.used).toFixed(0)}`}
    >
      {[3, 3.5, 4].map((v) => (
        <g key={v}>
          <path d={`M${LEFT} ${y(v)}H${W - RIGHT}`} stroke="var(--line)" />
          <text x={LEFT - 8} y={y(v) + 4} fontSize={13} textAnchor="end" fill="var(--soft)">
            {v.toFixed(1)} V
          </text>
        </g>
      ))}
      <path d={path(rested)} fill="none" stroke="var(--contour)" strokeDasharray="2 4" />
      <path d={path(curve)} fill="none" stroke="var(--ink)" strokeWidth={2} />
      {all.map((m) => (
        <g key={m.key}>
          <path
            d={`M${LEFT} ${y(m.volts)}H${x(m.used).toFixed(1)}V${H - BOTTOM}`}
            fill="none"
            stroke={m.color}
            strokeWidth={1.6}
          />
          <text x={W - RIGHT + 12} y={y(m.volts) + 4} fontSize={13} fill={m.color}>
            {m.words} at {m.volts.toFixed(2)} V: {m.left.toFixed(0)} min left
          </text>
        </g>
      ))}
      {[0, 0.5, 1].map((share) => (
        <text
          key={share}
          x={x(share)}
          y={H - 8}
          fontSize={13}
          textAnchor={share === 0 ? 'start' : share === 1 ? 'end' : 'middle'}
          fill="var(--soft)"
        >
          {share === 0 ? 'full' : `${minutes(share).toFixed(0)} min`}
        </text>
      ))}
    </svg>
  );
}
