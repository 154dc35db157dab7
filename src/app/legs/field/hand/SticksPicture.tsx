import type { Gesture } from '#core/byHand/gestures.ts';

/** Two sticks as they are held: rings for how far each can go, a dot where it is. */
export function SticksPicture({
  gesture,
  heldShare = 0,
}: {
  readonly gesture: Gesture;
  readonly heldShare?: number;
}) {
  const left = { x: gesture.left === 'left' ? -13 : 13, y: 13 };
  const right = {
    up: { x: 0, y: -16 },
    down: { x: 0, y: 16 },
    left: { x: -16, y: 0 },
    right: { x: 16, y: 0 },
  }[gesture.right];
  return (
    <svg
      viewBox="0 0 110 52"
      className="h-[52px] w-[110px] shrink-0"
      role="img"
      aria-label={`left stick low and ${gesture.left}, right stick ${gesture.right}`}
    >
      {[
        { cx: 26, at: left },
        { cx: 84, at: right },
      ].map(({ cx, at }) => (
        <g key={cx} transform={`translate(${cx} 26)`}>
          <circle r={22} fill="var(--sunk)" stroke="var(--line)" />
          <path d={`M0 0L${at.x} ${at.y}`} stroke="var(--soft)" strokeWidth={2.4} strokeLinecap="round" />
          <circle cx={at.x} cy={at.y} r={5} fill={heldShare > 0 ? 'var(--lake)' : 'var(--ink)'} />
        </g>
      ))}
      {heldShare > 0 && (
        <path d={`M4 51H${4 + 102 * Math.min(1, heldShare)}`} stroke="var(--lake)" strokeWidth={2} />
      )}
    </svg>
  );
}
