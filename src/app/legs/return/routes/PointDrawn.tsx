import type { RoutePoint } from '#core/plan/plan.ts';
import type { dragOn } from '../../../ui/dragOn.ts';

interface PointProps {
  readonly point: RoutePoint;
  readonly at: number;
  readonly of: number;
  readonly xy: readonly [number, number];
  readonly k: number;
  readonly crowded: boolean;
  readonly picked: boolean;
  /** The one that the tab key comes to. */
  readonly first: boolean;
  readonly words: string;
  readonly drag: ReturnType<typeof dragOn>;
  readonly onKeyDown: (e: React.KeyboardEvent) => void;
  readonly onFocus: () => void;
}

/** A point as a plate with its number; in a crowd only a knot, until it is picked. */
export function PointDrawn({
  point,
  at,
  of,
  xy,
  k,
  crowded,
  picked,
  first,
  words,
  drag,
  onKeyDown,
  onFocus,
}: PointProps) {
  const small = crowded && !picked;
  const wide = at + 1 > 9 ? 1.7 : 1.3;
  return (
    <g
      transform={`translate(${xy[0]} ${xy[1]}) scale(${k})`}
      role="button"
      tabIndex={picked || first ? 0 : -1}
      aria-pressed={picked}
      aria-label={`Point ${at + 1} of ${of}, ${words}: arrows move it, Page keys go on, Delete takes it away`}
      className="cursor-move"
      ref={(el) => {
        if (
          picked &&
          el &&
          document.activeElement !== el &&
          el.closest('svg')?.contains(document.activeElement)
        )
          el.focus();
      }}
      {...drag}
      onKeyDown={onKeyDown}
      onFocus={onFocus}
    >
      <rect x={-2} y={-2} width={4} height={4} fill="transparent" />
      {small ? (
        <rect x={-0.5} y={-0.5} width={1} height={1} fill="var(--ink)" />
      ) : (
        <>
          <rect
            x={-wide}
            y={-1.25}
            width={2 * wide}
            height={2.5}
            rx={0.5}
            fill={picked ? 'var(--ink)' : 'var(--sheet)'}
            stroke="var(--ink)"
            strokeWidth={0.34}
          />
          {point.do === 'land' && (
            <path d={`M${-wide} 2h${2 * wide}`} stroke="var(--ink)" strokeWidth={0.5} />
          )}
          {point.do === 'camera' && <path d="M-.8 1.400L0 2.900 .8 1.400Z" fill="var(--ink)" />}
          <text
            y={0.75}
            textAnchor="middle"
            fontSize={2}
            fontWeight={600}
            className="num"
            fill={picked ? 'var(--sheet)' : 'var(--ink)'}
          >
            {at + 1}
          </text>
        </>
      )}
    </g>
  );
}
