import { formatQuantity } from '#core/units/units.ts';
import { useApp } from '../store/store.ts';

/** Parts of a way drawn from the side. */

/** Lines of height from nought to the top. @param y where a height lies */
export function HeightLines({
  topM,
  left,
  right,
  y,
}: {
  readonly topM: number;
  readonly left: number;
  readonly right: number;
  readonly y: (heightM: number) => number;
}) {
  const units = useApp((s) => s.ui.units);
  return [0, 0.5, 1].map((k) => (
    <g key={k}>
      <path d={`M${left - 8} ${y(k * topM)}H${right}`} stroke="var(--line)" />
      <text
        x={left - 12}
        y={y(k * topM) + 4}
        textAnchor="end"
        fontSize={13}
        className="num"
        fill="var(--soft)"
      >
        {formatQuantity(k * topM, 'm', units, 0)}
      </text>
    </g>
  ));
}

const STEPS_M = [100, 200, 500, 1000, 2000, 5000, 10_000, 20_000];
const LARGEST_STEP_M = 50_000;

/** Distances under the floor, in round steps. @param x where a distance lies @param most how many at most @param from none left of that */
export function DistanceTicks({
  farM,
  most,
  floor,
  x,
  from = Number.NEGATIVE_INFINITY,
}: {
  readonly farM: number;
  readonly most: number;
  readonly floor: number;
  readonly x: (distanceM: number) => number;
  readonly from?: number;
}) {
  const units = useApp((s) => s.ui.units);
  const step = STEPS_M.find((s) => farM / s <= most) ?? LARGEST_STEP_M;
  return Array.from({ length: Math.floor(farM / step) }, (_, i) => (i + 1) * step)
    .filter((d) => x(d) > from)
    .map((d) => (
      <text
        key={d}
        x={x(d)}
        y={floor + 17}
        textAnchor="middle"
        fontSize={13}
        className="num"
        fill="var(--soft)"
      >
        {formatQuantity(d, 'm', units, 0)}
      </text>
    ));
}

/** Charge along the way as a strip at the foot, with what is to be left. */
export function ChargeStrip({
  points,
  reserveShare,
  left,
  right,
  bottom,
  high,
}: {
  readonly points: readonly { readonly x: number; readonly share: number }[];
  readonly reserveShare: number;
  readonly left: number;
  readonly right: number;
  readonly bottom: number;
  readonly high: number;
}) {
  const y = (share: number) => bottom - high * Math.max(0, Math.min(1, share));
  return (
    <>
      <path
        d={`M${points.map((p) => `${p.x.toFixed(1)} ${y(p.share).toFixed(1)}`).join('L')}L${points.at(-1)!.x} ${bottom}L${points[0]!.x} ${bottom}Z`}
        fill="var(--lake-wash)"
        stroke="var(--lake)"
        strokeWidth={1}
      />
      <path d={`M${left} ${y(reserveShare)}H${right}`} stroke="var(--amber)" strokeDasharray="3 3" />
      <text x={left - 12} y={bottom - 6} textAnchor="end" fontSize={13} fill="var(--soft)">
        charge
      </text>
    </>
  );
}
