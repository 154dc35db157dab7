import type { LowMark, OutFlight, OutPoint } from '#core/reach/turnBack.ts';
import { formatQuantity } from '#core/units/units.ts';
import { useApp } from '../../../store/store.ts';

const WIDTH = 720;
const HEIGHT = 236;
const LEFT = 54;
const RIGHT = 700;
const TOP = 40;
const FLOOR = 196;

const names: Readonly<Record<LowMark['watch'], string>> = {
  home: 'by the way home',
  charge: 'by charge',
  volts: 'by voltage',
};
/** Labels of marks stand under each other, so that neighbours do not cover each other. */
const ROWS: Readonly<Record<LowMark['watch'], number>> = { home: 0, charge: 1, volts: 2 };

/** Charge against time on a flight straight out: what is left, and what would be left above home if it turned then. */
export function OutChart({
  flight,
  watch,
  reserve,
  comesDown,
}: {
  readonly flight: OutFlight;
  readonly watch: LowMark['watch'];
  readonly reserve: number;
  /** At its end the board brings it down where it is. */
  readonly comesDown: boolean;
}) {
  const units = useApp((s) => s.ui.units);
  const { points, marks, empty } = flight;
  const last = points.at(-1)!;
  const x = (s: number) => LEFT + (s / Math.max(60, last.seconds)) * (RIGHT - LEFT);
  const y = (share: number) => FLOOR - Math.max(0, Math.min(1, share)) * (FLOOR - TOP);
  const path = (of: readonly OutPoint[], value: (p: OutPoint) => number) =>
    of.length < 2
      ? ''
      : `M${of.map((p) => `${x(p.seconds).toFixed(1)} ${y(value(p)).toFixed(1)}`).join('L')}`;
  const home = points.filter((p) => p.homeShare >= 0);
  const minutes = [5, 10, 20, 30].find((m) => last.seconds / 60 / m <= 7) ?? 60;
  const ticks = Array.from({ length: Math.floor(last.seconds / 60 / minutes) }, (_, i) => (i + 1) * minutes);
  const middle = home[Math.floor(home.length / 2)];
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="mt-2 w-full min-w-[640px] max-w-[860px]"
      role="img"
      aria-label="Charge on a flight straight out, and what would be left above home"
    >
      {[0, 0.5, 1].map((k) => (
        <g key={k}>
          <path d={`M${LEFT} ${y(k)}H${RIGHT}`} stroke="var(--line)" />
          <text x={LEFT - 6} y={y(k) + 4} textAnchor="end" fontSize={13} className="num" fill="var(--soft)">
            {100 * k} %
          </text>
        </g>
      ))}
      {ticks.map((m) => (
        <text
          key={m}
          x={x(60 * m)}
          y={FLOOR + 17}
          textAnchor="middle"
          fontSize={13}
          className="num"
          fill="var(--soft)"
        >
          {m} min
        </text>
      ))}
      <path d={`M${LEFT} ${y(reserve)}H${RIGHT}`} stroke="var(--amber)" strokeDasharray="4 4" />
      <text x={RIGHT} y={y(reserve) - 4} textAnchor="end" fontSize={13} fill="var(--amber)">
        to be left
      </text>
      <path d={path(points, (p) => p.share)} fill="none" stroke="var(--lake)" strokeWidth={2.4} />
      <text x={x(0.72 * last.seconds)} y={y(0.28) - 12} fontSize={13} fill="var(--lake)">
        left in the battery
      </text>
      <path
        d={path(home, (p) => p.homeShare)}
        fill="none"
        stroke="var(--forest)"
        strokeWidth={2.4}
        strokeDasharray="8 3"
      />
      {middle && (
        <text x={x(home.at(-1)!.seconds) + 8} y={FLOOR - 8} fontSize={13} fill="var(--forest)">
          left above home
        </text>
      )}
      {empty && (
        <g>
          <path d={`M${x(empty.seconds)} ${FLOOR - 26}V${FLOOR}`} stroke="var(--red)" strokeWidth={1.6} />
          <path d={`M${x(empty.seconds) - 6} ${FLOOR - 8}l6 8 6 -8z`} fill="var(--red)" />
          <text
            x={Math.min(RIGHT, x(empty.seconds) + 6)}
            y={FLOOR + 34}
            textAnchor="end"
            fontSize={13}
            fill="var(--red)"
          >
            {comesDown ? 'empty, comes down here' : 'empty'}
          </text>
        </g>
      )}
      {marks.map(({ watch: w, at }) => {
        if (!at) return null;
        const chosen = w === watch;
        const color =
          at.homeShare <= 0 ? 'var(--red)' : at.homeShare < reserve - 0.01 ? 'var(--amber)' : 'var(--forest)';
        const right = x(at.seconds) > 0.6 * WIDTH;
        const row = 12 + 13 * ROWS[w];
        return (
          <g key={w} opacity={chosen ? 1 : 0.75}>
            <path
              d={`M${x(at.seconds)} ${row + 3}V${FLOOR}`}
              stroke={color}
              strokeWidth={chosen ? 2.4 : 1.2}
              strokeDasharray={chosen ? undefined : '2 3'}
            />
            <circle
              cx={x(at.seconds)}
              cy={y(at.share)}
              r={chosen ? 4.5 : 3}
              fill="var(--sheet)"
              stroke={color}
              strokeWidth={2}
            />
            <text
              x={x(at.seconds) + (right ? -5 : 5)}
              y={row}
              textAnchor={right ? 'end' : 'start'}
              fontSize={13}
              fontWeight={chosen ? 600 : 400}
              fill={color}
              stroke="var(--sheet)"
              strokeWidth={3}
              paintOrder="stroke"
            >
              {names[w]}, {formatQuantity(at.distanceM, 'm', units, 0)} out:{' '}
              {at.homeShare <= 0 ? 'too late' : `${Math.round(100 * at.homeShare)} % above home`}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
