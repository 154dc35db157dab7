import { useState } from 'react';
import { mean } from '#core/analysis/spread.ts';
import { BARO_LEAST_S, baroAtRest, disturbedBy } from '#core/calibration/airWatch.ts';
import {
  airspeedOfPressure,
  dayFromField,
  heightOfPressure,
  STANDARD_DAY,
  standardAir,
  temperatureOn,
} from '#core/flight/atmosphere.ts';
import { settingOf } from '#core/settings/typed.ts';
import { displayOf, formatQuantity } from '#core/units/units.ts';
import type { StreamRing } from '#link/streamRing.ts';
import { useSampled } from '../../live/hooks.ts';
import { useStreamRing } from '../../live/streams.ts';
import { recordProof } from '../../session.ts';
import { scenarioChanged } from '../../store/rehearsalSlice.ts';
import { selectValues } from '../../store/selectors.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { LivePlot } from '../../ui/LivePlot.tsx';
import { QuantityField } from '../../ui/Quantity.tsx';
import { Lead } from '../Lead.tsx';
import { Figure } from './Figure.tsx';
import { OpticalFlow, Range } from './LowSensors.tsx';
import { useProven } from './useGestures.ts';

const HZ = 25;
const SHOWN_S = 60;
/** Before and during a disturbance, s; hands take a moment to begin. */
const WINDOW_S = 3;
const SETTLE_MS = 900;
/** Slower air than this tells nothing of what it does at cruise; a table fan near by makes about so much, m/s. */
const LEAST_MPS = 3;
const FAN_MPS = 5;

/** Heights of the newest pressures, m. */
const heights = (ring: StreamRing, seconds: number) =>
  Array.from(ring.newest(0, Math.round(seconds * HZ)), (p) => heightOfPressure(p));

/** The barometer at rest and disturbed, and the rangefinder where there is one. */
export default function AirStation() {
  const units = useApp((s) => s.ui.units);
  const values = useApp(selectValues);
  const { ring, fault } = useStreamRing('barometer', HZ, 1, SHOWN_S);
  const tube = useStreamRing('airspeed', HZ, 1, WINDOW_S);
  const rest = useProven('baro');
  const slip = useApp((s) => s.craft.proofs.find((p) => p.id === 'slipstream'));
  const [said, setSaid] = useState<string | null>(null);
  const [taking, setTaking] = useState(false);
  const seconds = useSampled(() => ring.unbroken / HZ, 400);
  const cruise = settingOf(values, 'nav.speed') ?? Number.NaN;
  const hasTube = settingOf(values, 'pitot.fitted') === true;
  /** How fast the air is that it is blown at with, where no tube says so. */
  const [blown, setBlown] = useState(FAN_MPS);
  const { symbol, factor } = displayOf('m', units);
  const m = (v: number, digits = 2) => formatQuantity(v, 'm', units, digits);

  const takeRest = () => {
    const result = baroAtRest(heights(ring, Math.min(SHOWN_S, ring.unbroken / HZ)), HZ);
    if ('refused' in result) {
      setSaid(result.refused);
      return;
    }
    setSaid(null);
    const { noiseM, driftMPerMin, verdict } = result;
    recordProof({ kind: 'baro', noiseM, driftMPerMin, verdict });
  };
  const [lampM, setLampM] = useState<number | null>(null);
  const disturb = async (how: 'wind' | 'lamp') => {
    const before = heights(ring, WINDOW_S);
    setTaking(true);
    setSaid(null);
    await new Promise((r) => setTimeout(r, SETTLE_MS + 1000 * WINDOW_S));
    setTaking(false);
    const during = heights(ring, WINDOW_S);
    const zero = settingOf(values, 'pitot.zero') ?? 0;
    const felt = hasTube ? airspeedOfPressure(mean(tube.ring.newest(0, WINDOW_S * HZ)) - zero) : blown;
    if (how === 'wind' && !(felt > LEAST_MPS)) {
      setSaid('Nothing blew: the tube felt no wind. Turn the fan on first, or blow harder, from the front.');
      return;
    }
    const speed = how === 'wind' ? felt : Number.NaN;
    const result = disturbedBy(before, during, { speed, cruise });
    if ('refused' in result) {
      setSaid(result.refused);
      return;
    }
    if (how === 'lamp') {
      setLampM(result.shiftM);
      return;
    }
    recordProof({
      kind: 'slipstream',
      shiftM: result.shiftM,
      atCruiseM: result.atCruiseM,
      verdict: result.verdict,
    });
  };
  const still = rest?.seen.kind === 'baro' ? rest.seen : null;
  const pulled = slip?.seen.kind === 'slipstream' ? slip.seen : null;
  return (
    <>
      <Lead />
      <div className="mt-2">
        {fault ? (
          <p role="alert" className="text-red">
            {fault}
          </p>
        ) : seconds === 0 ? (
          <p role="status" className="text-soft">
            Nothing comes from the barometer. Where it has power from the battery only, plug that in; else it
            is dead, and The board says what answers.
          </p>
        ) : null}
        <LivePlot
          label="Height by the barometer, over the last minute"
          lines={[{ name: 'height by the barometer', token: '--lake' }]}
          unit={symbol}
          heightPx={170}
          read={() => {
            const all = heights(ring, SHOWN_S);
            const base = all[0] ?? 0;
            return [all.map((_, i) => (i - all.length + 1) / HZ), all.map((h) => (h - base) * factor)];
          }}
        />
      </div>
      <Weather ring={ring} />
      <section className="mt-2 flex flex-wrap items-center gap-x-6 gap-y-2 border-t border-line pt-3">
        <div className="min-w-[240px] flex-1">
          <h2 className="font-semibold">Left alone</h2>
          {still ? (
            <p className="mt-1">
              <Figure value={m(still.noiseM)} words="of noise" />
              <Figure value={m(still.driftMPerMin)} words="of drift a minute" />
              <span className={still.verdict === 'good' ? 'text-forest' : 'text-amber'}>
                {still.verdict === 'good'
                  ? 'As a good chip.'
                  : still.verdict === 'drifts'
                    ? 'It drifts: let it warm up, and arm only then; height counts from arming.'
                    : 'Loud: something blows or knocks at it even now, or it is broken.'}
              </span>
            </p>
          ) : (
            <p className="text-soft" role="status">
              {seconds < BARO_LEAST_S
                ? `${seconds.toFixed(0)} of ${BARO_LEAST_S} s heard. Doors shut, hands off.`
                : `${seconds.toFixed(0)} s are there. Was it left alone all the while?`}
            </p>
          )}
        </div>
        <Button kind={still ? 'plain' : 'go'} disabled={seconds < BARO_LEAST_S} onClick={takeRest}>
          {still ? 'Measure again' : 'It was left alone'}
        </Button>
      </section>
      <section className="mt-3 border-t border-line pt-3">
        <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
          <div className="min-w-[240px] flex-1">
            <h2 className="font-semibold">Blown at</h2>
            {pulled ? (
              <p className="mt-1">
                <Figure value={m(pulled.shiftM, 1)} words="while it was blown at" />
                <Figure value={m(pulled.atCruiseM, 1)} words="at cruise" />
                <span className={pulled.verdict === 'shielded' ? 'text-forest' : 'text-amber'}>
                  {pulled.verdict === 'shielded'
                    ? 'The airflow hardly reaches it.'
                    : 'The slipstream pulls at it: put open foam over the chip, and close the gap that the air comes in by.'}
                </span>
              </p>
            ) : (
              <p className="text-soft" role="status">
                Point a fan at the nose, let it run, then press.{' '}
                {hasTube ? 'The tube says how fast the air is.' : 'Without a tube say how fast its air is.'}
              </p>
            )}
          </div>
          {!hasTube && (
            <QuantityField
              label="Air of the fan"
              value={blown}
              unit="m/s"
              min={LEAST_MPS}
              max={40}
              step={0.5}
              onChange={setBlown}
            />
          )}
          <Button disabled={taking || seconds < WINDOW_S} onClick={() => void disturb('lamp')}>
            {taking ? 'Listening…' : 'I shine at it now'}
          </Button>
          <Button
            kind={pulled ? 'plain' : 'go'}
            disabled={taking || seconds < WINDOW_S || Number.isNaN(cruise)}
            onClick={() => void disturb('wind')}
          >
            {taking ? 'Listening…' : 'I blow at it now'}
          </Button>
        </div>
        {lampM !== null && (
          <p className={Math.abs(lampM) > 1 ? 'text-amber' : 'text-forest'} role="status">
            Light moves it by {m(lampM, 1)}.{' '}
            {Math.abs(lampM) > 1
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
      {settingOf(values, 'range.fitted') === true && <Range />}
      {settingOf(values, 'flow.fitted') === true && <OpticalFlow />}
    </>
  );
}

/** From so far apart the rehearsed air is another than that outside, hPa. */
const WEATHER_HPA = 2;

/** The day's pressure at the site, for the flights that are rehearsed there. */
function Weather({ ring }: { readonly ring: StreamRing }) {
  const site = useApp((s) => s.site.current);
  const drafted = useApp((s) => s.rehearsal.scenario.air);
  const dispatch = useAppDispatch();
  const pascal = useSampled(() => (ring.unbroken > HZ ? mean(ring.newest(0, HZ)) : Number.NaN), 1000);
  if (!site || Number.isNaN(pascal)) return null;
  const { heightM } = site.home;
  const air = drafted ?? site.air ?? standardAir(heightM);
  const sea = dayFromField(heightM, pascal, temperatureOn(STANDARD_DAY, heightM)).pressurePa / 100;
  const here = Math.round(pascal / 100);
  const other = Math.abs(here - air.pressureHpa) > WEATHER_HPA;
  return (
    <p className="mt-1 flex flex-wrap items-center gap-x-4 text-[13px] text-soft">
      <span>
        <span className="num">{(pascal / 100).toFixed(1)}</span> hPa here, which at {site.name} is{' '}
        <span className="num">{sea.toFixed(0)}</span> hPa at sea level.
      </span>
      {other && here >= 870 && here <= 1085 && (
        <Button kind="flat" onClick={() => dispatch(scenarioChanged({ air: { ...air, pressureHpa: here } }))}>
          Rehearse in this weather
        </Button>
      )}
    </p>
  );
}
