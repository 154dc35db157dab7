import { formatQuantity } from '#core/units/units.ts';
import { useApp } from '../../../store/store.ts';

const SIZE = 340;
const MIDDLE = SIZE / 2;
const REACH = MIDDLE - 34;
const STEPS_M = [10, 20, 50, 100, 200, 500, 1000, 2000, 5000];

interface Props {
  /** Of the craft from home, m; null before there is a home. */
  readonly north: number | null;
  readonly east: number | null;
  /** One sigma, m. */
  readonly accuracyM: number;
  /** Where the nose points, rad; null where nobody knows. */
  readonly heading: number | null;
}

/** Home in the middle, the craft where it was carried to, and the arrow between them. North is up. */
export function HomeRose({ north, east, accuracyM, heading }: Props) {
  const units = useApp((s) => s.ui.units);
  const distance = north === null || east === null ? 0 : Math.hypot(north, east);
  const ring = STEPS_M.find((m) => m >= 1.15 * Math.max(distance, accuracyM)) ?? 10_000;
  const k = REACH / ring;
  const x = MIDDLE + k * (east ?? 0);
  const y = MIDDLE - k * (north ?? 0);
  const back = distance > 0.5 ? { x: (MIDDLE - x) / (k * distance), y: (MIDDLE - y) / (k * distance) } : null;
  const arrow = Math.min(46, k * distance * 0.8);
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      className="w-full max-w-[400px] rounded-[4px] border border-line bg-sheet"
      aria-label="Home and the craft from above"
    >
      {[0.5, 1].map((s) => (
        <g key={s}>
          <circle cx={MIDDLE} cy={MIDDLE} r={s * REACH} fill="none" stroke="var(--line)" />
          <text x={MIDDLE + 4} y={MIDDLE - s * REACH + 13} fontSize={12} className="num" fill="var(--faint)">
            {formatQuantity(s * ring, 'm', units, 0)}
          </text>
        </g>
      ))}
      {(['N', 'E', 'S', 'W'] as const).map((name, i) => {
        const a = (i * Math.PI) / 2;
        return (
          <text
            key={name}
            x={MIDDLE + (REACH + 18) * Math.sin(a)}
            y={MIDDLE - (REACH + 18) * Math.cos(a) + 5}
            textAnchor="middle"
            fontSize={14}
            fill="var(--soft)"
          >
            {name}
          </text>
        );
      })}
      {north !== null && (
        <>
          <circle
            cx={MIDDLE}
            cy={MIDDLE}
            r={Math.max(3, k * accuracyM)}
            fill="var(--forest-wash)"
            stroke="var(--forest)"
            strokeDasharray="3 3"
          />
          <path d={`M${MIDDLE} ${MIDDLE - 7}l7 7-7 7-7-7Z`} fill="var(--forest)" />
          {back && arrow > 12 && (
            <g stroke="var(--lake)" strokeWidth={3} fill="none" strokeLinecap="round">
              <path d={`M${x} ${y}L${x + arrow * back.x} ${y + arrow * back.y}`} />
              <path
                d={`M${x + arrow * back.x} ${y + arrow * back.y}l${-9 * back.x - 6 * back.y} ${-9 * back.y + 6 * back.x}M${x + arrow * back.x} ${y + arrow * back.y}l${-9 * back.x + 6 * back.y} ${-9 * back.y - 6 * back.x}`}
              />
            </g>
          )}
          <g transform={`translate(${x} ${y}) rotate(${heading === null ? 0 : (heading * 180) / Math.PI})`}>
            {heading === null ? (
              <circle r={7} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={2} />
            ) : (
              <path
                d="M0 -12L8 9 0 5-8 9Z"
                fill="var(--sheet)"
                stroke="var(--ink)"
                strokeWidth={2}
                strokeLinejoin="round"
              />
            )}
          </g>
        </>
      )}
      {north === null && (
        <text x={MIDDLE} y={MIDDLE} textAnchor="middle" fontSize={14} fill="var(--soft)">
          no home yet
        </text>
      )}
    </svg>
  );
}
