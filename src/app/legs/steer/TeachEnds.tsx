import { actuatorNames } from '#core/airframe/actuators.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import { outputDriving } from '#core/mixer/commanded.ts';
import { stateOf } from '#core/proofs/proofs.ts';
import { settingOf } from '#core/settings/typed.ts';
import { procedures } from '../../board/procedures.ts';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { recordProof } from '../../session.ts';
import { selectDescription, selectProofWorld, selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Bar } from '../../ui/Bar.tsx';
import { Button } from '../../ui/Button.tsx';

/** A battery is in from this on, V. */
const BATTERY_V = 5;

/** Ends taught to controllers that are driven by pulses, in the order that they need. */
export function TeachEnds({ airframe, allowed }: { readonly airframe: Airframe; readonly allowed: boolean }) {
  const values = useApp(selectValues);
  const pads = useApp(selectDescription)?.pads ?? [];
  const world = useApp(selectProofWorld)!;
  const proof = useApp((s) => s.craft.proofs.find((p) => p.id === 'ends-taught'));
  const ready = useApp((s) => s.board.link === 'ready');
  const newest = useApp((s) => (s.procedure.newest?.kind === 'teach-ends' ? s.procedure.newest : null));
  const battery = useSampled(() => (live('power')?.supplyV ?? 0) > BATTERY_V, 300);
  const pulsed = airframe.motors.flatMap((m) => {
    const output = outputDriving(values, m.id);
    const timer = pads.find((p) => p.output === output)?.timer;
    return output !== null && settingOf(values, `timer.${timer ?? 1}.sends`) === 'pulses'
      ? [{ id: m.id, output }]
      : [];
  });
  const state = stateOf(proof, world);
  const running = newest?.state === 'running' || newest?.state === 'away';
  return (
    <section className="mt-4 border-line border-t pt-3" aria-label="Ends of pulse-driven controllers">
      <h2 className="font-semibold">Where they stand still and where they are full</h2>
      {pulsed.length === 0 ? (
        <p className="text-soft">
          Every motor is driven by frames, which carry the throttle as a number: no ends have to be taught.
        </p>
      ) : (
        <>
          <p className="max-w-[760px] text-soft">
            Driven by pulses: {pulsed.map((m) => actuatorNames[m.id]).join(', ')}. A controller takes a long
            pulse that it meets when it gets power for full, and the short one that follows for standing
            still. Propellers off, battery out, begin, battery in: the board sends both ends in that order,
            and nothing turns.
          </p>
          <div className="mt-2 flex flex-wrap items-center gap-3">
            {running ? (
              <Button onClick={() => void procedures.cancel()}>Stop</Button>
            ) : (
              <Button
                disabled={!ready || battery || !allowed}
                title={battery ? 'Take the battery out first' : undefined}
                onClick={() => void procedures.begin('teach-ends', {})}
              >
                {state === 'none' ? 'Teach them' : 'Teach them again'}
              </Button>
            )}
            {!running && battery && (
              <span className="text-[13px] text-soft">The battery is in: take it out first.</span>
            )}
            {!running && state !== 'none' && (
              <span className={state === 'proven' ? 'text-forest' : 'text-red'}>
                {state === 'proven'
                  ? 'Taught, and heard.'
                  : 'Ends or outputs were changed since: teach them again.'}
              </span>
            )}
          </div>
          {running && <Bar share={newest.progress} className="mt-2 max-w-[360px]" />}
          {newest && newest.state !== 'cancelled' && (
            <p className={`mt-1 ${newest.state === 'failed' ? 'text-red' : 'text-soft'}`} role="status">
              {newest.says}
            </p>
          )}
          {newest?.state === 'done' && state !== 'proven' && (
            <p className="mt-1 flex flex-wrap items-center gap-2">
              Did each motor give one tone, then three?
              <Button
                kind="live"
                onClick={() => recordProof({ kind: 'ends-taught', outputs: pulsed.map((m) => m.output) })}
              >
                Yes, all of them
              </Button>
              <span className="text-[13px] text-soft">
                One that gave none takes no ends, or had its power before the long pulse: battery out, and
                once more.
              </span>
            </p>
          )}
        </>
      )}
    </section>
  );
}
