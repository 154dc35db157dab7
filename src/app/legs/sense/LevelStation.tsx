import { useMemo, useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { levelFromFlight } from '#core/calibration/fromFlight.ts';
import { LEVEL_MOST_DEG, levelTrimFrom } from '#core/calibration/levelTrim.ts';
import { attitudeOfMount } from '#core/calibration/mounting.ts';
import { Matrix3 } from '#core/math/matrix3.ts';
import { settingOf } from '#core/settings/typed.ts';
import { CraftSide, sideLength } from '../../drawing/CraftSide.tsx';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { recordProof } from '../../session.ts';
import { useStartingValues } from '../../startingValues.ts';
import { selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Lead } from '../Lead.tsx';
import { OpenLog, useFlown } from './FlownBy.tsx';
import { meant, mountSet, useHolding, useProven } from './useGestures.ts';

const DEG = 180 / Math.PI;
/** Farther from what the airframe model expects and somebody has erred, degrees. */
const UNLIKE_DEG = 4;
/** The board is to say level within this, degrees. */
const LEFT_DEG = 1;
const REACH = 210;

/** The attitude that counts as level. */
export default function LevelStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const base = useApp((s) => s.settings.base);
  const values = useApp(selectValues);
  const dispatch = useAppDispatch();
  const { still, force, fault } = useHolding();
  const proof = useProven('levelled');
  const mounted = useProven('mounted');
  const [aside, setAside] = useState(false);
  const rotors = isRotorcraft(airframe);
  const starting = useStartingValues();
  const predicted = rotors
    ? 0
    : (starting?.find((s) => s.key === 'level.pitch')?.value as number | undefined);
  const mount = Matrix3.fromQuaternion(attitudeOfMount(mountSet(base)));
  // What is taken is the mean of a still time; while it moves the newest is shown.
  const felt = still?.force ?? force;
  const trim = felt ? levelTrimFrom(mount.times(meant(base, 1, felt))) : null;
  const on = {
    roll: settingOf(base, 'mount.levelRoll') ?? 0,
    pitch: settingOf(base, 'mount.levelPitch') ?? 0,
  };
  const draft = {
    roll: settingOf(values, 'mount.levelRoll') ?? 0,
    pitch: settingOf(values, 'mount.levelPitch') ?? 0,
    counted: settingOf(values, 'level.pitch') ?? 0,
  };
  const waits = draft.roll !== on.roll || draft.pitch !== on.pitch;
  const attitude = useSampled(() => {
    const a = live('attitude');
    return a && { roll: a.roll * DEG, pitch: a.pitch * DEG };
  }, 150);
  const left = attitude ? Math.hypot(attitude.roll, attitude.pitch) : Number.NaN;
  const isLevelNow = trim !== null && Math.hypot(trim.rollDeg - on.roll, trim.pitchDeg - on.pitch) < LEFT_DEG;
  const unlike = trim !== null && predicted !== undefined && Math.abs(trim.pitchDeg - predicted) > UNLIKE_DEG;
  const round = (v: number) => Math.round(v * 10) / 10 + 0;
  const stage = (to: { readonly rollDeg: number; readonly pitchDeg: number } | null) => {
    if (!to) return;
    dispatch(
      staged({
        'mount.levelRoll': round(to.rollDeg),
        'mount.levelPitch': round(to.pitchDeg),
        // From now on pitch is counted from how it cruises.
        ...(draft.counted !== 0 && !rotors ? { 'level.pitch': 0 } : {}),
      }),
    );
    setAside(false);
  };
  const { flown: flight, isLog, said, openLog } = useFlown();
  const flown = useMemo(() => (flight && !rotors ? levelFromFlight(flight.moments) : null), [flight, rotors]);
  // A log has the attitude that the board believed, under the trim that it had.
  const flownTo =
    flown && !('refused' in flown)
      ? isLog
        ? { rollDeg: flown.rollDeg + on.roll, pitchDeg: flown.pitchDeg + on.pitch }
        : { rollDeg: 0, pitchDeg: flown.pitchDeg }
      : null;
  const shownPitch = trim?.pitchDeg ?? 0;
  return (
    <>
      <Lead />
      {!mounted && (
        <Notice tone="plain" className="mt-2">
          What level means is counted from how the board is mounted: settle How it is mounted first.
        </Notice>
      )}
      <svg
        viewBox="-290 -130 580 260"
        className="mt-2 max-h-[max(42vh,260px)] w-full"
        role="img"
        aria-label={`The craft from its left, nose ${shownPitch.toFixed(1)} degrees up by its mounting`}
      >
        <path d="M-280 84H280" stroke="var(--contour)" strokeWidth={1.4} />
        <path d={`M${-REACH - 50} 0H${REACH + 50}`} stroke="var(--forest)" strokeWidth={1.6} />
        <text x={REACH + 46} y={16} fontSize={12} textAnchor="end" fill="var(--forest)">
          the horizon
        </text>
        <g transform={`rotate(${shownPitch.toFixed(2)})`}>
          <path d={`M${-REACH - 30} 0H${REACH}`} stroke="var(--soft)" strokeDasharray="3 5" />
          <CraftSide airframe={airframe} scale={300 / sideLength(airframe)} />
        </g>
        {Math.abs(shownPitch) > 0.4 && (
          <path
            d={`M${-REACH - 20} 0A${REACH + 20} ${REACH + 20} 0 0 ${shownPitch > 0 ? 1 : 0} ${(-(REACH + 20) * Math.cos(shownPitch / DEG)).toFixed(1)} ${(-(REACH + 20) * Math.sin(shownPitch / DEG)).toFixed(1)}`}
            fill="none"
            stroke="var(--lake)"
            strokeWidth={2.4}
          />
        )}
        <text x={-284} y={-84} fontSize={28} fill="var(--lake)" className="num">
          {trim
            ? `${round(trim.pitchDeg) >= 0 ? '' : '−'}${Math.abs(round(trim.pitchDeg)).toFixed(1)}°`
            : '–'}
        </text>
        <text x={-284} y={-66} fontSize={12} fill="var(--soft)">
          nose {shownPitch < 0 ? 'down' : 'up'} by the mounting
        </text>
        {trim && Math.abs(trim.rollDeg) >= 0.5 && (
          <text x={-284} y={-50} fontSize={12} fill="var(--soft)">
            and {Math.abs(trim.rollDeg).toFixed(1)}° {rotors ? 'to the' : 'on the'}{' '}
            {trim.rollDeg > 0 ? 'right' : 'left'}
            {rotors ? '' : ' wing'}
          </text>
        )}
        {!rotors && predicted !== undefined && (
          <>
            <text x={284} y={-84} fontSize={20} textAnchor="end" fill="var(--ink)" className="num">
              {predicted.toFixed(1)}°
            </text>
            <text x={284} y={-66} fontSize={12} textAnchor="end" fill="var(--soft)">
              in cruise, by the airframe’s model
            </text>
          </>
        )}
        <text x={-284} y={112} fontSize={12} fill="var(--soft)">
          on the board: {on.pitch.toFixed(1)}° nose up, {on.roll.toFixed(1)}° right wing down count as level
        </text>
      </svg>
      <div className="mt-2 flex flex-wrap items-center gap-3 rounded-[4px] border border-line border-l-4 border-l-forest bg-paper px-3.5 py-2.5">
        <p className="min-w-[240px] flex-1" role="status">
          {fault ? (
            <span className="text-red">{fault}</span>
          ) : proof?.seen.kind === 'levelled' && !aside ? (
            <>
              <b className="font-semibold">Seen.</b> Propped up in that attitude the board said level, within{' '}
              <span className="num">{proof.seen.leftDeg.toFixed(1)}°</span>.
            </>
          ) : force === null ? (
            'Nothing comes from the board yet.'
          ) : !still ? (
            'It moves. Prop it up, and take the hands off.'
          ) : !trim ? (
            `This is more than ${LEVEL_MOST_DEG}° from how it is mounted. Nobody cruises so: prop it up nearer to level.`
          ) : waits ? (
            <>
              In the tray. Write it to the board, and leave the craft as it is.
              {draft.counted === 0 && ' Pitch in level flight counts from here, so its own angle becomes 0.'}
            </>
          ) : isLevelNow ? (
            <>
              The board has this attitude as level, and says <span className="num">{left.toFixed(1)}°</span>{' '}
              off now.
              {left > LEFT_DEG && ' Its sense of attitude settles within some seconds.'}
            </>
          ) : (
            <>
              <b className="font-semibold">Still.</b> Is this how it cruises?
              {unlike && (
                <span className="text-amber">
                  {' '}
                  The model expects {predicted!.toFixed(1)}°: a wedge too thick, a wing set otherwise, or
                  another weight.
                </span>
              )}
            </>
          )}
        </p>
        {proof && !aside ? (
          <Button kind="flat" onClick={() => setAside(true)}>
            Once more
          </Button>
        ) : isLevelNow && !waits ? (
          <Button
            kind="go"
            disabled={!still || !(left <= LEFT_DEG)}
            onClick={() => {
              recordProof({ kind: 'levelled', rollDeg: on.roll, pitchDeg: on.pitch, leftDeg: left });
              setAside(false);
            }}
          >
            The board says level
          </Button>
        ) : (
          <Button kind="go" disabled={!still || !trim || !mounted || waits} onClick={() => stage(trim)}>
            This is level
          </Button>
        )}
      </div>
      {!rotors && (
        <div className="mt-2 flex flex-wrap items-center gap-3 text-soft">
          <p className="min-w-[240px] flex-1">
            {!flown ? (
              'Or from a flight: a rehearsed one, or one that the board logged.'
            ) : 'refused' in flown ? (
              `${flight!.name} tells it not: ${flown.refused}`
            ) : (
              <>
                {flight!.name} flew straight and level for{' '}
                <span className="num">{flown.seconds.toFixed(0)}</span> s, its nose{' '}
                <span className="num">{flown.pitchDeg.toFixed(1)}°</span> up.
              </>
            )}
          </p>
          <OpenLog onFile={(f) => void openLog(f)} said={said} />
          {flownTo && (
            <Button disabled={waits} onClick={() => stage(flownTo)}>
              Take that as level
            </Button>
          )}
        </div>
      )}
    </>
  );
}
