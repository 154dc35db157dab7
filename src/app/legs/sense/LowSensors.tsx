import { useState } from 'react';
import { mean } from '#core/analysis/spread.ts';
import { flowScaleFrom, rangeFromLift } from '#core/calibration/airWatch.ts';
import { attitudeOfMount } from '#core/calibration/mounting.ts';
import { Matrix3 } from '#core/math/matrix3.ts';
import { settingOf } from '#core/settings/typed.ts';
import { formatQuantity } from '#core/units/units.ts';
import type { StreamRing } from '#link/streamRing.ts';
import { useSampled } from '../../live/hooks.ts';
import { useStreamRing } from '../../live/streams.ts';
import { recordProof } from '../../session.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { QuantityField } from '../../ui/Quantity.tsx';
import { Figure } from './Figure.tsx';
import { mountSet, useProven } from './useGestures.ts';

const HZ = 25;
const WINDOW_S = 3;
const ROCK_HZ = 50;
/** Rocking is looked at over so long, s. */
const ROCK_S = 6;
/** Below this the ground is seen too badly to fly by, as the firmware has it. */
const QUALITY_LEAST = 0.3;

/** The rangefinder: standing, and lifted by a measured height. */
export function Range() {
  const units = useApp((s) => s.ui.units);
  const base = useApp((s) => s.settings.base);
  const edits = useApp((s) => s.settings.edits);
  const dispatch = useAppDispatch();
  const { ring, fault } = useStreamRing('rangefinder', HZ, 1, WINDOW_S);
  const proof = useProven('range');
  const [standing, setStanding] = useState<number | null>(null);
  const [lift, setLift] = useState(1);
  const [said, setSaid] = useState<string | null>(null);
  const now = useSampled(() => (ring.unbroken > 0 ? mean(ring.newest(0, HZ)) : Number.NaN), 250);
  const waits = 'range.scale' in edits || 'range.offset' in edits;
  const above = (settingOf(base, 'range.scale') ?? 1) * now - (settingOf(base, 'range.offset') ?? 0);
  const m = (v: number) => formatQuantity(v, 'm', units, 2);
  const off = Math.abs(above - lift);
  const stage = () => {
    const found = rangeFromLift(standing!, now, lift);
    if ('refused' in found) {
      setSaid(found.refused);
      return;
    }
    setSaid(null);
    dispatch(
      staged({
        'range.scale': Math.round(found.scale * 100) / 100,
        'range.offset': Math.round(found.offset * 100) / 100,
      }),
    );
  };
  return (
    <section className="mt-3 border-t border-line pt-3">
      <h2 className="font-semibold">Rangefinder</h2>
      <p className="text-soft">
        {fault ??
          (Number.isNaN(now)
            ? 'Nothing comes from it. Outside the board it has power from the battery only, on many boards.'
            : now <= 0
              ? 'It sees nothing: farther than it reaches, or too near.'
              : `Says ${m(now)}; ${m(above)} over the ground as the board is set. Landing and flare go by it.`)}
      </p>
      <div className="mt-1 flex flex-wrap items-center gap-3">
        <Button disabled={!(now > 0)} onClick={() => setStanding(now)}>
          It stands on the ground
        </Button>
        <span className="text-soft">then lifted by</span>
        <QuantityField
          label="Lifted by"
          value={lift}
          unit="m"
          min={0.3}
          max={3}
          step={0.01}
          onChange={setLift}
        />
        {waits ? (
          <span role="status">In the tray. Write it, and lift it again.</span>
        ) : off < 0.03 + 0.03 * lift ? (
          <Button
            kind={proof ? 'plain' : 'go'}
            onClick={() => recordProof({ kind: 'range', liftM: lift, offM: off })}
          >
            {proof ? 'Keep it anew' : 'It says the height'}
          </Button>
        ) : (
          <Button kind="go" disabled={standing === null || !(now > 0)} onClick={stage}>
            It is lifted
          </Button>
        )}
      </div>
      {said && (
        <p className="text-amber" role="alert">
          {said}
        </p>
      )}
    </section>
  );
}

/** The optical flow sensor: how well it sees the ground, and its scale against the gyro. */
export function OpticalFlow() {
  const base = useApp((s) => s.settings.base);
  const edits = useApp((s) => s.settings.edits);
  const dispatch = useAppDispatch();
  const flow = useStreamRing('flow', ROCK_HZ, 3, ROCK_S);
  const turning = useStreamRing('gyro', ROCK_HZ, 3, ROCK_S);
  const proof = useProven('flow');
  const [said, setSaid] = useState<string | null>(null);
  const quality = useSampled(() => mean(flow.ring.newest(2, ROCK_HZ)), 300);
  const scale = settingOf(base, 'flow.scale') ?? 1;
  const waits = 'flow.scale' in edits;
  const mount = Matrix3.fromQuaternion(attitudeOfMount(mountSet(base)));
  const take = () => {
    // Both to the same moment of the board's time: their blocks end at different ones.
    const endS = Math.min(flow.ring.newestS, turning.ring.newestS);
    const late = [flow.ring, turning.ring].map((r) => Math.round((r.newestS - endS) * ROCK_HZ));
    const n = Math.min(flow.ring.unbroken - late[0]!, turning.ring.unbroken - late[1]!);
    const upTo = (ring: StreamRing, k: number, by: number) => ring.newest(k, n + by).subarray(0, n);
    const [x, y] = [upTo(flow.ring, 0, late[0]!), upTo(flow.ring, 1, late[0]!)];
    const g = [0, 1, 2].map((k) => upTo(turning.ring, k, late[1]!));
    const rates = Array.from({ length: n }, (_, i) => mount.times([g[0]![i]!, g[1]![i]!, g[2]![i]!]));
    // About both axes of the craft at once: rocked about either, one of them tells.
    const found = flowScaleFrom(
      [...x, ...y].map((v) => scale * v),
      [...rates.map((r) => r[0]), ...rates.map((r) => r[1])],
    );
    if ('refused' in found) {
      setSaid(found.refused);
      return;
    }
    setSaid(null);
    if (Math.abs(found.scale - 1) < 0.03) recordProof({ kind: 'flow', scale: found.scale, quality });
    else dispatch(staged({ 'flow.scale': Math.round(scale * found.scale * 100) / 100 }));
  };
  return (
    <section className="mt-3 border-line border-t pt-3">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <div className="min-w-[240px] flex-1">
          <h2 className="font-semibold">Optical flow</h2>
          <p className="mt-1">
            <Figure
              value={Number.isNaN(quality) ? '–' : (100 * quality).toFixed(0)}
              unit="%"
              words="of the ground is seen well"
            />
            <Figure value={scale.toFixed(2)} words="its scale on the board" />
          </p>
          <p className={quality < QUALITY_LEAST ? 'text-amber' : 'text-soft'} role="status">
            {flow.fault ??
              (Number.isNaN(quality)
                ? 'Nothing comes from it.'
                : quality < QUALITY_LEAST
                  ? 'It sees no ground to go by: lift it to a metre, over something with a pattern, in good light.'
                  : waits
                    ? 'In the tray. Write it, and rock the craft once more.'
                    : proof?.seen.kind === 'flow'
                      ? 'Seen: the ground turns as the gyro does. Position hold goes by it when it is low and has no fix.'
                      : 'Hold it a metre up and rock it from side to side for some seconds, then press.')}
          </p>
          {said && (
            <p className="text-amber" role="alert">
              {said}
            </p>
          )}
        </div>
        <Button kind={proof ? 'plain' : 'go'} disabled={!(quality >= QUALITY_LEAST) || waits} onClick={take}>
          I rocked it
        </Button>
      </div>
    </section>
  );
}
