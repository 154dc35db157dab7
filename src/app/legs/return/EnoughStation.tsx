import { useEffect, useState } from 'react';
import { coldShare, type LowMark, type OutFlight } from '#core/reach/turnBack.ts';
import { settingOf } from '#core/settings/typed.ts';
import { formatDuration, formatQuantity } from '#core/units/units.ts';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { scenarioChanged } from '../../store/rehearsalSlice.ts';
import { selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Named } from '../../ui/Named.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { QuantityField } from '../../ui/Quantity.tsx';
import { RadioCards } from '../../ui/RadioCards.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { workshop } from '../../workers/index.ts';
import { Lead } from '../Lead.tsx';
import { OutChart } from './enough/OutChart.tsx';
import { useReachInput } from './reach/useReach.ts';
import { WindSpeed } from './WindSpeed.tsx';

const WARM_C = 20;

const watchWords: Readonly<Record<LowMark['watch'], { readonly name: string; readonly after: string }>> = {
  home: { name: 'The way home', after: 'what it takes from here, against this wind, and what is to be left' },
  charge: { name: 'The charge', after: 'what is left of the capacity, wherever it is' },
  volts: { name: 'The voltage', after: 'a cell under load below the low mark for five seconds' },
};
const watches = ['home', 'charge', 'volts'] as const;

/** When the battery is said to be low on a flight straight out, and whether it comes home from there. */
export default function EnoughStation() {
  const dispatch = useAppDispatch();
  const units = useApp((s) => s.ui.units);
  const values = useApp(selectValues);
  const bearing = useApp((s) => s.rehearsal.scenario.outbound.bearingDeg);
  const outbound = useApp((s) => s.rehearsal.scenario.outbound);
  const wind = useApp((s) => s.rehearsal.scenario.wind);
  const sag = useApp((s) => s.craft.proofs.find((p) => p.id === 'sag')?.seen);
  const ohm = sag?.kind === 'sag' ? sag.ohms : null;
  const [cellsC, setCellsC] = useState(WARM_C);
  const asked = useReachInput();
  const [flight, setFlight] = useState<OutFlight | null>(null);
  useEffect(() => {
    let there = true;
    const later = setTimeout(async () => {
      const found = await workshop()
        .flyOut(asked, bearing, { cellsC, ohm })
        .catch(() => null);
      if (there) setFlight(found);
    }, 120);
    return () => {
      there = false;
      clearTimeout(later);
    };
  }, [asked, bearing, cellsC, ohm]);
  const watch = settingOf(values, 'battery.watch') ?? 'volts';
  const returns = settingOf(values, 'battery.lowAction') === 'return';
  const comesDown = settingOf(values, 'battery.emptyAction') === 'down';
  const reserve = settingOf(values, 'battery.reserve') ?? 0.2;
  const blind = watch === 'home' && settingOf(values, 'battery.homeCurrent') === 0;
  const mark = (w: LowMark['watch']) => flight?.marks.find((m) => m.watch === w)?.at ?? null;
  const chosen = mark(watch);
  return (
    <>
      <Lead />
      <p className="mt-2" role="status">
        {!flight
          ? ''
          : flight.points.length < 2
            ? 'Like this it cannot hold its height at the speed of its cruise.'
            : !chosen
              ? 'On this flight the battery is never said to be low.'
              : `On this flight it is said to be low after ${formatDuration(chosen.seconds)}, ${formatQuantity(chosen.distanceM, 'm', units, 0)} out. ${
                  chosen.homeShare <= 0
                    ? 'From there it does not come home any more.'
                    : `Turned then, ${Math.round(100 * chosen.homeShare)} % are left above home${chosen.homeShare < reserve - 0.01 ? `, less than the ${Math.round(100 * reserve)} % that are to be left` : ''}.`
                }${returns ? '' : ' It only says so: nobody turns it back but the pilot.'}`}
      </p>
      <Stages flight={flight} comesDown={comesDown} />
      <OnBoard />
      {blind && (
        <Notice className="mt-2">
          The board was never told what the way home takes, so it goes by the voltage. Take the starting
          values of this craft, or type the current.
        </Notice>
      )}
      {flight && flight.points.length > 1 && (
        <OutChart flight={flight} watch={watch} reserve={reserve} comesDown={comesDown} />
      )}
      <dl className="mt-2 grid max-w-[760px] grid-cols-2 gap-x-6 gap-y-2 min-[900px]:grid-cols-4 [&_dt]:text-soft">
        <Named name="Out on bearing">
          <QuantityField
            label="Out on bearing"
            unit="deg"
            value={bearing}
            min={0}
            max={360}
            step={5}
            onChange={(b) =>
              dispatch(scenarioChanged({ outbound: { ...outbound, bearingDeg: Math.round(b) % 360 } }))
            }
          />
        </Named>
        <Named name="Wind">
          <WindSpeed label="Wind" /> <span className="text-soft">from {wind.fromDeg}°</span>
        </Named>
        <Named name="The cells have">
          <QuantityField
            label="The cells have"
            unit="degc"
            value={cellsC}
            min={-20}
            max={45}
            step={5}
            onChange={setCellsC}
          />
          {cellsC < WARM_C && (
            <span className="block text-[13px] text-faint leading-4">
              {Math.round(100 * coldShare(cellsC))} % of their warm charge
            </span>
          )}
        </Named>
        <Named name="Resistance of the pack">
          {ohm === null ? (
            <span className="text-soft">as described; measure it at Volts and amps</span>
          ) : (
            <span className="num">{Math.round(1000 * ohm)} mΩ, measured</span>
          )}
        </Named>
      </dl>
      <RadioCards
        label="The battery is low by"
        className="mt-4 grid max-w-[760px] grid-cols-3 gap-2"
        value={watch}
        cards={watches.map((id) => ({ id, ...watchWords[id] }))}
        onChange={(id) => dispatch(staged({ 'battery.watch': id }))}
      />
      <dl className="mt-4 grid max-w-[760px] grid-cols-2 gap-x-6 gap-y-3 border-line border-t pt-3 min-[900px]:grid-cols-3 [&_dt]:text-soft">
        {(
          [
            ['battery.lowAction', 'Once it is low'],
            ['battery.emptyAction', 'Once it is empty'],
            ['battery.reserve', 'Charge to be left, share'],
            ['battery.low', 'A cell is low at'],
            ['battery.homeCurrent', 'Current on the way home'],
            ['battery.climbCharge', 'Charge of a climb, each hundred metres'],
            ['battery.chemistry', 'Chemistry'],
          ] as const
        ).map(([key, name]) => (
          <Named key={key} name={name}>
            <SettingField name={key} />
          </Named>
        ))}
      </dl>
    </>
  );
}

/** The last stage: where the battery is empty if nothing turned it back, and what the board does then. */
function Stages({ flight, comesDown }: { readonly flight: OutFlight | null; readonly comesDown: boolean }) {
  const units = useApp((s) => s.ui.units);
  const empty = flight?.empty;
  if (!empty) return null;
  return (
    <p className="text-soft">
      If nothing turned it back it is empty after {formatDuration(empty.seconds)},{' '}
      {formatQuantity(empty.distanceM, 'm', units, 0)} out
      {comesDown
        ? ', and comes down there while it still can.'
        : ': it flies on until the motors stop, unless it is set to come down.'}
    </p>
  );
}

/** What the board on the cable reckons now. */
function OnBoard() {
  const units = useApp((s) => s.ui.units);
  const charge = useSampled(() => live('charge'), 500);
  if (!charge || charge.leftMah === null) return null;
  const q = (mah: number) => formatQuantity(mah, 'mah', units, 0);
  return (
    <p role="status" aria-label="What the board reckons">
      <b className="font-semibold text-lake">Now on the board:</b> {q(charge.leftMah)} left,{' '}
      {charge.needMah === null ? 'the way home not known' : `${q(charge.needMah)} for the way home`},{' '}
      {q(charge.reserveMah)} to be left. The battery is {charge.stage}.
    </p>
  );
}
