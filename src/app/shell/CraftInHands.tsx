import { type PointerEvent, useRef } from 'react';
import type { Airframe } from '#core/airframe/airframe.ts';
import { type Attitude, attitudeOf, type PoseId, poseIds, poses } from '#core/calibration/poses.ts';
import { pitchOf, rollOf, yawOf } from '#core/math/quaternion.ts';
import { CraftHeld } from '../drawing/CraftHeld.tsx';
import { rolledBy, spunBy } from '../drawing/held.ts';
import { Select } from '../ui/Select.tsx';
import type { BenchControls, BenchState, Support } from '../workers/index.ts';

const DEG = 180 / Math.PI;
const RADIUS = 68;
/** Beyond this share of the ball a finger turns the craft in the plane of the screen. */
const RIM = 0.82;

const held: Readonly<Record<Support, string>> = {
  hands: 'in hands',
  table: 'on the table',
  propped: 'propped up',
  tied: 'tied down',
};

interface Props {
  readonly airframe: Airframe;
  readonly state: BenchState;
  readonly onChange: (change: Partial<BenchControls>) => void;
  readonly root: React.RefObject<SVGGElement | null>;
  readonly parts: React.RefObject<SVGGElement | null>;
}

/** From here on the nose is as good as vertical: bank and heading are one turn, read as heading. */
const VERTICAL_DEG = 88;

const angles = (q: Attitude) => {
  const a = Float64Array.from(q);
  const [roll, pitch, yaw] = [rollOf(a) * DEG, pitchOf(a) * DEG, yawOf(a) * DEG];
  return Math.abs(pitch) < VERTICAL_DEG
    ? { roll, pitch, heading: (yaw + 360) % 360 }
    : { roll: 0, pitch, heading: (yaw - Math.sign(pitch) * roll + 720) % 360 };
};

const wrapped = (deg: number) => ((deg + 540) % 360) - 180;
const clamped = (deg: number, most: number) => Math.min(most, Math.max(-most, deg));

/** The craft on the bench as hands turn it: dragged like a ball, by keys, or into a pose by its name. */
export function CraftInHands({ airframe, state, onChange, root, parts }: Props) {
  const { controls } = state;
  const drag = useRef<{ x: number; y: number; pose: Attitude } | null>(null);
  const tied = controls.support === 'tied';
  /** Whoever turns it has it in hand, unless it leans on something. */
  const turn = (pose: Attitude) => {
    if (tied) return;
    onChange({ pose, support: controls.support === 'propped' ? 'propped' : 'hands' });
  };
  /** Where it is to be by now: the last that was asked, not where the hands are on their way. */
  const asked = (): Attitude =>
    controls.support === 'table' || tied
      ? attitudeOf(0, 0, angles(state.attitude).heading)
      : controls.turning !== 0
        ? state.attitude
        : controls.pose;
  const byAngles = (roll: number, pitch: number, heading: number) => {
    const now = angles(asked());
    turn(
      attitudeOf(
        wrapped(Math.round(now.roll + roll)),
        clamped(Math.round(now.pitch + pitch), 90),
        now.heading + heading,
      ),
    );
  };
  const onKey = (e: React.KeyboardEvent) => {
    const by = e.shiftKey ? 1 : 5;
    const keys: Record<string, () => void> = {
      arrowleft: () => byAngles(-by, 0, 0),
      arrowright: () => byAngles(by, 0, 0),
      arrowup: () => byAngles(0, -by, 0),
      arrowdown: () => byAngles(0, by, 0),
      q: () => byAngles(0, 0, -3 * by),
      e: () => byAngles(0, 0, 3 * by),
      home: () => onChange({ support: tied ? 'tied' : 'table', turning: 0 }),
    };
    const act = keys[e.key.toLowerCase()];
    if (!act || e.ctrlKey || e.metaKey || e.altKey) return;
    e.preventDefault();
    act();
  };
  const onMove = (e: PointerEvent<SVGSVGElement>) => {
    const last = drag.current;
    if (!last) return;
    const box = e.currentTarget.getBoundingClientRect();
    const px = box.width / (2 * RADIUS + 8);
    const middle = { x: box.left + box.width / 2, y: box.top + box.height / 2 };
    const [dx, dy] = [(e.clientX - last.x) / (RADIUS * px), (e.clientY - last.y) / (RADIUS * px)];
    const from = { x: last.x - middle.x, y: last.y - middle.y };
    const to = { x: e.clientX - middle.x, y: e.clientY - middle.y };
    const onRim = Math.hypot(from.x, from.y) > RIM * RADIUS * px;
    const pose = onRim
      ? spunBy(last.pose, Math.atan2(from.x * to.y - from.y * to.x, from.x * to.x + from.y * to.y))
      : rolledBy(last.pose, dx, dy);
    drag.current = { x: e.clientX, y: e.clientY, pose };
    turn(pose);
  };
  const now = angles(state.attitude);
  const reads = [
    ['bank', now.roll],
    ['nose', now.pitch],
    ['heading', now.heading],
  ] as const;
  const readsText = reads.map(([what, deg]) => `${what} ${Math.round(deg) + 0}°`).join(', ');
  return (
    <div className="flex items-center gap-3">
      <svg
        viewBox={`${-RADIUS - 4} ${-RADIUS - 4} ${2 * RADIUS + 8} ${2 * RADIUS + 8}`}
        className={`size-[148px] shrink-0 touch-none rounded-full focus-visible:outline-2 focus-visible:outline-on-wood ${tied ? 'cursor-not-allowed' : 'cursor-grab active:cursor-grabbing'}`}
        role="application"
        tabIndex={0}
        aria-label={`The craft, ${held[controls.support]}: ${readsText}. ${tied ? 'Tied down it cannot be turned.' : 'Arrow keys tilt it by 5 degrees, with Shift by 1; Q and E turn it; Home puts it on the table.'}`}
        onKeyDown={onKey}
        onPointerDown={(e) => {
          if (tied) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          drag.current = { x: e.clientX, y: e.clientY, pose: asked() };
        }}
        onPointerMove={onMove}
        onPointerUp={() => {
          drag.current = null;
        }}
        onPointerCancel={() => {
          drag.current = null;
        }}
      >
        <circle r={RADIUS + 2} fill="var(--sheet)" fillOpacity={0.35} stroke="var(--wood-dark)" />
        {controls.support !== 'hands' && (
          <ellipse cy={6} rx={RADIUS - 4} ry={36} fill="var(--wood-dark)" fillOpacity={0.35} />
        )}
        <CraftHeld airframe={airframe} radius={RADIUS - 4} root={root} parts={parts} />
        {tied && (
          <path
            d={`M-22 ${RADIUS - 30}L-14 -26M22 ${RADIUS - 30}L14 -26`}
            stroke="var(--on-wood)"
            strokeWidth={3}
            strokeDasharray="1 3"
          />
        )}
      </svg>
      <dl className="grid grid-cols-[auto_auto] gap-x-2 text-[12px] leading-[18px]">
        {reads.map(([what, deg]) => (
          <div key={what} className="contents">
            <dt>{what}</dt>
            <dd className="num text-right">{Math.round(deg) + 0}°</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}

const turnings = {
  '0': (pose: Attitude) => ({ turning: 0, pose }),
  '1': (pose: Attitude) => ({ turning: 1, pose }),
  '-1': (pose: Attitude) => ({ turning: -1, pose }),
  all: (pose: Attitude) => ({ turning: 'all', pose, support: 'hands' }),
} as const satisfies Record<string, (pose: Attitude) => Partial<BenchControls>>;

/** What holds the craft, the poses that have names, and turning it round and round. */
export function HowHeld({ state, onChange }: Pick<Props, 'state' | 'onChange'>) {
  const { support, turning } = state.controls;
  const tied = support === 'tied';
  return (
    <>
      <label className="flex items-center gap-1.5 text-[13px]">
        It is
        <Select
          look="wood"
          className="flex-1"
          value={support}
          onChange={(e) => onChange({ support: e.target.value as Support, turning: 0, pose: state.attitude })}
        >
          {(Object.keys(held) as Support[]).map((s) => (
            <option key={s} value={s}>
              {held[s]}
            </option>
          ))}
        </Select>
      </label>
      <label className="flex items-center gap-1.5 text-[13px]">
        Pose
        <Select
          look="wood"
          className="flex-1"
          value=""
          disabled={tied}
          onChange={(e) => {
            const { rollDeg, pitchDeg } = poses[e.target.value as PoseId];
            const { heading } = angles(state.attitude);
            const pose = attitudeOf(rollDeg, pitchDeg, Math.round(heading));
            onChange({ pose, turning: 0, support: support === 'propped' ? 'propped' : 'hands' });
          }}
        >
          <option value="" disabled>
            bring it to…
          </option>
          {poseIds.map((id) => (
            <option key={id} value={id}>
              {poses[id].name}
            </option>
          ))}
        </Select>
      </label>
      <label className="flex items-center gap-1.5 text-[13px]">
        Turned
        <Select
          look="wood"
          className="flex-1"
          value={String(turning)}
          disabled={tied}
          onChange={(e) => onChange(turnings[e.target.value as keyof typeof turnings](state.attitude))}
        >
          <option value="0">not</option>
          <option value="1">round</option>
          <option value="-1">round to the left</option>
          <option value="all">all ways</option>
        </Select>
      </label>
    </>
  );
}
