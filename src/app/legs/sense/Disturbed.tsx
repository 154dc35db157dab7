import { useState } from 'react';
import { mean } from '#core/analysis/spread.ts';
import { disturbedBy } from '#core/calibration/airWatch.ts';
import { airspeedOfPressure, heightOfPressure } from '#core/flight/atmosphere.ts';
import { settingOf } from '#core/settings/typed.ts';
import { formatQuantity } from '#core/units/units.ts';
import type { StreamRing } from '#link/streamRing.ts';
import { useSampled } from '../../live/hooks.ts';
import { useStreamRing } from '../../live/streams.ts';
import { recordProof } from '../../session.ts';
import { selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { QuantityField } from '../../ui/Quantity.tsx';
import { Figure } from './Figure.tsx';

/** Left in peace and disturbed are looked at so long, s; hands take a moment to begin. */
const WINDOW_S = 3;
const SETTLE_MS = 900;
/** The weather moves the height as well: what was taken in peace holds so long, s. */
const PEACE_S = 50;
/** Slower air than this tells nothing of what it does at cruise; a table fan near by makes about so much, m/s. */
const LEAST_MPS = 3;
const FAN_MPS = 5;

/** Heights of the newest pressures, m. */
export const heightsOf = (ring: StreamRing, hz: number, seconds: number) =>
  Array.from(ring.newest(0, Math.round(seconds * hz)), (p) => heightOfPressure(p));

const sinceS = (at: number) => (performance.now() - at) / 1000;

/** What wind and light do to the barometer: in peace first, then disturbed. */
export function Disturbed({ ring, hz }: { readonly ring: StreamRing; readonly hz: number }) {
  const units = useApp((s) => s.ui.units);
  const values = useApp(selectValues);
  const tube = useStreamRing('airspeed', hz, 1, WINDOW_S);
  const slip = useApp((s) => s.craft.proofs.find((p) => p.id === 'slipstream'));
  const cruise = settingOf(values, 'nav.speed') ?? Number.NaN;
  const hasTube = settingOf(values, 'pitot.fitted') === true;
  /** How fast the air is that it is blown at with, where no tube says so. */
  const [blown, setBlown] = useState(FAN_MPS);
  const [peace, setPeace] = useState<{ readonly heights: readonly number[]; readonly at: number } | null>(
    null,
  );
  const [taking, setTaking] = useState<'wind' | 'light' | null>(null);
  const [lightM, setLightM] = useState<number | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const now = useSampled(
    () => ({
      enough: ring.unbroken >= WINDOW_S * hz,
      // Of another power-up, or another chip, it says nothing.
      lasts: peace !== null && ring.unbroken / hz > sinceS(peace.at) && sinceS(peace.at) < PEACE_S,
    }),
    400,
  );
  const lasts = peace !== null && now.lasts;
  const m = (v: number) => formatQuantity(v, 'm', units, 1);
  const windMps = () =>
    airspeedOfPressure(mean(tube.ring.newest(0, WINDOW_S * hz)) - (settingOf(values, 'pitot.zero') ?? 0));

  const takePeace = () => {
    const wind = hasTube ? windMps() : 0;
    if (wind > LEAST_MPS) {
      setSaid(`It is not in peace: the tube feels ${formatQuantity(wind, 'm/s', units, 1)} of wind.`);
      return;
    }
    setSaid(null);
    setPeace({ heights: heightsOf(ring, hz, WINDOW_S), at: performance.now() });
  };
  const disturb = async (how: 'wind' | 'light') => {
    if (!peace) return;
    setTaking(how);
    setSaid(null);
    await new Promise((r) => setTimeout(r, SETTLE_MS + 1000 * WINDOW_S));
    setTaking(null);
    const speed = how === 'light' ? Number.NaN : hasTube ? windMps() : blown;
    if (how === 'wind' && !(speed > LEAST_MPS)) {
      setSaid('Nothing blew: the tube felt no wind. Turn the fan on first, or blow harder, from the front.');
      return;
    }
    const result = disturbedBy(peace.heights, heightsOf(ring, hz, WINDOW_S), { speed, cruise });
    if ('refused' in result) setSaid(result.refused);
    else if (how === 'light') setLightM(result.shiftM);
    else {
      const { shiftM, atCruiseM, verdict } = result;
      recordProof({ kind: 'slipstream', shiftM, atCruiseM, verdict });
    }
  };
  const pulled = slip?.seen.kind === 'slipstream' ? slip.seen : null;
  return (
    <section className="mt-3 border-t border-line pt-3">
      <h2 className="font-semibold">Blown and shone at</h2>
      {pulled && (
        <div className="mt-1">
          <Figure value={m(pulled.shiftM)} words="while it was blown at" />
          <Figure value={m(pulled.atCruiseM)} words="at cruise" />
          <p className={pulled.verdict === 'shielded' ? 'text-forest' : 'text-amber'}>
            {pulled.verdict === 'shielded'
              ? 'The airflow hardly reaches it.'
              : 'The slipstream pulls at it: put open foam over the chip, and close the gap that the air comes in by.'}
          </p>
        </div>
      )}
      <p className="text-soft" role="status">
        {taking
          ? 'Listening; keep it so.'
          : lasts
            ? `Taken in peace. Now let a fan blow at the nose, or a lamp shine at it.${
                hasTube ? ' The tube says how fast the air is.' : ''
              }`
            : 'First as it is in peace: no fan, no lamp, no breath.'}
      </p>
      <div className="mt-2 flex flex-wrap items-center justify-end gap-x-3 gap-y-2">
        {!hasTube && (
          <span className="mr-auto flex items-center gap-2 text-soft">
            The fan’s air has
            <QuantityField
              label="Air of the fan"
              value={blown}
              unit="m/s"
              min={LEAST_MPS}
              max={40}
              step={0.5}
              onChange={setBlown}
            />
          </span>
        )}
        <Button kind={lasts ? 'plain' : 'go'} disabled={taking !== null || !now.enough} onClick={takePeace}>
          It is in peace
        </Button>
        <Button disabled={taking !== null || !lasts} onClick={() => void disturb('light')}>
          It shines now
        </Button>
        <Button
          kind={lasts ? 'go' : 'plain'}
          disabled={taking !== null || !lasts || Number.isNaN(cruise)}
          onClick={() => void disturb('wind')}
        >
          It blows now
        </Button>
      </div>
      {lightM !== null && (
        <p className={Math.abs(lightM) > 1 ? 'text-amber' : 'text-forest'} role="status">
          Light moves it by {m(lightM)}.{' '}
          {Math.abs(lightM) > 1
            ? 'A chip under a clear canopy does that with every turn to the sun: cover it.'
            : 'Light does nothing to it.'}
        </p>
      )}
      {said && (
        <p className="text-amber" role="alert">
          {said}
        </p>
      )}
    </section>
  );
}
