import { type ReactNode, useState } from 'react';
import type { Airframe } from '#core/airframe/airframe.ts';
import {
  angleBetweenDeg,
  attitudeOfMount,
  confirmNose,
  confirmWing,
  type MountAngles,
  type Muddle,
  mountingFrom,
  mountingWords,
  whichWentWrong,
} from '#core/calibration/mounting.ts';
import { Matrix3 } from '#core/math/matrix3.ts';
import { angleDeg, type Triple, unit } from '#core/math/triple.ts';
import { BoardInBody } from '../../drawing/BoardInBody.tsx';
import { CraftRear } from '../../drawing/CraftRear.tsx';
import { CraftSide, sideLength } from '../../drawing/CraftSide.tsx';
import { recordProof } from '../../session.ts';
import { proofsDropped } from '../../store/craftSlice.ts';
import { selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Lead } from '../Lead.tsx';
import { calibrationOf, keepHeld, meant, mountSet, useHeldAs, useHolding, useProven } from './useGestures.ts';

const gestures = ['gesture.flat', 'gesture.nose-up', 'gesture.wing', 'gesture.nose-again'] as const;
type Gesture = (typeof gestures)[number];

const asked: Readonly<Record<Gesture, string>> = {
  'gesture.flat': 'Lay it as it stands on the ground.',
  'gesture.nose-up': 'Lift its nose, by 20 to 60 degrees, and hold it.',
  'gesture.wing': 'Tip the right wing down, by 20 to 60 degrees, and hold it.',
  'gesture.nose-again': 'Lift its nose once more, and hold it.',
};

const muddles: Readonly<Record<Muddle, string>> = {
  'nose-was-lowered':
    'At first the nose was lowered instead of lifted. That gesture now counts the right way round; tip the right wing down once more.',
  'left-wing-went-down':
    'The nose was lifted alike both times, so it was the left wing that went down. Nothing else was wrong; tip the right one down.',
  'nose-and-wing-changed-places':
    'At first the wing was tipped where the nose was asked for. The nose as you lifted it now counts; tip the right wing down once more.',
  unclear: 'The gestures do not fit each other. Begin again, and lay it on the ground first.',
};

/** Beyond this the board sits in no square way, and its angles are set as they are, degrees. */
const FINE_DEG = 12;
/** The board's own tilt may be off by so much in the last gesture, degrees. */
const OFF_DEG = 20;

/** How the board sits, by gestures. */
export default function MountedStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const base = useApp((s) => s.settings.base);
  const values = useApp(selectValues);
  const dispatch = useAppDispatch();
  const holding = useHolding();
  const taken = useHeldAs(gestures);
  const [said, setSaid] = useState<string | null>(null);
  const flat = taken['gesture.flat']?.[0];
  const up = taken['gesture.nose-up']?.[0];
  const wing = taken['gesture.wing']?.[0];
  const of = (force: Triple, chip: 1 | 2 = 1) => meant(base, chip, force);
  const found = flat && up ? mountingFrom(of(flat), of(up)) : null;
  const second = (() => {
    const [f, u] = [taken['gesture.flat']?.[1], taken['gesture.nose-up']?.[1]];
    return f && u ? mountingFrom(of(f, 2), of(u, 2)) : null;
  })();
  const taught = calibrationOf(base, 1).offset.some((o) => o !== 0);
  const onBoard = mountSet(base);
  const shown = found && (found.fineDeg > FINE_DEG ? rounded(found.attitude) : found.square);
  const away = (m: MountAngles) => (shown ? angleBetweenDeg(attitudeOfMount(m), attitudeOfMount(shown)) : 0);
  const drafted = shown !== null && away(mountSet(values)) < 1;
  const written = shown !== null && away(onBoard) < 1;
  const proof = useProven('mounted');
  const muddled = found && wing ? confirmWing(found.attitude, of(wing)) : null;
  const opposite = muddled?.kind === 'opposite';
  const restart = useApp((s) => s.board.live?.restartNeeded ?? false);

  const next: Gesture | null = !flat
    ? 'gesture.flat'
    : !up || !found
      ? 'gesture.nose-up'
      : opposite
        ? 'gesture.nose-again'
        : written && !restart && !proof
          ? 'gesture.wing'
          : null;
  const lean = flat && holding.force ? angleDeg(flat, holding.force) : 0;
  const ready =
    holding.still !== null && (next === 'gesture.flat' || (lean >= 12 && lean <= 75 && next !== null));

  const take = () => {
    if (!next) return;
    if (!keepHeld(next, holding.chips)) {
      setSaid('It moved in that moment. Hold it still, and press again.');
      return;
    }
    setSaid(null);
    const force = holding.chips[0]!.still()!.force;
    if (next === 'gesture.wing' && found) {
      const confirmed = confirmWing(attitudeOfMount(onBoard), of(force));
      if (confirmed.kind === 'other-axis') {
        const nose = confirmNose(attitudeOfMount(onBoard), of(force)).kind;
        dispatch(proofsDropped(['gesture.wing']));
        setSaid(
          nose === 'fits'
            ? 'That was the nose again, not the right wing. Tip the right wing down.'
            : 'That leans neither to a wing nor to the nose. Tip the right wing down.',
        );
      } else if (confirmed.kind === 'too-little') {
        dispatch(proofsDropped(['gesture.wing']));
        setSaid('That is too little to tell. Tip the wing by 20 degrees or more.');
      } else if (confirmed.kind === 'fits') {
        if (confirmed.offDeg > OFF_DEG) {
          dispatch(proofsDropped(['gesture.wing']));
          setSaid(
            `The tilt leans ${confirmed.offDeg.toFixed(0)}° towards the nose or tail. Tip it straight to the right.`,
          );
          return;
        }
        recordProof({ kind: 'mounted', ...onBoard, fineDeg: found.fineDeg, offDeg: confirmed.offDeg });
        setSaid(null);
      }
    }
    if (next === 'gesture.nose-again' && flat && up && wing) {
      const wrong = whichWentWrong(of(flat), of(up), of(wing), of(force));
      dispatch(proofsDropped(wrong === 'unclear' ? [...gestures] : ['gesture.wing', 'gesture.nose-again']));
      // What was done the same way as asked now takes the place of what was not.
      if (wrong === 'nose-was-lowered' || wrong === 'nose-and-wing-changed-places')
        keepHeld('gesture.nose-up', holding.chips);
      setSaid(muddles[wrong]);
    }
  };
  const anew = () => {
    dispatch(proofsDropped([...gestures]));
    setSaid(null);
  };
  const stage = () =>
    shown &&
    dispatch(
      staged({ 'mount.roll': shown.rollDeg, 'mount.pitch': shown.pitchDeg, 'mount.yaw': shown.yawDeg }),
    );

  const plumbs =
    found && flat && up
      ? [of(flat), of(up)].map((f) => {
          const g = Matrix3.fromQuaternion(found.attitude).times(f);
          return unit([-g[0], -g[1], -g[2]]);
        })
      : [];
  const words = shown ? mountingWords(found!.square) : null;
  const settingWords = mountingWords(onBoard);
  return (
    <>
      <Lead />
      <div className="mt-2 grid gap-x-4 min-[900px]:grid-cols-[minmax(0,1fr)_220px]">
        <svg
          viewBox="-290 -172 580 350"
          className="max-h-[max(48vh,360px)] w-full"
          role="img"
          aria-label={
            words
              ? `The board in the body as the gestures show it: ${words.lies}, ${words.arrow}`
              : 'The board in the body as its settings say'
          }
        >
          <BoardInBody
            airframe={airframe}
            mount={found ? attitudeOfMount(shown!) : attitudeOfMount(onBoard)}
            half={250}
            tone={found ? 'forest' : 'amber'}
            plumbs={plumbs}
          />
          <text x={-286} y={-154} fontSize={16} fill="var(--soft)">
            {found ? 'The gestures show' : 'The setting says'}
          </text>
          <text
            x={-286}
            y={-131}
            fontSize={18}
            fontWeight={600}
            fill={found ? 'var(--forest)' : 'var(--amber)'}
          >
            {found ? `${words!.lies}, ${words!.arrow}` : `${settingWords.lies}, ${settingWords.arrow}`}
          </text>
          {found && (
            <>
              <text x={286} y={146} fontSize={30} textAnchor="end" fill="var(--ink)" className="num">
                {found.fineDeg.toFixed(1)}°
              </text>
              <text x={286} y={169} fontSize={15} textAnchor="end" fill="var(--soft)">
                {taught ? 'off square' : 'off square, within 3° until the poses are taught'}
              </text>
            </>
          )}
        </svg>
        <div className="grid content-center gap-1 border-line min-[900px]:border-l min-[900px]:pl-4">
          {found && !written && (
            <figure className="m-0 mb-1">
              <svg viewBox="-330 -170 660 340" className="w-full" aria-hidden="true">
                <BoardInBody
                  airframe={airframe}
                  mount={attitudeOfMount(onBoard)}
                  half={250}
                  tone="amber"
                  bare
                />
              </svg>
              <figcaption className="text-[13px] text-soft">
                The board’s setting says{' '}
                <b className="font-semibold text-ink">
                  {settingWords.lies}, {settingWords.arrow}
                </b>
                , <span className="num text-amber">{away(onBoard).toFixed(0)}°</span> turned from it.
              </figcaption>
            </figure>
          )}
          <Step n={1} name="As it stands" done={flat !== undefined} now={next === 'gesture.flat'}>
            <SideView airframe={airframe} tilt={0} />
          </Step>
          <Step
            n={2}
            name={found ? `Nose lifted, ${found.liftDeg.toFixed(0)}°` : 'Nose lifted'}
            done={found !== null}
            now={next === 'gesture.nose-up' || next === 'gesture.nose-again'}
          >
            <SideView airframe={airframe} tilt={28} />
          </Step>
          <Step n={3} name="Right wing down" done={proof !== null} now={next === 'gesture.wing'}>
            <g transform="rotate(24)">
              <CraftRear airframe={airframe} scale={100 / Math.max(airframe.lengthM, spanOf(airframe))} />
            </g>
          </Step>
          {second && (
            <p className="mt-1 text-[13px] text-soft">
              The second chip sits {mountingWords(second.square).lies}, {mountingWords(second.square).arrow}:
              the board turns it by itself.
            </p>
          )}
        </div>
      </div>
      <div className="mt-2 rounded-[4px] border border-line border-l-4 border-l-forest bg-paper px-3.5 py-2.5">
        {holding.fault ? (
          <p role="alert" className="text-red">
            {holding.fault}
          </p>
        ) : next ? (
          <div className="flex flex-wrap items-center gap-3">
            <p className="flex-1" role="status">
              <b className="font-semibold">{asked[next]}</b>{' '}
              <span className="text-soft">
                {holding.force === null
                  ? 'Nothing comes from the board yet.'
                  : !holding.still
                    ? 'It moves; hold it still.'
                    : next === 'gesture.flat'
                      ? `Still. ${meantSize(holding.still.force)}`
                      : lean < 12
                        ? `Still, and ${lean.toFixed(0)}° from how it stood: farther.`
                        : lean > 75
                          ? `${lean.toFixed(0)}° is too far: between 20 and 60.`
                          : `Still, ${lean.toFixed(0)}° from how it stood.`}
              </span>
            </p>
            {flat && (
              <Button kind="flat" onClick={anew}>
                Begin again
              </Button>
            )}
            <Button kind="go" disabled={!ready} onClick={take}>
              {next === 'gesture.flat'
                ? 'It stands so'
                : next === 'gesture.wing'
                  ? 'The right wing is down'
                  : 'The nose is up'}
            </Button>
          </div>
        ) : found && !written ? (
          <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
            <div className="flex-1">
              <p className="text-[13px] text-soft">
                Nearest of the 24 square mountings, <span className="num">{found.fineDeg.toFixed(1)}°</span>{' '}
                away; the next is <span className="num">{found.nextDeg.toFixed(0)}°</span> away
              </p>
              <p className="num text-[18px]">
                {(['roll', 'pitch', 'yaw'] as const).map((axis) => (
                  <span key={axis} className="mr-5 whitespace-nowrap">
                    <span className="font-sans text-[14px] text-soft">{axis} </span>
                    {onBoard[`${axis}Deg`] !== shown![`${axis}Deg`] && (
                      <s className="text-faint">{onBoard[`${axis}Deg`]}°</s>
                    )}{' '}
                    {shown![`${axis}Deg`]}°
                  </span>
                ))}
              </p>
            </div>
            <Button kind="flat" onClick={anew}>
              Begin again
            </Button>
            {drafted ? (
              <p role="status" className="text-soft">
                In the tray. Write it to the board; it takes effect after a restart.
              </p>
            ) : (
              <Button kind="go" onClick={stage}>
                Put into the tray
              </Button>
            )}
          </div>
        ) : found && restart ? (
          <p role="status">
            The board has it, and mounts itself anew after a restart. Restart it from the tray.
          </p>
        ) : proof?.seen.kind === 'mounted' ? (
          <div className="flex items-center gap-3">
            <p className="flex-1" role="status">
              <b className="font-semibold">Confirmed.</b> The board knew the right wing was down, within{' '}
              <span className="num">{proof.seen.offDeg.toFixed(0)}°</span> of straight. It sits{' '}
              {settingWords.lies}, {settingWords.arrow}.
            </p>
            <Button kind="flat" onClick={anew}>
              Begin again
            </Button>
          </div>
        ) : null}
        {said && (
          <p className="mt-1.5" role="status">
            {said}
          </p>
        )}
        {opposite && !said && (
          <p className="mt-1.5 text-amber" role="alert">
            The wing does not fit the nose: either the nose was lowered, or the left wing went down, or the
            two changed places. Lifting the nose once more tells which.
          </p>
        )}
      </div>
      {up && flat && !found && (
        <Notice tone="amber">
          The nose was lifted by too little, or too far, to tell anything. Lift it again.
        </Notice>
      )}
    </>
  );
}

const meantSize = (f: Triple) => `Gravity feels like ${Math.hypot(...f).toFixed(2)} m/s².`;
const spanOf = (a: Airframe) => Math.max(...a.planforms.map((p) => p.spanM), 0.1);

/** The angles of an attitude that is none of the 24, to whole degrees. */
function rounded(q: Float64Array): MountAngles {
  const m = Matrix3.fromQuaternion(q).rows;
  const deg = (rad: number) => Math.round((rad * 180) / Math.PI);
  return {
    rollDeg: deg(Math.atan2(m[2][1], m[2][2])),
    pitchDeg: deg(Math.asin(Math.max(-1, Math.min(1, -m[2][0])))),
    yawDeg: deg(Math.atan2(m[1][0], m[0][0])),
  };
}

function SideView({ airframe, tilt }: { readonly airframe: Airframe; readonly tilt: number }) {
  return (
    <g transform={`rotate(${tilt})`}>
      <CraftSide airframe={airframe} scale={84 / sideLength(airframe)} />
    </g>
  );
}

interface StepProps {
  readonly n: number;
  readonly name: string;
  readonly done: boolean;
  readonly now: boolean;
  readonly children: ReactNode;
}

/** One gesture: drawn, numbered, and whether it was seen. */
function Step({ n, name, done, now, children }: StepProps) {
  return (
    <div className={`flex items-center gap-2 rounded-[4px] px-1.5 ${now ? 'bg-lake-wash' : ''}`}>
      <svg viewBox="-62 -34 124 68" className="h-[58px] w-[106px] shrink-0" aria-hidden="true">
        <path d="M-60 30H60" stroke="var(--contour)" />
        {children}
      </svg>
      <p className="text-[13px] leading-4">
        <span className={`font-semibold ${done ? 'text-forest' : ''}`}>
          {n} {name}
        </span>
        <br />
        <span className="text-soft">{done ? '✓ seen' : now ? 'now' : 'later'}</span>
      </p>
    </div>
  );
}
