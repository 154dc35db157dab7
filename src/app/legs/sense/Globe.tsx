import { facets, middleOf } from '#core/calibration/coverage.ts';
import { cross, type Triple, unit } from '#core/math/triple.ts';

const R = 100;
/** Each border of a facet in so many straight pieces. */
const PIECES = 8;

/** Two eyes on opposite sides, so that every facet is seen by one of them. Compass axes. */
const eyes: readonly { readonly towards: Triple; readonly x: number; readonly words: string }[] = [
  { towards: unit([0.75, 0.45, 0.5]), x: -118, words: 'from one side' },
  { towards: unit([-0.75, -0.45, -0.5]), x: 118, words: 'and from the other' },
];

interface Props {
  readonly seen: readonly boolean[];
  readonly next: number | null;
  /** Where the field points now, unit, compass axes. */
  readonly now: Triple | null;
}

/** The globe of directions that the field has stood in, by two eyes. */
export function Globe({ seen, next, now }: Props) {
  const count = seen.filter(Boolean).length;
  return (
    <svg
      viewBox="-226 -112 452 240"
      className="max-h-[max(46vh,240px)] w-full"
      role="img"
      aria-label={`A globe of 24 facets: ${count} have been seen`}
    >
      {eyes.map(({ towards, x, words }) => {
        const right = unit(cross([0, 0, 1], towards));
        const up = cross(towards, right);
        const of = (v: Triple) => ({
          x: R * dot(v, right),
          y: -R * dot(v, up),
          near: dot(v, towards),
        });
        return (
          <g key={words} transform={`translate(${x} 0)`}>
            <circle r={R + 2} fill="none" stroke="var(--contour)" />
            {facets.map((f, i) => {
              const middle = of(middleOf(i));
              if (middle.near < -0.25) return null;
              const points = outline(f).map(of);
              // What lies round the edge is drawn on the rim.
              const d = points
                .map((p) => {
                  const size = Math.hypot(p.x, p.y) || 1;
                  const [px, py] = p.near >= 0 ? [p.x, p.y] : [(p.x / size) * R, (p.y / size) * R];
                  return `${px.toFixed(1)} ${py.toFixed(1)}`;
                })
                .join('L');
              const is = seen[i] ? 'seen' : i === next ? 'next' : 'open';
              return (
                <path
                  key={middleOf(i).join()}
                  d={`M${d}Z`}
                  fill={is === 'seen' ? 'var(--forest-wash)' : is === 'next' ? 'var(--lake)' : 'var(--sheet)'}
                  stroke={is === 'open' ? 'var(--contour)' : 'var(--forest)'}
                  strokeDasharray={is === 'open' ? '2 3' : undefined}
                  strokeLinejoin="round"
                />
              );
            })}
            {next !== null && of(middleOf(next)).near > 0.5 && (
              <text
                x={of(middleOf(next)).x}
                y={of(middleOf(next)).y + 4}
                fontSize={12}
                textAnchor="middle"
                fill="var(--sheet)"
                fontWeight={600}
              >
                next
              </text>
            )}
            {now && of(now).near > 0 && (
              <g>
                <path
                  d={`M0 0L${of(now).x.toFixed(1)} ${of(now).y.toFixed(1)}`}
                  stroke="var(--ink)"
                  strokeWidth={2}
                />
                <circle
                  cx={of(now).x}
                  cy={of(now).y}
                  r={5}
                  fill="var(--ink)"
                  stroke="var(--sheet)"
                  strokeWidth={1.5}
                />
              </g>
            )}
            <text y={R + 22} fontSize={13} textAnchor="middle" fill="var(--soft)">
              {words}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

const dot = (a: Triple, b: Triple) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** The border of a facet, unit vectors. */
function outline(f: (typeof facets)[number]): Triple[] {
  const at = (z: number, lon: number): Triple => {
    const level = Math.sqrt(Math.max(0, 1 - z * z));
    return [level * Math.cos(lon), level * Math.sin(lon), z];
  };
  const between = (a: number, b: number, k: number) => a + ((b - a) * k) / PIECES;
  const out: Triple[] = [];
  for (let k = 0; k < PIECES; k++) out.push(at(f.top, between(f.from, f.to, k)));
  for (let k = 0; k < PIECES; k++) out.push(at(between(f.top, f.bottom, k), f.to));
  for (let k = 0; k < PIECES; k++) out.push(at(f.bottom, between(f.to, f.from, k)));
  for (let k = 0; k < PIECES; k++) out.push(at(between(f.bottom, f.top, k), f.from));
  return out;
}
