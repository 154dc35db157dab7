import type { AtLoss } from '#core/calibration/silence.ts';

interface Props {
  readonly does: AtLoss | null;
  readonly noticed: boolean | null;
  readonly watching: boolean;
}

const X0 = 60;
const OFF_X = 250;
const END_X = 560;

/** What comes over the wire before and after the transmitter goes off: frames as strokes, as high as the throttle in them. */
export function SilenceDrawn({ does, noticed, watching }: Props) {
  const before = Array.from({ length: 15 }, (_, k) => X0 + 12 * k + 6);
  const after = Array.from({ length: 25 }, (_, k) => OFF_X + 12 * k + 12);
  const tone = noticed === null ? 'var(--contour)' : noticed ? 'var(--forest)' : 'var(--red)';
  return (
    <svg
      viewBox="0 0 728 128"
      className="mt-3 w-full min-w-[640px] max-w-[760px]"
      role="img"
      aria-label={
        does === null
          ? 'Not tried yet: what comes over the wire once the transmitter is off is not known'
          : `After the transmitter is off: ${drawnWords[does]}`
      }
    >
      <line x1={X0 - 20} y1={92} x2={END_X + 12} y2={92} stroke="var(--ink)" />
      {before.map((x) => (
        <line key={x} x1={x} y1={92} x2={x} y2={52} stroke="var(--lake)" strokeWidth={4} />
      ))}
      <line x1={OFF_X} y1={22} x2={OFF_X} y2={98} stroke="var(--ink)" strokeDasharray="3 4" />
      <text x={OFF_X} y={16} textAnchor="middle" fontSize={13} fill="var(--ink)">
        transmitter off
      </text>
      <text x={X0 - 8} y={114} fontSize={13} fill="var(--soft)">
        frames, as high as their throttle
      </text>
      {does !== null &&
        does !== 'stops' &&
        after.map((x) => (
          <line
            key={x}
            x1={x}
            y1={92}
            x2={x}
            y2={does === 'makes-up' ? 86 : 52}
            stroke={tone}
            strokeWidth={does === 'says-so' ? 1.5 : 4}
            strokeDasharray={does === 'says-so' ? '3 3' : undefined}
          />
        ))}
      <text x={OFF_X + 16} y={114} fontSize={13} fill={does === null ? 'var(--faint)' : tone}>
        {does === null ? (watching ? 'listening…' : 'not tried yet') : drawnWords[does]}
      </text>
      {noticed !== null && (
        <g>
          <path
            d={noticed ? `M${END_X + 34} 70l9 9l18 -22` : `M${END_X + 36} 56l22 22M${END_X + 58} 56l-22 22`}
            fill="none"
            stroke={tone}
            strokeWidth={3.5}
          />
          <text x={END_X + 48} y={114} textAnchor="middle" fontSize={13} fill={tone}>
            {noticed ? 'board notices' : 'board believes it'}
          </text>
        </g>
      )}
    </svg>
  );
}

const drawnWords: Readonly<Record<AtLoss, string>> = {
  stops: 'nothing more comes',
  'says-so': 'frames that say “not heard”',
  holds: 'the last values, over and over',
  'makes-up': 'made-up values',
};
