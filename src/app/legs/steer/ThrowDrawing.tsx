import { useRef } from 'react';
import type { Surface } from '#core/airframe/airframe.ts';
import { DEG } from '#core/math/scalar.ts';
import { armTip, edgeOf, hornTip } from '#core/mixer/linkage.ts';
import { directionWords } from '#core/mixer/roles.ts';
import { angleAt, servoOf, type Throw } from '#core/mixer/throws.ts';
import { formatNumber, formatQuantity, type UnitSystem } from '#core/units/units.ts';
import { dragOn } from '../../ui/dragOn.ts';

const WIDTH = 728;
const HEIGHT = 244;
const HINGE_X = 392;
const HINGE_Y = 108;
/** Room ahead of the hinge for arm and rod, behind it for the surface, px. */
const AHEAD = 230;
const BEHIND = 176;

/** Less than an eye can tell, rad. */
const FLUSH = 0.05 * DEG;

interface Props {
  readonly surface: Surface;
  readonly throwOf: Throw;
  /** From the hinge to the trailing edge, mm; null where only angles mean something. */
  readonly chordMm: number | null;
  /** Pulses of the ends and the centre as they are set, and what is sent now, us; null where nothing is. */
  readonly lowUs: number;
  readonly centreUs: number;
  readonly highUs: number;
  readonly nowUs: number | null;
  /** Whether it was measured, or is only as described. */
  readonly measured: boolean;
  readonly pulses: boolean;
  readonly units: UnitSystem;
  /** Takes an end that was drawn elsewhere, rad, down positive; left out before it was measured. */
  readonly onEnd?: ((end: 'up' | 'down', angle: number) => void) | undefined;
}

/** Ends are drawn in steps of this, and by keys moved by it, rad. */
const STEP = 0.5 * DEG;

/** A surface in section behind its servo, to scale, where it stands now and at its ends. */
export function ThrowDrawing({
  surface,
  throwOf: t,
  chordMm,
  lowUs,
  centreUs,
  highUs,
  nowUs,
  measured,
  pulses,
  units,
  onEnd,
}: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const l = t.linkage;
  const chord = chordMm ?? BEHIND / 3.4;
  const k = Math.min(AHEAD / (Math.abs(l.shaftAft) + 12), BEHIND / chord, 62 / Math.max(l.arm, l.horn));
  const at = ([aft, up]: readonly [number, number]): readonly [number, number] => [
    HINGE_X + k * aft,
    HINGE_Y - k * up,
  ];
  const [positive, negative] = directionWords(surface.id);
  const here = nowUs ?? centreUs;
  const now = angleAt(t, here);
  const servo = servoOf(t, Math.min(t.freeToUs, Math.max(t.freeFromUs, here)));
  const [shaftX, shaftY] = at([l.shaftAft, l.shaftUp]);
  const [armX, armY] = at(armTip(l, servo));
  const [hornX, hornY] = at(hornTip(l, now));
  const ends = [lowUs, highUs].map((us) => ({ us, angle: angleAt(t, us) })).sort((a, b) => a.angle - b.angle);
  const [up, down] = [ends[0]!, ends[1]!];
  const edge = (angle: number, r = k * chord): readonly [number, number] => [
    HINGE_X + r * Math.cos(angle),
    HINGE_Y + r * Math.sin(angle),
  ];
  const blade = (angle: number) => {
    const [x, y] = edge(angle);
    const [nx, ny] = [-Math.sin(angle) * 15, Math.cos(angle) * 15];
    return `M${HINGE_X - nx} ${HINGE_Y - ny}A15 15 0 0 0 ${HINGE_X + nx} ${HINGE_Y + ny}L${x} ${y}Z`;
  };
  const rest = angleAt(t, centreUs);
  /** An end stays on its side of the rest. */
  const draw = (end: 'up' | 'down', to: number) => {
    const step = Math.round(to / STEP) * STEP;
    const wanted = end === 'up' ? Math.min(step, rest - STEP) : Math.max(step, rest + STEP);
    if (Math.abs(wanted - (end === 'up' ? up : down).angle) > STEP / 2) onEnd?.(end, wanted);
  };
  const arcR = k * chord + 14;
  const [ax, ay] = edge(up.angle, arcR);
  const [bx, by] = edge(down.angle, arcR);
  const tall = (angle: number) =>
    chordMm === null
      ? ''
      : formatQuantity(Math.abs(edgeOf(angle, chordMm)), 'mm', units, units === 'imperial' ? 2 : 1);
  const words = (angle: number) =>
    Math.abs(angle) < FLUSH
      ? 'flush'
      : `${formatNumber(Math.abs(angle) / DEG, 1)}° ${angle > 0 ? positive : negative}`;
  const labels = [
    { name: negative, ...up, y: Math.min(HINGE_Y - 58, edge(up.angle, arcR)[1]) },
    { name: nowUs === null ? 'at rest' : 'now', us: here, angle: now, y: HINGE_Y + 4 },
    { name: positive, ...down, y: Math.max(HINGE_Y + 64, edge(down.angle, arcR)[1]) },
  ];
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full min-w-[640px]"
      role={onEnd ? 'group' : 'img'}
      aria-label={`${words(up.angle)} to ${words(down.angle)}, ${nowUs === null ? 'at rest' : 'now'} ${words(now)}`}
    >
      <path
        d={`M0 ${HINGE_Y - 52}C160 ${HINGE_Y - 58} ${HINGE_X - 120} ${HINGE_Y - 34} ${HINGE_X - 18} ${HINGE_Y - 20}A26 26 0 0 0 ${HINGE_X - 18} ${HINGE_Y + 20}L0 ${HINGE_Y + 34}Z`}
        fill="var(--sunk)"
        stroke="var(--ink)"
        strokeWidth={1.5}
      />
      {[up, down].map(({ us, angle }) => (
        <path key={us} d={blade(angle)} fill="var(--forest)" fillOpacity={0.09} stroke="var(--contour)" />
      ))}
      <line
        x1={HINGE_X}
        y1={HINGE_Y}
        x2={HINGE_X + arcR + 16}
        y2={HINGE_Y}
        stroke="var(--ink)"
        strokeDasharray="2 4"
      />
      <path
        d={`M${ax} ${ay}A${arcR} ${arcR} 0 0 1 ${bx} ${by}`}
        fill="none"
        stroke="var(--forest)"
        strokeWidth={3}
        strokeDasharray={measured ? undefined : '5 5'}
      />
      {(
        [
          ['up', ax, ay, up.angle, negative],
          ['down', bx, by, down.angle, positive],
        ] as const
      ).map(([end, x, y, angle, name]) => (
        <circle
          key={end}
          cx={x}
          cy={y}
          r={onEnd ? 7 : 5}
          fill="var(--sheet)"
          stroke="var(--forest)"
          strokeWidth={2}
          {...(onEnd && {
            role: 'slider',
            tabIndex: 0,
            'aria-label': `End of the ${name} travel`,
            'aria-valuemin': -80,
            'aria-valuemax': 80,
            'aria-valuenow': Math.round((10 * angle) / DEG) / 10,
            'aria-valuetext': words(angle),
            className: 'cursor-grab touch-none focus-visible:outline-2 focus-visible:outline-lake',
            onKeyDown: (e) => {
              const by = { ArrowDown: STEP, ArrowRight: STEP, ArrowUp: -STEP, ArrowLeft: -STEP }[e.key];
              if (by === undefined) return;
              e.preventDefault();
              draw(end, angle + by);
            },
            ...dragOn(svg, (at) => {
              draw(end, Math.atan2(at.y - HINGE_Y, Math.max(1, at.x - HINGE_X)));
            }),
          })}
        />
      ))}
      <path
        d={blade(now)}
        fill="var(--lake)"
        fillOpacity={0.25}
        stroke="var(--lake)"
        strokeWidth={2}
        strokeLinejoin="round"
      />
      <path
        d={`M${HINGE_X - 8} ${HINGE_Y + 6}L${hornX - 3} ${hornY}L${hornX + 5} ${hornY}L${HINGE_X + 8} ${HINGE_Y + 6}Z`}
        fill="var(--sheet)"
        stroke="var(--ink)"
        strokeWidth={1.4}
      />
      <rect
        x={shaftX - 34}
        y={shaftY - 44}
        width={68}
        height={36}
        rx={3}
        fill="var(--sheet)"
        stroke="var(--ink)"
        strokeWidth={1.4}
      />
      <text x={shaftX} y={shaftY - 21} textAnchor="middle" fontSize={13} fill="var(--soft)">
        servo
      </text>
      <line
        x1={shaftX}
        y1={shaftY}
        x2={armX}
        y2={armY}
        stroke="var(--ink)"
        strokeWidth={7}
        strokeLinecap="round"
      />
      <line
        x1={shaftX}
        y1={shaftY}
        x2={armX}
        y2={armY}
        stroke="var(--sheet)"
        strokeWidth={4}
        strokeLinecap="round"
      />
      <line x1={armX} y1={armY} x2={hornX} y2={hornY} stroke="var(--ink)" strokeWidth={2.6} />
      <circle cx={armX} cy={armY} r={3.4} fill="var(--ink)" />
      <circle cx={hornX} cy={hornY} r={3.4} fill="var(--ink)" />
      <circle cx={HINGE_X} cy={HINGE_Y} r={4} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1.5} />
      <text x={shaftX - 12} y={armY + 4} textAnchor="end" fontSize={13} fill="var(--soft)">
        arm {formatQuantity(l.arm, 'mm', units, units === 'imperial' ? 2 : 1)}
      </text>
      <text
        x={(armX + hornX) / 2}
        y={Math.max(armY, hornY) + 20}
        textAnchor="middle"
        fontSize={13}
        fill="var(--soft)"
      >
        rod {formatQuantity(l.rod, 'mm', units, units === 'imperial' ? 2 : 1)}
      </text>
      <text x={hornX + 14} y={hornY + 8} fontSize={13} fill="var(--soft)">
        horn {formatQuantity(l.horn, 'mm', units, units === 'imperial' ? 2 : 1)}
      </text>
      {labels.map(({ name, angle, us, y }) => (
        <g key={name} className="num">
          <text x={WIDTH - 4} y={y - 6} textAnchor="end" fontSize={13} fontWeight={600} fill="var(--forest)">
            {name}
          </text>
          <text x={WIDTH - 4} y={y + 12} textAnchor="end" fontSize={17} fontWeight={600} fill="var(--ink)">
            {name === positive || name === negative
              ? `${formatNumber(Math.abs(angle) / DEG, 1)}°`
              : words(angle)}
          </text>
          <text x={WIDTH - 4} y={y + 28} textAnchor="end" fontSize={13} fill="var(--soft)">
            {[tall(angle), pulses ? `${Math.round(us)} µs` : ''].filter(Boolean).join(', ')}
          </text>
        </g>
      ))}
    </svg>
  );
}
