import { formatNumber } from '#core/units/units.ts';

const [W, H] = [260, 132];
const [X, Y, R] = [W / 2, 112, 84];
/** It turns so far to either side, rad. */
const HALF = 1.15;

interface Props {
  /** What each end and the middle of it give, as shown. */
  readonly low: string;
  readonly middle: string;
  readonly high: string;
  /** Place where it begins to ring, -1 to 1; null where it rings nowhere. */
  readonly ringsFrom: number | null;
  /** Where it stands now, -1 to 1; null where nobody knows. */
  readonly at: number | null;
  /** What it gives now. */
  readonly now: string | null;
  /** Steps of a switch, as places; empty for a dial. */
  readonly steps: readonly number[];
}

const point = (place: number, r: number): readonly [number, number] => [
  X + r * Math.sin(HALF * place),
  Y - r * Math.cos(HALF * place),
];

const arc = (from: number, to: number, r: number) => {
  const [a, b] = [point(from, r), point(to, r)];
  return `M${a[0].toFixed(1)} ${a[1].toFixed(1)}A${r} ${r} 0 0 1 ${b[0].toFixed(1)} ${b[1].toFixed(1)}`;
};

/** A dial's way: what its ends give, where it would ring, and where it stands. */
export function DialScale({ low, middle, high, ringsFrom, at, now, steps }: Props) {
  const needle = at === null ? null : point(Math.min(1, Math.max(-1, at)), R - 12);
  const words = `From ${low} over ${middle} to ${high}${now === null ? '' : `; now ${now}`}${ringsFrom === null ? '' : '; it rings towards its upper end'}`;
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className="w-full max-w-[280px]" role="img" aria-label={words}>
      <path d={arc(-1, 1, R)} fill="none" stroke="var(--line)" strokeWidth={9} strokeLinecap="round" />
      {ringsFrom !== null && (
        <path
          d={arc(ringsFrom, 1, R)}
          fill="none"
          stroke="var(--red)"
          strokeWidth={9}
          strokeDasharray="2 3"
        />
      )}
      {(steps.length > 0 ? steps : [-1, -0.5, 0, 0.5, 1]).map((s) => {
        const [a, b] = [point(s, R - 8), point(s, R + (s === 0 ? 8 : 4))];
        return (
          <path
            key={s}
            d={`M${a.join(' ')}L${b.join(' ')}`}
            stroke={s === 0 ? 'var(--ink)' : 'var(--contour)'}
          />
        );
      })}
      {(
        [
          [-1, low, 'start'],
          [0, middle, 'middle'],
          [1, high, 'end'],
        ] as const
      ).map(([place, text]) => {
        const [x, y] = place === 0 ? [X, Y - R - 13] : [X + place * (R + 26), Y - 16];
        return (
          <text key={place} x={x} y={y} textAnchor="middle" fontSize={13} className="num" fill="var(--soft)">
            {text}
          </text>
        );
      })}
      {needle && (
        <>
          <path
            d={`M${X} ${Y}L${needle[0].toFixed(1)} ${needle[1].toFixed(1)}`}
            stroke="var(--lake)"
            strokeWidth={3}
            strokeLinecap="round"
          />
          <circle cx={X} cy={Y} r={5} fill="var(--lake)" />
        </>
      )}
    </svg>
  );
}

/** Three digits tell two neighbouring values of a setting apart. */
export const shownGain = (v: number): string => formatNumber(Number(v.toPrecision(3)), 6);
