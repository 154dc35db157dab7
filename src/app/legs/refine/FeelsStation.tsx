import { useMemo, useState } from 'react';
import { type Feel, type FeelId, feelEdits, feelOf } from '#core/answers/feel.ts';
import { inSet } from '#core/control/controlSet.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { formatNumber, formatQuantity, type UnitSystem } from '#core/units/units.ts';
import { selectCatalogue, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { RadioCards } from '../../ui/RadioCards.tsx';
import { AnySettingField } from '../../ui/SettingField.tsx';
import { Lead } from '../Lead.tsx';
import { SetsTable } from './feels/SetsTable.tsx';
import { StickCurves } from './feels/StickCurves.tsx';
import { TurnPicture } from './feels/TurnPicture.tsx';

const limits = [
  ['level.bank', 'leans at most'],
  ['level.up', 'nose up at most'],
  ['level.down', 'nose down at most'],
  ['level.time', 'gets there in about'],
] as const;

const feels: readonly { readonly id: FeelId; readonly name: string; readonly about: string }[] = [
  { id: 'calm', name: 'Calm survey', about: 'wide turns, slow sticks, far from its limits' },
  { id: 'learner', name: 'Learner', about: 'soft about the middle, turns that forgive' },
  { id: 'brisk', name: 'Brisk', about: 'what its surfaces or rotors give, near enough' },
];

/** How far below this it stalls in a turn before one has noticed. */
const LEAST_MARGIN = 1.2;

/** Rates, softness and limits of a control set, and what they are in the air. */
export default function FeelsStation() {
  const dispatch = useAppDispatch();
  const units = useApp((s) => s.ui.units);
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const flown = Number(settingsOf(values).choice('set.active'));
  const [set, setSet] = useState<number>(flown || 1);
  const sets = [1, 2, 3].filter((n) => catalogue.entry(inSet('rate.roll.max', n)));
  const feel = useMemo(() => feelOf(airframe, values, set), [airframe, values, set]);
  const offers = useMemo(
    () =>
      feels.map((f) => {
        const edits = Object.entries(feelEdits(airframe, values, f.id, set));
        return { ...f, edits: Object.fromEntries(edits.filter(([key]) => catalogue.entry(key))) };
      }),
    [airframe, values, set, catalogue],
  );
  return (
    <>
      <Lead />
      <RadioCards
        label="Control set"
        className="mt-3 flex flex-wrap gap-2"
        value={String(set)}
        cards={sets.map((n) => ({ id: String(n), name: `Set ${n}`, after: n === flown ? 'flown' : '' }))}
        onChange={(id) => setSet(Number(id))}
      />
      <div className="mt-3 grid gap-x-8 gap-y-4 min-[900px]:grid-cols-[280px_minmax(0,1fr)]">
        <TurnPicture airframe={airframe} feel={feel} />
        <div>
          <dl className="flex flex-wrap gap-x-8 gap-y-3">
            {limits.map(([key, name]) => (
              <div key={key}>
                <dt className="text-soft">{name}</dt>
                <dd>
                  <AnySettingField name={inSet(key, set)} size="large" />
                </dd>
              </div>
            ))}
          </dl>
          <Meaning feel={feel} units={units} />
        </div>
      </div>
      <section aria-label="Feels worked out for this craft" className="mt-4 border-line border-t pt-3">
        <h2 className="font-semibold">Worked out for this craft</h2>
        <div className="mt-2 grid gap-x-8 gap-y-3 min-[800px]:grid-cols-3">
          {offers.map(({ id, name, about, edits }) => {
            const changes = Object.entries(edits).filter(([key, value]) => values[key] !== value).length;
            return (
              <div key={id}>
                <Button disabled={changes === 0} onClick={() => dispatch(staged(edits))}>
                  {name}
                </Button>
                <p className="mt-1 text-[13px] text-soft">
                  {about}: <span className="num">{String(edits[inSet('rate.roll.max', set)])}°/s</span> of
                  roll, <span className="num">{String(edits[inSet('level.bank', set)])}°</span> of bank
                  {changes === 0 && '. It is so'}
                </p>
              </div>
            );
          })}
        </div>
      </section>
      <StickCurves set={set} />
      {sets.length > 1 && <SetsTable sets={sets} />}
    </>
  );
}

/** What the limits are in the air, in sentences. */
function Meaning({
  feel: { wing, rotors, bankDeg, load },
  units,
}: {
  readonly feel: Feel;
  readonly units: UnitSystem;
}) {
  const speed = (mps: number) => formatQuantity(mps, 'm/s', units, 1);
  const way = (m: number) => formatQuantity(m, 'm', units, 0);
  if (wing) {
    const near = wing.margin < LEAST_MARGIN;
    return (
      <p role="status" className="mt-3 max-w-[560px]">
        Leant over to {formatNumber(bankDeg, 0)}° at its cruise of {speed(wing.cruiseMps)} it flies a circle
        of {way(wing.radiusM)} radius in {formatNumber(wing.circleS, 0)} s, {formatNumber(load, 2)} times its
        weight on the wing.{' '}
        <span className={near ? 'font-medium text-amber' : ''}>
          In that turn it stalls at {speed(wing.stallMps)}: it cruises {formatNumber(wing.margin, 2)} times as
          fast
          {wing.margin < 1 ? '. It falls out of such a turn.' : near ? ', which a gust takes away.' : '.'}
        </span>
      </p>
    );
  }
  const over = bankDeg > rotors!.holdsDeg;
  return (
    <p role="status" className="mt-3 max-w-[560px]">
      {rotors!.fast &&
        `Leant over to ${formatNumber(bankDeg, 0)}° it comes to ${speed(rotors!.fast.topMps)} in still air, and from there stops in about ${way(rotors!.fast.brakesM)}. `}
      <span className={over ? 'font-medium text-amber' : ''}>
        Up to {formatNumber(rotors!.holdsDeg, 0)}° its rotors hold its height
        {over ? ': beyond that it sinks.' : ' with some to steer by.'}
      </span>
    </p>
  );
}
