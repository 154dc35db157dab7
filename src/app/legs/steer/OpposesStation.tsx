import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { actuatorNames, type MotorId, type SurfaceId } from '#core/airframe/actuators.ts';
import { isRotorcraft, widthOf } from '#core/airframe/airframe.ts';
import { commandedBy } from '#core/mixer/commanded.ts';
import { modeName } from '#core/modes/modes.ts';
import { changedSince, staleWords, stateOf } from '#core/proofs/proofs.ts';
import { pushMore, rotorsOppose } from '#core/proofs/rotorAnswers.ts';
import type { Tilt } from '#core/proofs/seen.ts';
import {
  notCommandedAgainst,
  opposingDirection,
  surfacesAgainst,
  tiltsOf,
} from '#core/proofs/surfaceAnswers.ts';
import { CraftRear, paintRear } from '../../drawing/CraftRear.tsx';
import { CraftSide, paintSide, sideLength } from '../../drawing/CraftSide.tsx';
import { useFrame, useSampled, useStatus } from '../../live/hooks.ts';
import { live, recent } from '../../live/telemetry.ts';
import { recordProof } from '../../session.ts';
import { selectProofWorld } from '../../store/selectors.ts';
import { store, useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { textLook } from '../../ui/TextButton.tsx';
import { Lead } from '../Lead.tsx';
import { pathOf } from '../legs.ts';
import { RotorBars, rotorShares } from './RotorBars.tsx';

const DEG = 180 / Math.PI;
/** Tilt from which a check counts, degrees. */
const LEAST_TILT = 15;
/** A tilt is confirmed when it was held for so long, s. */
const HELD_S = 0.4;

const words: Readonly<Record<Tilt, string>> = {
  'roll-right': 'Right wing down',
  'roll-left': 'Left wing down',
  'nose-up': 'Nose up',
  'nose-down': 'Nose down',
  'yaw-right': 'Turning right',
  'yaw-left': 'Turning left',
};
/** The same of a craft without wings. */
const wordsOf = (tilt: Tilt, rotors: boolean) => (rotors ? words[tilt].replace('wing', 'side') : words[tilt]);

type Answering = SurfaceId | MotorId;
const list = (ids: readonly Answering[]) => ids.map((id) => `the ${actuatorNames[id]}`).join(' and ');

/** Turning about its height from which a check counts, degrees a second. */
const LEAST_TURN = 20;

function tiltOf(rollDeg: number, pitchDeg: number, yawRateDeg: number): Tilt | null {
  const upright = Math.abs(rollDeg) < LEAST_TILT && Math.abs(pitchDeg) < LEAST_TILT;
  if (upright) return Math.abs(yawRateDeg) < LEAST_TURN ? null : yawRateDeg > 0 ? 'yaw-right' : 'yaw-left';
  if (Math.abs(rollDeg) >= Math.abs(pitchDeg)) {
    return rollDeg > LEAST_TILT ? 'roll-right' : rollDeg < -LEAST_TILT ? 'roll-left' : null;
  }
  return pitchDeg > LEAST_TILT ? 'nose-up' : pitchDeg < -LEAST_TILT ? 'nose-down' : null;
}

/** The tilt that the board sensed all the while, and how far on average; null when it was none or changed. */
function heldTilt(): { readonly tilt: Tilt; readonly tiltDeg: number } | null {
  const held = recent('attitude', HELD_S).map(({ value }) => value);
  const newest = held.at(-1);
  const of = (a: (typeof held)[number]) => tiltOf(a.roll * DEG, a.pitch * DEG, a.yawRate * DEG);
  const tilt = newest ? of(newest) : null;
  if (!tilt || held.some((a) => of(a) !== tilt)) return null;
  const by = tilt.startsWith('nose') ? 'pitch' : tilt.startsWith('yaw') ? 'yawRate' : 'roll';
  const angles = held.map((a) => Math.abs(a[by]) * DEG);
  return { tilt, tiltDeg: angles.reduce((sum, a) => sum + a, 0) / angles.length };
}

/** In self-level, every surface must move against a tilt, and rotors would push against it. The person looks and confirms. */
export default function OpposesStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const rotors = isRotorcraft(airframe);
  const proofs = useApp((s) => s.craft.proofs);
  const world = useApp(selectProofWorld)!;
  const pending = useApp((s) => Object.keys(s.settings.edits).some((k) => /^(out|mix|mount)\./.test(k)));
  const status = useStatus();
  const [said, setSaid] = useState<string | null>(null);
  const attitude = useSampled(() => live('attitude'), 80);
  const rear = useRef<SVGGElement>(null);
  const bank = useRef<SVGGElement>(null);
  const side = useRef<SVGGElement>(null);
  const nose = useRef<SVGGElement>(null);
  useFrame(() => {
    const outputs = live('outputs');
    const commanded = outputs && commandedBy(store.getState().settings.base, outputs.pulses);
    paintRear(rear.current, commanded);
    paintSide(side.current, commanded);
    const a = live('attitude');
    // Nose to the left: a raised nose turns it clockwise there.
    nose.current?.setAttribute('transform', `rotate(${((a?.pitch ?? 0) * DEG).toFixed(1)})`);
    bank.current?.setAttribute('transform', `rotate(${((a?.roll ?? 0) * DEG).toFixed(1)})`);
  });
  const roll = attitude ? attitude.roll * DEG : 0;
  const pitch = attitude ? attitude.pitch * DEG : 0;
  const held = useSampled(heldTilt, 80);
  const tilt = held?.tilt ?? null;
  const level = status?.mode === 'level' || status?.mode === 'return';
  const ids = tilt ? surfacesAgainst(airframe, tilt) : [];
  // Where no surface answers the rotors have to.
  const more = tilt && rotors && ids.length === 0 ? pushMore(airframe, tilt) : [];
  // Which of them go the wrong way, once somebody said that one does.
  const [wrong, setWrong] = useState<{
    readonly tilt: Tilt;
    readonly tiltDeg: number;
    readonly of: readonly Answering[];
    readonly named: readonly Answering[];
  } | null>(null);
  const confirm = () => {
    if (!held) return;
    const { tilt, tiltDeg } = held;
    if (more.length > 0) return confirmRotors(tilt, tiltDeg);
    // What was seen has to be what the board sends: a surface that it does not command against the tilt cannot oppose it.
    const outputs = live('outputs');
    const commanded = outputs ? commandedBy(store.getState().settings.base, outputs.pulses) : {};
    const not = notCommandedAgainst(commanded, ids, tilt);
    if (not.length > 0)
      return setSaid(
        `The board itself does not command the ${not.map((id) => actuatorNames[id]).join(' and the ')} against it now. Hold it so and look again; if that stays, the board’s mounting or its mix is wrong.`,
      );
    recordProof({ kind: 'opposes', tilt, tiltDeg: Math.round(tiltDeg), surfaces: ids });
    setWrong(null);
    setSaid(`Kept: ${wordsOf(tilt, rotors).toLowerCase()}, the surfaces oppose it.`);
  };
  const confirmRotors = (tilt: Tilt, tiltDeg: number) => {
    const shares = rotorShares(store.getState().settings.base);
    if (!shares)
      return setSaid('The board does not tell what it would give its rotors: that came with Pfad 3.2.');
    if (!rotorsOppose(airframe, shares, tilt))
      return setSaid(
        `The board itself would not push against it: ${list(more)} get no more than the others. Hold it so and look again; if that stays, the board’s mounting, its mix, or which output drives which rotor is wrong.`,
      );
    recordProof({ kind: 'opposes', tilt, tiltDeg: Math.round(tiltDeg), surfaces: [], rotors: more });
    setWrong(null);
    setSaid(`Kept: ${wordsOf(tilt, rotors).toLowerCase()}, the rotors would push against it.`);
  };
  const contradict = (tilt: Tilt, tiltDeg: number, named: readonly Answering[]) => {
    recordProof({ kind: 'follows', tilt, tiltDeg: Math.round(tiltDeg), wrong: [...named] });
    setWrong(null);
    setSaid(
      `Kept: ${wordsOf(tilt, rotors).toLowerCase()}, the ${named.map((id) => actuatorNames[id]).join(' and the ')} ${named.length === 1 ? 'does' : 'do'} not oppose it. That blocks the flight until it is put right; what was said of how it moves was taken back.`,
    );
  };
  const deny = () => {
    if (!held) return;
    setSaid(null);
    const of: readonly Answering[] = more.length > 0 ? more : ids;
    if (of.length === 1) contradict(held.tilt, held.tiltDeg, of);
    else setWrong({ ...held, of, named: [] });
  };
  const needs = !status
    ? 'Needs the board.'
    : pending
      ? 'Edits to outputs wait in the tray. Write them first, so that the board you test is the board you have.'
      : !level
        ? `The board is in ${modeName(status.mode)}. Switch to Level: the Attitude switch of the transmitter, as set under What the switches do.`
        : !tilt
          ? `Tilt the craft by more than ${LEAST_TILT}° to one side, nose up or nose down, or turn it round, and look at it.`
          : null;
  return (
    <>
      {rotors ? (
        <Lead>
          In Level, tilt the craft by hand, then turn it round. Its motors stand still; the board tells what
          it would give each of them. Look at the craft itself: the rotors on the side that you hold low must
          be the ones that would push more.
        </Lead>
      ) : (
        <Lead />
      )}

      <div
        className={`mt-3 grid gap-6 ${rotors ? 'min-[900px]:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]' : 'min-[1500px]:grid-cols-[minmax(0,1fr)_220px]'}`}
      >
        {rotors ? (
          <RotorBars airframe={airframe} more={more} />
        ) : (
          <div className="grid items-center gap-2 min-[900px]:grid-cols-[minmax(0,5fr)_minmax(0,3fr)]">
            <svg
              viewBox="-250 -110 500 220"
              className="w-full"
              role="img"
              aria-label="The craft from behind as the board senses it, with the surfaces it commands"
            >
              <path d="M-250 0H250" stroke="var(--contour)" strokeDasharray="3 5" />
              <g ref={bank}>
                <CraftRear airframe={airframe} scale={400 / widthOf(airframe)} root={rear} />
              </g>
              <text x={-246} y={-96} fontSize={13} fill="var(--soft)">
                from behind, as the board senses it
              </text>
              <text x={246} y={-96} fontSize={14} textAnchor="end" fill="var(--roll)" className="num">
                R {Math.round(roll) + 0}°
              </text>
              <text x={246} y={-78} fontSize={14} textAnchor="end" fill="var(--pitch)" className="num">
                P {Math.round(pitch) + 0}°
              </text>
            </svg>
            <svg
              viewBox="-150 -110 300 220"
              className="w-full"
              role="img"
              aria-label="The craft from its left side as the board senses it, with the surfaces it commands"
            >
              <path d="M-150 0H150" stroke="var(--contour)" strokeDasharray="3 5" />
              <g ref={nose}>
                <CraftSide airframe={airframe} scale={200 / sideLength(airframe)} root={side} />
              </g>
              <text x={-146} y={-96} fontSize={13} fill="var(--soft)">
                from the left
              </text>
            </svg>
          </div>
        )}
        <ul
          className={`grid gap-1 self-center ${rotors ? '' : 'grid-cols-2 min-[1500px]:grid-cols-1'}`}
          aria-label="Tilts to check"
        >
          {tiltsOf(airframe).map((t) => {
            const proof = proofs.find((p) => p.id === `opposes.${t}`);
            const state = stateOf(proof, world);
            const against = proof?.seen.kind === 'follows' && changedSince(proof, world).length === 0;
            return (
              <li
                key={t}
                title={staleWords(proof, world)}
                className={`flex justify-between rounded-[4px] px-3 py-1.5 ${t === tilt && level ? 'bg-lake-wash' : ''}`}
              >
                {wordsOf(t, rotors)}
                <span
                  className={
                    state === 'proven'
                      ? 'text-forest'
                      : state === 'stale' || against
                        ? 'text-red'
                        : 'text-faint'
                  }
                >
                  {against
                    ? 'one does not'
                    : state === 'proven'
                      ? '✓ seen'
                      : state === 'stale'
                        ? 'changed since'
                        : 'open'}
                </span>
              </li>
            );
          })}
        </ul>
      </div>
      <div className="bottom-0 mt-3 [@media(min-height:820px)]:sticky rounded-[4px] border border-line bg-paper px-3.5 py-3">
        {wrong ? (
          <fieldset>
            <legend className="font-semibold">
              {wordsOf(wrong.tilt, rotors)}: which of them does not oppose it? Look at the craft itself.
            </legend>
            <div className="mt-1.5 flex flex-wrap items-center gap-4">
              {wrong.of.map((id) => (
                <Check
                  key={id}
                  checked={wrong.named.includes(id)}
                  onChange={(e) =>
                    setWrong({
                      ...wrong,
                      named: e.target.checked ? [...wrong.named, id] : wrong.named.filter((n) => n !== id),
                    })
                  }
                >
                  {actuatorNames[id]}
                </Check>
              ))}
              <Button
                kind="go"
                disabled={wrong.named.length === 0}
                onClick={() => contradict(wrong.tilt, wrong.tiltDeg, wrong.named)}
              >
                Keep that
              </Button>
              <Button kind="flat" onClick={() => setWrong(null)}>
                Look again
              </Button>
            </div>
          </fieldset>
        ) : needs ? (
          <p role="status">{needs}</p>
        ) : (
          tilt && (
            <div className="flex flex-wrap items-center gap-3">
              <p className="flex-1">
                <b className="font-semibold">{wordsOf(tilt, rotors)}.</b> To turn it back,{' '}
                {more.length > 0
                  ? `${list(more)} must push more: ${more.length === 1 ? 'its bar has' : 'their bars have'} to stand above the others. Do the bars stand so${tilt.startsWith('yaw') ? '' : ', on the side of the craft that you hold low'}`
                  : ids
                      .map((id) => `the ${actuatorNames[id]} must go ${opposingDirection(id, tilt)}`)
                      .join(', and ')}
                {more.length > 0 ? '?' : '.'}
              </p>
              <Button kind="go" onClick={confirm}>
                {ids.length + more.length > 1 ? 'They do' : 'It does'}
              </Button>
              <Button onClick={deny}>{ids.length + more.length > 1 ? 'One does not' : 'It does not'}</Button>
            </div>
          )
        )}
        {said && (
          <p className="mt-2 text-soft" role="status">
            {said}{' '}
            {proofs.some((p) => p.seen.kind === 'follows' && changedSince(p, world).length === 0) && (
              <Link to={pathOf('which-moved')} className={textLook('red')}>
                Put it right at Which one moved?
              </Link>
            )}
          </p>
        )}
      </div>
    </>
  );
}
