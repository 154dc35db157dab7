import { useEffect, useRef, useState } from 'react';
import type { Airframe } from '#core/airframe/airframe.ts';
import { attitudeOfMount } from '#core/calibration/mounting.ts';
import { type Attitude, attitudeOf, type PoseId, poseIds, poses } from '#core/calibration/poses.ts';
import {
  type AccelCalibration,
  corrected,
  fitPoses,
  lookAtPose,
  type PoseFit,
  type PoseLook,
  type PoseTaken,
} from '#core/calibration/sixPoses.ts';
import { GRAVITY } from '#core/math/scalar.ts';
import { norm } from '#core/math/triple.ts';
import type { HeldAs } from '#core/proofs/seen.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { CraftHeld, paintHeld } from '../../drawing/CraftHeld.tsx';
import { useSampled } from '../../live/hooks.ts';
import { recordProof } from '../../session.ts';
import { proofsDropped } from '../../store/craftSlice.ts';
import { selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Lead } from '../Lead.tsx';
import { calibrationOf, keepHeld, mountSet, useHeldAs, useHolding, useProven } from './useGestures.ts';

const kept = poseIds.map((id) => `pose.${id}` as HeldAs);
const tones = { good: 0.02, fair: 0.1 } as const;
/** What is left in an attitude that was none of the six, and that is believed, m/s^2. */
const LEFT_GOOD = 0.06;
/** The seventh attitude has to lie this far from every pose, degrees. */
const APART_DEG = 20;

/** The edits of a calibration, on the steps of their settings. */
function editsOf(chip: 1 | 2, { offset, scale }: AccelCalibration): Values {
  const round = (v: number, step: number) => Number((Math.round(v / step) * step).toFixed(6));
  return Object.fromEntries(
    (['x', 'y', 'z'] as const).flatMap((axis, i) => [
      [`accel.${chip}.offset.${axis}`, round(offset[i]!, 0.001)],
      [`accel.${chip}.scale.${axis}`, round(scale[i]!, 0.0001)],
    ]),
  );
}

/** Six poses and what follows from them, chip by chip; half done it survives a reload. */
export default function PosesStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const base = useApp((s) => s.settings.base);
  const values = useApp(selectValues);
  const dispatch = useAppDispatch();
  const { chips, fault, still, force, progress } = useHolding();
  const heldNow = useHeldAs(kept);
  const proof = useProven('accel.1');
  const mounted = useProven('mounted');
  const [told, setTold] = useState<PoseLook | null>(null);
  const mount = attitudeOfMount(mountSet(base));
  const takenOf = (chip: 0 | 1) =>
    Object.fromEntries(
      poseIds.flatMap((id) => {
        const f = heldNow[`pose.${id}`]?.[chip];
        return f ? [[id, f]] : [];
      }),
    ) as Partial<PoseTaken>;
  const taken = takenOf(0);
  const count = Object.keys(taken).length;
  const whole = count === poseIds.length;
  const fits = whole ? chips.map((_, i) => fitPoses(takenOf(i as 0 | 1) as PoseTaken)) : [];
  const refused = fits.find((f) => 'refused' in f);
  const good = refused ? [] : (fits as PoseFit[]);
  const edits: Values = Object.assign({}, ...good.map((f, i) => editsOf((i + 1) as 1 | 2, f.calibration)));
  const keys = Object.keys(edits);
  const drafted = keys.length > 0 && keys.every((k) => values[k] === edits[k]);
  const onBoard = keys.length > 0 && keys.every((k) => base[k] === edits[k]);

  // A pose is taken as soon as it is still; each still time is looked at once.
  const looked = useRef(0);
  const stillTo = still?.toS ?? 0;
  const stillFrom = still?.fromS ?? 0;
  useEffect(() => {
    if (!still || !mounted || whole || stillFrom < looked.current) return;
    const look = lookAtPose(still, mount, taken);
    looked.current = stillTo;
    if (look.kind === 'taken' && !keepHeld(`pose.${look.pose}`, chips)) return;
    setTold(look);
  });
  // What was said of a pose goes with it.
  useEffect(() => {
    if (!still && told?.kind === 'refused') setTold(null);
  }, [still, told]);

  const seventh = useSampled(() => {
    const s = chips[0]!.still();
    if (!s) return null;
    return chips.map((c, i) => {
      const f = c.still();
      return f
        ? Math.abs(norm(corrected(calibrationOf(base, (i + 1) as 1 | 2), f.force)) - GRAVITY)
        : Number.NaN;
    });
  }, 150);
  const apart =
    still !== null &&
    poseIds.every((id) => {
      const look = lookAtPose(still, mount, {});
      return look.kind === 'refused' || look.pose !== id || look.offDeg > APART_DEG;
    });
  const prove = () => {
    if (!seventh) return;
    seventh.forEach((left, i) => {
      const before = good[i]?.worstBefore ?? 0;
      recordProof({ kind: 'accel', chip: (i + 1) as 1 | 2, before, left });
    });
  };
  const anew = () => {
    dispatch(proofsDropped([...kept, 'accel.1', 'accel.2']));
    setTold(null);
    looked.current = 0;
  };

  return (
    <>
      <Lead />
      {!mounted && (
        <Notice tone="plain" className="mt-2">
          Which pose is which is known once the board knows how it is mounted: settle How it is mounted first.
        </Notice>
      )}
      <ol className="mt-3 grid grid-cols-2 gap-2 min-[820px]:grid-cols-3" aria-label="Poses">
        {poseIds.map((id) => (
          <Pose
            key={id}
            id={id}
            airframe={airframe}
            taken={taken[id] !== undefined}
            now={told?.kind === 'taken' && told.pose === id}
            fits={good}
          />
        ))}
      </ol>
      <div className="mt-3 rounded-[4px] border border-line border-l-4 border-l-forest bg-paper px-3.5 py-2.5">
        {fault ? (
          <p role="alert" className="text-red">
            {fault}
          </p>
        ) : proof?.seen.kind === 'accel' ? (
          <Line
            button={
              <Button kind="flat" onClick={anew}>
                Begin again
              </Button>
            }
          >
            <b className="font-semibold">Proven.</b> In an attitude that was none of the six the board is{' '}
            <span className="num text-[18px]">{proof.seen.left.toFixed(3)}</span> m/s² off gravity; the worst
            pose was <span className="num">{proof.seen.before.toFixed(2)}</span> off before.
          </Line>
        ) : refused && 'refused' in refused ? (
          <Line
            button={
              <Button kind="go" onClick={anew}>
                Begin again
              </Button>
            }
          >
            {refused.refused}
          </Line>
        ) : whole && onBoard ? (
          <Line
            button={
              <Button kind="go" disabled={!apart || seventh === null} onClick={prove}>
                That is it
              </Button>
            }
          >
            <b className="font-semibold">The board has them. Now the proof:</b> hold it askew, between two
            poses, and still.{' '}
            <span className="text-soft">
              {!still
                ? 'It moves.'
                : !apart
                  ? `Still, but too near to a pose: ${APART_DEG}° away or more.`
                  : seventh && (
                      <>
                        Off gravity by <span className="num">{seventh[0]!.toFixed(3)}</span> m/s²
                        {seventh[0]! > LEFT_GOOD &&
                          ', more than it should be: if it stays so, take the poses anew'}
                        .
                      </>
                    )}
            </span>
          </Line>
        ) : whole ? (
          <Line
            button={
              drafted ? (
                <p className="text-soft">In the tray. Write it to the board.</p>
              ) : (
                <Button kind="go" onClick={() => dispatch(staged(edits))}>
                  Put into the tray
                </Button>
              )
            }
          >
            {good.map((f, i) => (
              <span key={`${i + 1}`} className="block">
                {good.length > 1 && `Chip ${i + 1}: `}off gravity by up to{' '}
                <span className="num text-[18px]">{f.worstBefore.toFixed(2)}</span> m/s² before,{' '}
                <span className="num text-[18px] text-forest">{f.worstAfter.toFixed(3)}</span> after. Offsets{' '}
                <span className="num">{f.calibration.offset.map((o) => o.toFixed(2)).join(', ')}</span> m/s²,
                scales <span className="num">{f.calibration.scale.map((s) => s.toFixed(3)).join(', ')}</span>.
              </span>
            ))}
          </Line>
        ) : (
          <Line
            button={
              count > 0 && (
                <Button kind="flat" onClick={anew}>
                  Begin again
                </Button>
              )
            }
          >
            <b className="font-semibold">
              {count} of 6. Next: {poses[poseIds.find((id) => !taken[id])!].name}, or any other.
            </b>{' '}
            <span
              className={told?.kind === 'refused' && told.code !== 'repeated' ? 'text-amber' : 'text-soft'}
            >
              {force === null
                ? 'Nothing comes from the board yet.'
                : !mounted
                  ? ''
                  : told?.kind === 'refused'
                    ? told.says
                    : !still
                      ? progress > 0
                        ? 'Hold it.'
                        : 'It moves; hold it still.'
                      : 'Taken. Turn it to the next.'}
            </span>
          </Line>
        )}
      </div>
    </>
  );
}

function Line({
  button,
  children,
}: {
  readonly button: React.ReactNode;
  readonly children: React.ReactNode;
}) {
  return (
    <div className="flex flex-wrap items-center gap-3">
      <p className="min-w-[240px] flex-1" role="status">
        {children}
      </p>
      {button}
    </div>
  );
}

interface PoseProps {
  readonly id: PoseId;
  readonly airframe: Airframe;
  readonly taken: boolean;
  readonly now: boolean;
  readonly fits: readonly PoseFit[];
}

const angles = (id: PoseId): Attitude => attitudeOf(poses[id].rollDeg, poses[id].pitchDeg, 23);

/** One pose, drawn with this craft in it, with what was left unexplained there before and after. */
function Pose({ id, airframe, taken, now, fits }: PoseProps) {
  const root = useRef<SVGGElement>(null);
  const parts = useRef<SVGGElement>(null);
  useEffect(() => paintHeld(root.current, parts.current, angles(id), {}));
  const fit = fits[0];
  const left = fit?.after[id] ?? 0;
  return (
    <li
      className={`flex items-center gap-1 rounded-[4px] border px-2 py-1 ${now ? 'border-lake bg-lake-wash' : taken ? 'border-forest bg-forest-wash' : 'border-line'}`}
    >
      <svg viewBox="-76 -56 152 112" className="h-[112px] min-w-0 flex-1" aria-hidden="true">
        <path d="M-74 54H74" stroke="var(--contour)" />
        <CraftHeld airframe={airframe} radius={72} root={root} parts={parts} />
      </svg>
      <p className="w-[92px] text-[13px] leading-4">
        <span className="font-semibold">{poses[id].name}</span>
        <br />
        {fit ? (
          <span className="text-soft">
            <span className="num">{fit.before[id].toFixed(2)}</span> →{' '}
            <span
              className={`num ${left < tones.good ? 'text-forest' : left < tones.fair ? 'text-amber' : 'text-red'}`}
            >
              {left.toFixed(3)}
            </span>
            <br />
            m/s² off
          </span>
        ) : (
          <span className={taken ? 'text-forest' : 'text-soft'}>{taken ? '✓ taken' : 'open'}</span>
        )}
      </p>
    </li>
  );
}
