import { useEffect, useRef } from 'react';
import { useNavigate } from 'react-router';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { launchOf } from '#core/airframe/launch.ts';
import { blockerHelp } from '#core/arming/blockers.ts';
import { ArmingDrill, type ArmTry, armTries } from '#core/arming/drill.ts';
import { stateOf } from '#core/proofs/proofs.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { useStatus } from '../../live/hooks.ts';
import { currentStatus, recent } from '../../live/telemetry.ts';
import { recordProof } from '../../session.ts';
import { selectProofWorld } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { TextButton } from '../../ui/TextButton.tsx';
import { Told } from '../../ui/Told.tsx';
import { Waymark } from '../../ui/Waymark.tsx';
import { Lead } from '../Lead.tsx';
import { pathOf } from '../legs.ts';
import { HandThrow } from './HandThrow.tsx';

const LOOK_MS = 80;

const tries: Readonly<Record<ArmTry, readonly [name: string, how: string]>> = {
  'at-start': [
    'On at the start',
    'Leave the arming switch on, take battery and cable out and put them in again.',
  ],
  throttle: ['Throttle up', 'Push the throttle up half way, then put the arming switch on for a second.'],
  tilted: ['Tilted', 'Tip the craft over beyond its side, then put the arming switch on for a second.'],
  moving: ['Moving', 'Rock the craft to and fro, and put the arming switch on meanwhile.'],
  'in-peace': [
    'In peace',
    'Level, still, throttle down, all clear: put it on, see it arm, and put it off again.',
  ],
};

/** Blockers with their cure, a drill of the arming switch, and the throw. */
export default function ReadyToArmStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const proofs = useApp((s) => s.craft.proofs);
  const world = useApp(selectProofWorld)!;
  const status = useStatus();
  useDrill();
  const thrown = !isRotorcraft(airframe) && launchOf(airframe) !== null;
  return (
    <>
      <Lead />
      <div className="mt-3 grid gap-x-8 gap-y-4 min-[900px]:grid-cols-2">
        <Blocking />
        <section aria-label="Tries of the arming switch">
          <h2 className="font-semibold">Try the switch, propellers off</h2>
          <p className="text-soft text-[13px]">
            Each is seen by itself, whenever you do it while this is shown.
          </p>
          <ul className="mt-1">
            {armTries.map((t) => {
              const proof = proofs.find((p) => p.id === `arming.${t}`);
              const state = stateOf(proof, world);
              const good = proof?.seen.kind === 'arming' && proof.seen.good;
              const [name, how] = tries[t];
              return (
                <li key={t} className="grid grid-cols-[22px_1fr] gap-2 py-1">
                  <span className="pt-0.5">
                    <Waymark
                      progress={
                        state === 'none' ? 'open' : state === 'stale' ? 'stale' : good ? 'proven' : 'blocked'
                      }
                      here={false}
                      size={16}
                    />
                  </span>
                  <span>
                    <b className="font-medium">{name}</b>{' '}
                    <span className={state === 'proven' ? (good ? 'text-forest' : 'text-red') : 'text-faint'}>
                      {state === 'proven'
                        ? t === 'in-peace'
                          ? good
                            ? 'it armed, and disarmed'
                            : 'it did not disarm'
                          : good
                            ? 'it did not arm'
                            : 'it armed'
                        : state === 'stale'
                          ? 'changed since'
                          : 'not tried yet'}
                    </span>
                    <small className="block text-[13px] text-soft leading-4">{how}</small>
                  </span>
                </li>
              );
            })}
          </ul>
          <p className={`mt-1 font-medium ${status?.armed ? 'text-red' : 'text-soft'}`} role="status">
            {status ? (status.armed ? 'The craft is armed.' : 'The craft is disarmed.') : ''}
          </p>
        </section>
      </div>
      {thrown && <HandThrow />}
    </>
  );
}

/** Every blocker in the board's words, with what to do and where. */
function Blocking() {
  const status = useStatus();
  const navigate = useNavigate();
  if (!status)
    return (
      <section aria-label="In the way of arming">
        <h2 className="font-semibold">In the way of arming</h2>
        <p className="mt-1 text-soft">The board says so once it is on the cable.</p>
      </section>
    );
  return (
    <section aria-label="In the way of arming">
      <h2 className="font-semibold">In the way of arming</h2>
      {status.blockers.length === 0 ? (
        <p className="mt-1 text-forest" role="status">
          {status.armed ? 'It is armed.' : 'Nothing. The switch arms it now.'}
        </p>
      ) : (
        <ul className="mt-1 space-y-1.5">
          {status.blockers.map((b) => {
            const { station, todo } = blockerHelp(b.id);
            return (
              <li key={b.id}>
                <Told>{b.why}</Told>{' '}
                <span className="text-soft">
                  {todo}{' '}
                  {station && <TextButton onClick={() => navigate(pathOf(station))}>Go there</TextButton>}
                </span>
              </li>
            );
          })}
        </ul>
      )}
    </section>
  );
}

/** Feeds the drill with what the board tells, and keeps what it sees. */
function useDrill(): void {
  const base = useApp((s) => s.settings.base);
  const ready = useApp((s) => s.board.link === 'ready');
  const drill = useRef(new ArmingDrill());
  useEffect(() => {
    if (!ready) return;
    const set = settingsOf(base);
    const [channel, from, to] = [set.number('arm.channel'), set.number('arm.from'), set.number('arm.to')];
    const throttle = set.number('rx.throttle.channel');
    const [low, high] = [set.number('rx.throttle.low'), set.number('rx.throttle.high')];
    let lastS = Number.NEGATIVE_INFINITY;
    const timer = setInterval(() => {
      const status = currentStatus();
      const attitude = recent('attitude', 0.5).at(-1)?.value;
      const heard = recent('receiver', 0.5).at(-1);
      if (!status || !attitude || !heard || heard.atS === lastS || channel < 1) return;
      // The board's time begins anew with it.
      lastS = heard.atS;
      const us = heard.value.channels[channel - 1]!;
      const seen = drill.current.look({
        atS: heard.atS,
        switchOn: heard.value.frameAge < 0.3 ? us >= from && us <= to : null,
        throttle: (heard.value.channels[throttle - 1]! - low) / (high - low),
        tilt: Math.acos(Math.cos(attitude.roll) * Math.cos(attitude.pitch)),
        rate: Math.hypot(attitude.rollRate, attitude.pitchRate, attitude.yawRate),
        armed: status.armed,
        launch: status.mode === 'launch',
        blockers: status.blockers.map((b) => b.id),
      });
      if (seen) recordProof({ kind: 'arming', ...seen });
    }, LOOK_MS);
    return () => clearInterval(timer);
  }, [base, ready]);
}
