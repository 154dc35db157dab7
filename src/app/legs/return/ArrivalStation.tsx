import { useMemo, useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { verdictWords } from '#core/formats/rehearsalResult.ts';
import { staleWords } from '#core/proofs/proofs.ts';
import { APPROACH_ROOM_M, ARRIVAL_WINDS_DEG, approachOf } from '#core/reach/arrivals.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { GROUND_UNKNOWN } from '#core/site/site.ts';
import { formatQuantity } from '#core/units/units.ts';
import { selectCatalogue, selectProofWorld, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Named } from '../../ui/Named.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { RadioCards } from '../../ui/RadioCards.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Told } from '../../ui/Told.tsx';
import { Lead } from '../Lead.tsx';
import { HomePlan } from './arrival/HomePlan.tsx';
import { type Arrived, useArrivals } from './arrival/useArrivals.ts';
import { WindSpeed } from './WindSpeed.tsx';

const LEAST_HALF_M = 150;

const wingLanding = [
  ['land.height', 'Approach from'],
  ['land.along', 'Along'],
  ['land.strip', 'Bearing of the strip'],
  ['land.slope', 'Slope'],
  ['land.speed', 'Speed'],
  ['land.flare', 'Flare below'],
  ['land.pitch', 'Nose in the flare'],
  ['land.disarm', 'Disarm after'],
] as const;
const rotorLanding = [
  ['hover.land', 'Sink near the ground'],
  ['nav.sink', 'Sink higher up'],
  ['land.disarm', 'Disarm after'],
] as const;
const circling = [
  ['return.arrivalHeight', 'Height of the low circle'],
  ['loiter.radius', 'Radius'],
  ['loiter.sense', 'Way round'],
] as const;

/** What it does above home, drawn on the site and flown in eight winds. */
export default function ArrivalStation() {
  const dispatch = useAppDispatch();
  const units = useApp((s) => s.ui.units);
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const site = useApp((s) => s.site.current)!;
  const rotors = useApp((s) => isRotorcraft(s.craft.airframe!));
  const world = useApp(selectProofWorld)!;
  const proof = useApp((s) => s.craft.proofs.find((p) => p.id === 'arrival'));
  const stale = staleWords(proof, world);
  const arrivals = useArrivals();
  const [picked, setPicked] = useState<number | null>(null);
  const s = settingsOf(values);
  const alongStrip = s.choice('land.along') === 'strip';
  const arrival = s.choice('return.arrival');
  const landing = rotors ? rotorLanding : wingLanding.filter(([key]) => key !== 'land.strip' || alongStrip);
  const asked = arrival === 'land' ? landing : circling;
  const radiusM = rotors ? 25 : s.number('loiter.radius');
  const approaches = useMemo(
    () =>
      arrival === 'land' && !rotors ? ARRIVAL_WINDS_DEG.map((deg) => approachOf(values, site, deg)) : [],
    [arrival, rotors, values, site],
  );
  const flown = arrivals.values === values ? arrivals.flown : [];
  const reach = Math.max(
    1.6 * radiusM,
    ...approaches.map((a) => 1.1 * Math.hypot(a.gate[0], a.gate[1])),
    ...flown.map((f) => Math.min(1500, 1.15 * Math.hypot(f.end[0], f.end[1]))),
  );
  const tight = approaches.filter((a) => a.clearanceM < APPROACH_ROOM_M);
  const down = flown.filter((f) => arrival === 'land' && f.verdict === 'home');
  const off = down.map((f) => Math.hypot(f.end[0], f.end[1]));
  const here = flown.find((f) => f.fromDeg === picked);
  const held = rotors && arrival !== 'land' ? heldOf(flown.filter((f) => f.verdict === 'home')) : null;
  return (
    <>
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead />
          {!site.terrain.known && <p className="mt-1 text-amber">{GROUND_UNKNOWN}</p>}
        </div>
        {arrivals.flying ? (
          <Button onClick={arrivals.stop}>Stop</Button>
        ) : (
          <Button kind="go" onClick={() => void arrivals.fly()}>
            Fly eight winds
          </Button>
        )}
      </div>
      <RadioCards
        label="On arrival"
        className="mt-3 grid max-w-[860px] grid-cols-3 gap-2"
        value={arrival}
        cards={(catalogue.entry('return.arrival')?.choices ?? []).map((c) => ({
          id: c.value,
          name: c.label,
        }))}
        onChange={(id) => dispatch(staged({ 'return.arrival': id }))}
      />
      <div className="mt-3 grid gap-x-6 gap-y-3 min-[900px]:grid-cols-[minmax(0,440px)_1fr]">
        <HomePlan
          site={site}
          halfM={Math.max(LEAST_HALF_M, reach)}
          radiusM={radiusM}
          approaches={approaches}
          flown={flown}
          picked={picked}
          onPick={(deg) => setPicked(deg === picked ? null : deg)}
        />
        <div>
          <p role="status">
            {arrivals.flying
              ? `${arrivals.flown.length} of ${ARRIVAL_WINDS_DEG.length} flown.`
              : flown.length > 0
                ? `${flown.filter((f) => f.verdict === 'home').length} of ${flown.length} come home${
                    off.length > 0
                      ? `; they touch down up to ${formatQuantity(Math.max(...off), 'm', units, 0)} from home, ${formatQuantity(off.reduce((a, b) => a + b, 0) / off.length, 'm', units, 0)} in the mean`
                      : ''
                  }.${held ? ` Above home they keep their place within ${formatQuantity(held.mostM, 'm', units, 1)}, ${formatQuantity(held.meanM, 'm', units, 1)} in the mean.` : ''}`
                : proof?.seen.kind === 'arrival'
                  ? `Last flown: home in ${proof.seen.home} of ${proof.seen.total} winds.`
                  : 'Not flown yet.'}
            {!arrivals.flying && proof && stale && (
              <b className="font-medium text-red"> Since then {stale}.</b>
            )}
          </p>
          {arrivals.fault && <Notice className="mt-2">{arrivals.fault}</Notice>}
          {here && (
            <p className="mt-2">
              Wind from {here.fromDeg}°:{' '}
              <b className={`font-semibold ${here.verdict === 'home' ? 'text-forest' : 'text-red'}`}>
                {verdictWords[here.verdict].toLowerCase()}
              </b>
              . <Told>{here.reason}</Told>
            </p>
          )}
          {tight.length > 0 && site.terrain.known && (
            <p className="mt-2 text-red">
              With wind from {tight.map((a) => `${a.fromDeg}°`).join(', ')} the slope comes within{' '}
              {formatQuantity(Math.max(0, Math.min(...tight.map((a) => a.clearanceM))), 'm', units, 0)} of the
              ground or of what stands on it: make it steeper, or circle.
            </p>
          )}
          <dl className="mt-3 grid grid-cols-2 gap-x-6 gap-y-3 [&_dt]:text-soft [&_select]:max-w-full">
            {asked.map(([key, name]) => (
              <Named key={key} name={name}>
                <SettingField name={key} />
              </Named>
            ))}
            <Named name="Wind that is flown in">
              <WindSpeed label="Wind that is flown in" />
            </Named>
          </dl>
          {arrival === 'land' && !rotors && (
            <p className="mt-3 text-soft">
              It circles down above home, flies to where the approach begins, downwind, and comes in{' '}
              {alongStrip
                ? 'along the strip, by the end that has more of the wind ahead'
                : 'against the wind'}
              . Too high, beside the line or too slow it goes round, three times at most; then it circles.
            </p>
          )}
        </div>
      </div>
    </>
  );
}

/** So much of the end of a flight is hovered above home: twice a second. */
const HELD_SAMPLES = 40;

/** How well rotors kept their place above home in their winds and gusts, m from the middle of where they hovered; null where none did. */
function heldOf(
  flown: readonly Pick<Arrived, 'way'>[],
): { readonly meanM: number; readonly mostM: number } | null {
  const off = flown.flatMap(({ way }) => {
    const last = way.slice(-HELD_SAMPLES);
    if (last.length < HELD_SAMPLES) return [];
    const mean = (k: 0 | 1) => last.reduce((sum, p) => sum + p[k], 0) / last.length;
    const [e, n] = [mean(0), mean(1)];
    return last.map((p) => Math.hypot(p[0] - e, p[1] - n));
  });
  if (off.length === 0) return null;
  return { meanM: off.reduce((a, b) => a + b, 0) / off.length, mostM: Math.max(...off) };
}
