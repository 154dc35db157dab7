import { useEffect, useMemo, useRef, useState } from 'react';
import { cruiseCurrent } from '#core/airframe/performance.ts';
import { type Interference, type RunUp, runUpWith } from '#core/calibration/interference.ts';
import { norm, type Triple } from '#core/math/triple.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingOf } from '#core/settings/typed.ts';
import { useRefusedSwitch, useSampled, useStatus } from '../../live/hooks.ts';
import { recordProof } from '../../session.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import type { CompassRun } from './compassRun.ts';
import { useProven } from './useGestures.ts';

const DEG = 180 / Math.PI;
const LEAST_PAIRS = 40;

/** What a run-up says, of the board as it is set. */
const saysOf = ({ raw, left, takenOut }: RunUp): string =>
  raw.verdict === 'move-it'
    ? 'That is too much for any correction: move the compass away from the battery’s wire, a hand’s breadth at least, or twist the wires.'
    : takenOut
      ? `What the board is set to leaves ${(left.headingAtMost * DEG).toFixed(0)}° at the most.`
      : 'The board can take it out, as long as it measures the current.';

/** Climbs and gusts draw so much more than cruise, again and again. */
const CLIMBS = 1.5;

const axes = ['x', 'y', 'z'] as const;

/** Coefficients that the board uses, uT per ampere. */
const perAmpOf = (values: Values): Triple => [
  settingOf(values, 'compass.perAmp.x') ?? 0,
  settingOf(values, 'compass.perAmp.y') ?? 0,
  settingOf(values, 'compass.perAmp.z') ?? 0,
];

interface Props {
  readonly run: CompassRun;
  /** The level part of the earth's field here, uT. */
  readonly levelField: number;
}

/** What the motors' current does to the compass: field against current, from a run-up of the craft tied down. */
export function CompassCurrent({ run, levelField }: Props) {
  const base = useApp((s) => s.settings.base);
  const dispatch = useAppDispatch();
  const armed = useStatus()?.armed ?? false;
  const refusedSwitch = useRefusedSwitch();
  const proof = useProven('compass-current');
  const [result, setResult] = useState<ReturnType<typeof runUpWith> | null>(null);
  const was = useRef(false);
  const scale = settingOf(base, 'battery.currentScale') ?? 1;
  const offset = settingOf(base, 'battery.currentOffset') ?? 0;

  const airframe = useApp((s) => s.craft.airframe)!;
  const cruiseA = useMemo(() => cruiseCurrent(airframe, base), [airframe, base]);
  const flightA = cruiseA === null ? undefined : CLIMBS * cruiseA;

  useEffect(() => {
    if (armed && !was.current) {
      run.beginRunUp();
      setResult(null);
    }
    if (!armed && was.current) {
      const pairs = run.pairs();
      setResult(
        pairs.length < LEAST_PAIRS
          ? {
              refused: 'That was too short to tell. Run it up once more, and stay some seconds at each step.',
            }
          : runUpWith(
              pairs.map((p) => p.field),
              pairs.map((p) => (p.amps - offset) * scale),
              perAmpOf(base),
              levelField,
              flightA,
            ),
      );
    }
    was.current = armed;
    run.running = armed;
    return () => {
      run.running = false;
    };
  }, [armed, run, base, scale, offset, levelField, flightA]);

  const moments = useSampled(() => run.moments, 300);
  const found = result && !('refused' in result) ? result : null;
  const waits = useApp((s) => axes.some((k) => `compass.perAmp.${k}` in s.settings.edits));
  const proven = proof?.seen.kind === 'compass-current' ? proof.seen : null;
  const keep = ({ perAmp, mostA, verdict }: Interference) => {
    recordProof({ kind: 'compass-current', perAmp: norm(perAmp), mostA, verdict });
    setResult(null);
  };
  // No proof yet: what the board makes of it is seen in another run-up.
  const stage = ({ perAmp }: Interference) => {
    dispatch(
      staged(
        Object.fromEntries(axes.map((k, i) => [`compass.perAmp.${k}`, Math.round(perAmp[i]! * 1000) / 1000])),
      ),
    );
    setResult(null);
  };
  return (
    <section className="mt-3 border-t border-line pt-3">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold">With the motors’ current</h2>
        <p className="min-w-[220px] flex-1 text-soft" role="status">
          {armed
            ? `Armed. Raise the throttle slowly and close it again; ${moments} moments taken.`
            : refusedSwitch !== null
              ? refusedSwitch
              : found
                ? saysOf(found)
                : result && 'refused' in result
                  ? result.refused
                  : waits
                    ? 'In the tray. Write it, and run it up once more: then it has to be gone.'
                    : proven
                      ? `Seen: ${proven.perAmp.toFixed(2)} µT per ampere, up to ${proven.mostA.toFixed(0)} A.`
                      : 'Tie it down, propellers on, and run it up by your transmitter; this page turns no motor.'}
        </p>
        {found &&
          (found.raw.verdict === 'move-it' || found.takenOut ? (
            <Button kind="go" onClick={() => keep(found.raw)}>
              Keep it as seen
            </Button>
          ) : (
            <Button kind="go" onClick={() => stage(found.raw)}>
              Put into the tray
            </Button>
          ))}
      </div>
      {found && <Plot run={run} found={found.raw} left={found.left} scale={scale} offset={offset} />}
    </section>
  );
}

const W = 420;
const H = 110;

/** Field against current: how far it moved from where it was with nothing flowing. */
function Plot({
  run,
  found,
  left,
  scale,
  offset,
}: {
  readonly run: CompassRun;
  readonly found: Interference;
  readonly left: Interference;
  readonly scale: number;
  readonly offset: number;
}) {
  const size = norm(found.perAmp) || 1;
  const along = run.pairs().map((p) => ({
    a: (p.amps - offset) * scale,
    b: p.field.reduce((sum, v, i) => sum + (v * found.perAmp[i]!) / size, 0),
  }));
  const rest = Math.min(...along.map((p) => p.b));
  const most = Math.max(1, ...along.map((p) => p.b - rest));
  const x = (a: number) => 40 + ((W - 60) * a) / Math.max(1, found.mostA);
  const y = (b: number) => H - 24 - ((H - 40) * b) / most;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-6">
      <p>
        <span className="num text-[22px]">{size.toFixed(2)}</span>{' '}
        <span className="text-soft">µT per ampere</span>
        <span className="block text-[13px] text-soft">
          {found.atMost.toFixed(1)} µT at {found.mostA.toFixed(0)} A turns a heading by up to{' '}
          {(found.headingAtMost * DEG).toFixed(0)}°; as the board is set by{' '}
          {(left.headingAtMost * DEG).toFixed(0)}°
        </span>
      </p>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="w-full max-w-[420px]"
        role="img"
        aria-label="Field against current"
      >
        <path d={`M40 ${H - 24}H${W - 12}`} stroke="var(--contour)" />
        {along
          .filter((_, i) => i % Math.ceil(along.length / 160) === 0)
          .map((p, i) => (
            <circle key={`${i + 1}`} cx={x(p.a)} cy={y(p.b - rest)} r={2} fill="var(--lake)" />
          ))}
        <path
          d={`M${x(0)} ${y(0)}L${x(found.mostA)} ${y(size * found.mostA)}`}
          stroke="var(--ink)"
          strokeWidth={1.6}
        />
        <text x={40} y={H - 6} fontSize={13} fill="var(--soft)">
          0 A
        </text>
        <text x={W - 12} y={H - 6} fontSize={13} textAnchor="end" fill="var(--soft)">
          {found.mostA.toFixed(0)} A
        </text>
      </svg>
    </div>
  );
}
