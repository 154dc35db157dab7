import { DEG } from '#core/math/scalar.ts';
import { formatNumber, formatQuantity, type UnitSystem } from '#core/units/units.ts';

const [W, H] = [720, 150];
const [LEFT, RIGHT] = [44, W - 10];

interface Props {
  readonly bank: Float64Array;
  readonly pitch: Float64Array;
  readonly height: Float64Array;
  readonly stepS: number;
  readonly units: UnitSystem;
}

/** The flight in which it finds out: how it leans and nods, and what that costs in height. */
export function TuneTrace({ bank, pitch, height, stepS, units }: Props) {
  const n = bank.length;
  const most = Math.max(10 * DEG, ...bank.map(Math.abs), ...pitch.map(Math.abs));
  const middle = H / 2 - 6;
  const x = (k: number) => LEFT + ((RIGHT - LEFT) * k) / Math.max(1, n - 1);
  const y = (rad: number) => middle - ((middle - 8) * rad) / most;
  const line = (of: Float64Array, mean = 0) =>
    `M${Array.from(of, (v, k) => `${x(k).toFixed(1)} ${y(v - mean).toFixed(1)}`).join('L')}`;
  const level = pitch.reduce((sum, v) => sum + v, 0) / Math.max(1, n);
  const [low, high] = [Math.min(...height), Math.max(...height)];
  return (
    <figure>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="w-full max-w-[760px]"
        role="img"
        aria-label="How it leans and nods while gains are found"
      >
        <path d={`M${LEFT} ${middle}H${RIGHT}`} stroke="var(--line)" />
        {[most, -most].map((v) => (
          <text
            key={v}
            x={LEFT - 6}
            y={y(v) + 4}
            textAnchor="end"
            fontSize={13}
            className="num"
            fill="var(--soft)"
          >
            {formatNumber(v / DEG, 0)}°
          </text>
        ))}
        <path d={line(bank)} fill="none" stroke="var(--roll)" strokeWidth={1.8} />
        <path d={line(pitch, level)} fill="none" stroke="var(--pitch)" strokeWidth={1.8} />
        <text x={RIGHT} y={H - 4} textAnchor="end" fontSize={13} className="num" fill="var(--soft)">
          {formatNumber(n * stepS, 0)} s
        </text>
        <text x={LEFT} y={H - 4} fontSize={13} fill="var(--roll)">
          bank
        </text>
        <text x={LEFT + 48} y={H - 4} fontSize={13} fill="var(--pitch)">
          nose
        </text>
      </svg>
      <figcaption className="text-soft">
        Its height goes from {formatQuantity(low, 'm', units, 1)} to {formatQuantity(high, 'm', units, 1)}{' '}
        against where it began.
      </figcaption>
    </figure>
  );
}
