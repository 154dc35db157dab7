import type { ReactNode } from 'react';

/** Where the sticks stand on the drawing, from its middle. */
export const GIMBALS = { left: [-92, 34], right: [92, 34] } as const;
/** How far a stick goes on the drawing to either side. */
const THROW = 26;

/** Places for switches, nearest to the thumbs first: x, y, and which way the slot leans, degrees. */
export const SWITCH_PLACES: readonly (readonly [x: number, y: number, leanDeg: number])[] = [
  [-132, -66, -26],
  [132, -66, 26],
  [-78, -82, -10],
  [78, -82, 10],
  [-176, -14, -60],
  [176, -14, 60],
  [-36, -84, -4],
  [36, -84, 4],
];

const BODY =
  'M-150 -62C-138 -78 -104 -80 -84 -76L84 -76C104 -80 138 -78 150 -62C172 -30 182 44 172 86C168 108 138 118 122 100C106 84 84 82 60 82L-60 82C-84 82 -106 84 -122 100C-138 118 -168 108 -172 86C-182 44 -172 -30 -150 -62Z';

interface StickPosition {
  /** -1..1, right and up on the drawing. */
  readonly x: number;
  readonly y: number;
}

/** A transmitter as it lies in the hands, with where its sticks stand; what else is on it is drawn into it. */
export function TransmitterInHand({
  left,
  right,
  asked = null,
  children,
}: {
  readonly left: StickPosition | null;
  readonly right: StickPosition | null;
  /** The stick that a thumb is asked to, and which way: right or up on the drawing. */
  readonly asked?: { readonly side: 'left' | 'right'; readonly x: number; readonly y: number } | null;
  readonly children?: ReactNode;
}) {
  return (
    <g strokeLinejoin="round" strokeLinecap="round">
      <path d="M0 -78V-118" stroke="var(--contour)" strokeWidth={5} />
      <path d={BODY} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1.8} />
      <rect
        x={-34}
        y={36}
        width={68}
        height={30}
        rx={3}
        fill="var(--sunk)"
        stroke="var(--contour)"
        aria-hidden="true"
      />
      {(['left', 'right'] as const).map((side) => {
        const at = side === 'left' ? left : right;
        const [cx, cy] = GIMBALS[side];
        const thumb = asked?.side === side ? asked : null;
        const x = cx + THROW * (at?.x ?? 0);
        const y = cy - THROW * (at?.y ?? 0);
        return (
          <g key={side}>
            <circle
              cx={cx}
              cy={cy}
              r={38}
              fill={thumb ? 'var(--lake-wash)' : 'var(--paper)'}
              stroke={thumb ? 'var(--lake)' : 'var(--contour)'}
              strokeWidth={thumb ? 2 : 1.4}
            />
            <path
              d={`M${cx - 30} ${cy}h60M${cx} ${cy - 30}v60`}
              stroke="var(--line)"
              strokeWidth={1}
              aria-hidden="true"
            />
            <path d={`M${cx} ${cy}L${x} ${y}`} stroke="var(--soft)" strokeWidth={5} />
            <circle
              cx={x}
              cy={y}
              r={10}
              fill={at ? 'var(--lake)' : 'var(--sunk)'}
              stroke="var(--ink)"
              strokeWidth={1.4}
            />
            {thumb && <Thumb x={cx} y={cy} toX={thumb.x} toY={thumb.y} side={side} />}
          </g>
        );
      })}
      {children}
    </g>
  );
}

/** One thumb on a stick, and an arrow for where it goes. */
function Thumb({
  x,
  y,
  toX,
  toY,
  side,
}: {
  readonly x: number;
  readonly y: number;
  readonly toX: number;
  readonly toY: number;
  readonly side: 'left' | 'right';
}) {
  const s = side === 'left' ? -1 : 1;
  const [ax, ay] = [x + 48 * toX, y - 48 * toY];
  const turn = (Math.atan2(-toY, toX) * 180) / Math.PI;
  return (
    <g>
      {(['var(--ink)', 'var(--paper)'] as const).map((colour, i) => (
        <path
          key={colour}
          d={`M${x + s * 4} ${y + 2}Q${x + s * 26} ${y + 30} ${x + s * 44} ${y + 88}`}
          fill="none"
          stroke={colour}
          strokeWidth={29 - 3 * i}
        />
      ))}
      <path
        d={`M${x - s * 3} ${y - 6}q${s * 5} -5 ${s * 11} 0`}
        fill="none"
        stroke="var(--contour)"
        strokeWidth={1.4}
      />
      <path
        d={`M${x} ${y}L${ax} ${ay}`}
        stroke="var(--lake)"
        strokeWidth={3}
        strokeDasharray="1 6"
        aria-hidden="true"
      />
      <path
        d="M0 0l-12 -7v14z"
        fill="var(--lake)"
        transform={`translate(${ax} ${ay}) rotate(${turn})`}
        aria-hidden="true"
      />
    </g>
  );
}
