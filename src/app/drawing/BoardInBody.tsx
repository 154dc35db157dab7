import { useMemo } from 'react';
import type { Airframe } from '#core/airframe/airframe.ts';
import { Matrix3 } from '#core/math/matrix3.ts';
import type { Quat } from '#core/math/quaternion.ts';
import { cross, dot, type Triple, unit } from '#core/math/triple.ts';

/** The eye stands behind the left wing and above: nose to the left, right wing to the right. */
const look = unit([0.44, 0.76, 0.48]);
const across = unit(cross(look, [0, 0, -1]));
const below = cross(look, across);

/** Where a point in craft axes is seen. */
const seen = (v: Triple): readonly [x: number, y: number] => [dot(v, across), dot(v, below)];
const away = (v: Triple) => dot(v, look);

interface Props {
  readonly airframe: Airframe;
  /** Board to craft. */
  readonly mount: Quat;
  /** Half of the length of body that is shown, px. */
  readonly half: number;
  readonly tone: 'forest' | 'amber';
  /** Directions that gravity had, craft axes, drawn as plumb lines below the board. */
  readonly plumbs?: readonly Triple[];
  /** Without words, where it is small. */
  readonly bare?: boolean;
}

const at = (points: readonly Triple[]) =>
  points
    .map((p) =>
      seen(p)
        .map((v) => v.toFixed(1))
        .join(' '),
    )
    .join('L');

/** Half of the board, px at half = 250. */
const BOARD = [46, 46, 5] as const;
const PLUMB = 168;

/** The board in its transparent body, its arrow drawn out of it. */
export function BoardInBody({ airframe, mount, half, tone, plumbs = [], bare }: Props) {
  const k = half / 250;
  const turned = useMemo(() => Matrix3.fromQuaternion(mount), [mount]);
  const [bx, by, bz] = BOARD.map((v) => v * k) as [number, number, number];
  const on = (x: number, y: number, z: number) => turned.times([x * bx, y * by, z * bz]);
  const width = 92 * k;
  const height = Math.min(1.5, Math.max(0.7, airframe.bodyHeightM / airframe.bodyWidthM)) * width;
  const ring = (x: number, size: number): Triple[] =>
    Array.from({ length: 28 }, (_, i) => {
      const a = (2 * Math.PI * i) / 28;
      // Between an ellipse and a box, as bodies are.
      const c = Math.sign(Math.cos(a)) * Math.abs(Math.cos(a)) ** 0.7;
      const s = Math.sign(Math.sin(a)) * Math.abs(Math.sin(a)) ** 0.7;
      return [x, width * size * c, height * size * s];
    });
  const rings = Array.from({ length: 23 }, (_, i) => {
    const share = (i - 11) / 11;
    return { share, points: ring(share * half, 0.55 + 0.45 * Math.cos(share * 1.05) ** 0.8) };
  });
  const faces = [
    {
      name: 'chips',
      normal: [0, 0, -1],
      corners: [on(-1, -1, -1), on(1, -1, -1), on(1, 1, -1), on(-1, 1, -1)],
    },
    { name: 'back', normal: [0, 0, 1], corners: [on(-1, -1, 1), on(1, -1, 1), on(1, 1, 1), on(-1, 1, 1)] },
    { name: 'side', normal: [1, 0, 0], corners: [on(1, -1, -1), on(1, 1, -1), on(1, 1, 1), on(1, -1, 1)] },
    {
      name: 'side',
      normal: [-1, 0, 0],
      corners: [on(-1, -1, -1), on(-1, 1, -1), on(-1, 1, 1), on(-1, -1, 1)],
    },
    { name: 'side', normal: [0, 1, 0], corners: [on(-1, 1, -1), on(1, 1, -1), on(1, 1, 1), on(-1, 1, 1)] },
    {
      name: 'side',
      normal: [0, -1, 0],
      corners: [on(-1, -1, -1), on(1, -1, -1), on(1, -1, 1), on(-1, -1, 1)],
    },
  ] as const;
  const visible = faces.filter((f) => away(turned.times(f.normal)) < 0.001);
  const chipsSeen = visible.some((f) => f.name === 'chips');
  const z = chipsSeen ? -1.02 : 1.02;
  const arrow = [
    on(-0.55, 0.16, z),
    on(0.15, 0.16, z),
    on(0.15, 0.4, z),
    on(0.75, 0, z),
    on(0.15, -0.4, z),
    on(0.15, -0.16, z),
    on(-0.55, -0.16, z),
  ];
  const ahead = turned.times([1, 0, 0]);
  const tip: Triple = [ahead[0] * 168 * k, ahead[1] * 168 * k, ahead[2] * 168 * k];
  const start: Triple = [ahead[0] * bx, ahead[1] * by, ahead[2] * bx];
  const [tx, ty] = seen(tip);
  const [sx, sy] = seen(start);
  const angle = Math.atan2(ty - sy, tx - sx);
  const head = (a: number) =>
    `${(tx - 13 * Math.cos(angle + a)).toFixed(1)} ${(ty - 13 * Math.sin(angle + a)).toFixed(1)}`;
  const [nx, ny] = seen([half * 1.02, 0, 0]);
  const color = `var(--${tone})`;
  return (
    <g strokeLinejoin="round" strokeLinecap="round">
      {rings.map(({ share, points }) => (
        <path
          key={share}
          d={`M${at(points)}Z`}
          fill="var(--sunk)"
          fillOpacity={0.08}
          stroke={share === 0 ? 'var(--ink)' : 'var(--contour)'}
          strokeWidth={share === 0 ? 1.6 : 0.9}
          strokeOpacity={share === 0 ? 0.9 : 0.75 * (1 - Math.abs(share)) + 0.12}
        />
      ))}
      {plumbs.map((g, i) => {
        const end: Triple = [g[0] * PLUMB * k, g[1] * PLUMB * k, g[2] * PLUMB * k];
        const [x, y] = seen(end);
        return (
          <g key={`${i + 1}`}>
            <path
              d={`M0 0L${x} ${y}`}
              stroke="var(--lake)"
              strokeWidth={2}
              strokeDasharray={i === 0 ? undefined : '6 4'}
            />
            <circle cx={x} cy={y} r={12} fill="var(--lake)" />
            <text x={x} y={y + 5} textAnchor="middle" fontSize={15} fontWeight={600} fill="var(--sheet)">
              {i + 1}
            </text>
          </g>
        );
      })}
      {visible.map((f, i) => (
        <path
          key={`${f.name}${i}`}
          d={`M${at(f.corners)}Z`}
          fill={f.name === 'side' ? 'var(--line)' : `var(--${tone}-wash)`}
          stroke={color}
          strokeWidth={1.8}
        />
      ))}
      {chipsSeen &&
        [
          [0.55, 0.62],
          [0.55, -0.62],
          [-0.72, 0.6],
        ].map(([x, y]) => (
          <path
            key={`${x} ${y}`}
            d={`M${at([on(x! - 0.17, y! - 0.17, -1.02), on(x! + 0.17, y! - 0.17, -1.02), on(x! + 0.17, y! + 0.17, -1.02), on(x! - 0.17, y! + 0.17, -1.02)])}Z`}
            fill="var(--sheet)"
            stroke={color}
          />
        ))}
      <path
        d={`M${at(arrow)}Z`}
        fill={chipsSeen ? color : 'none'}
        stroke={color}
        strokeDasharray={chipsSeen ? undefined : '4 3'}
      />
      <path
        d={`M${sx} ${sy}L${tx} ${ty}M${head(0.42)}L${tx} ${ty}L${head(-0.42)}`}
        fill="none"
        stroke={color}
        strokeWidth={2.6}
      />
      <path
        d={`M${nx + 34} ${ny - 16}L${nx} ${ny}M${nx + 11} ${ny - 11}L${nx} ${ny}L${nx + 14} ${ny + 1}`}
        fill="none"
        stroke="var(--soft)"
      />
      {!bare && (
        <text x={nx + 40} y={ny - 14} fontSize={16} fill="var(--soft)">
          to the nose
        </text>
      )}
    </g>
  );
}
