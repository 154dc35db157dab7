import { useEffect, useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import {
  broughtConventions,
  cannotCarry,
  type Elsewhere,
  newConvention,
  takeOver,
} from '#core/answers/conventions.ts';
import type { Convention } from '#core/formats/convention.ts';
import { type Axis, axes } from '#core/mixer/authority.ts';
import { dropConvention, isBroughtConvention, keepConvention, keptConventions } from '../../conventions.ts';
import { selectCatalogue, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { RadioCards } from '../../ui/RadioCards.tsx';
import { Select } from '../../ui/Select.tsx';
import { Lead } from '../Lead.tsx';
import { MeaningForm } from './elsewhere/MeaningForm.tsx';
import { MeasurePart } from './elsewhere/MeasurePart.tsx';
import { NumbersTable } from './elsewhere/NumbersTable.tsx';

const OWN = 'a scale of its own';
const nothing: Elsewhere = {};

/** Gains of another scale, taken over by meaning. */
export default function FromElsewhereStation() {
  const dispatch = useAppDispatch();
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const [kept, setKept] = useState<readonly Convention[]>([]);
  const [convention, setConvention] = useState<Convention>(broughtConventions[0]!);
  const [name, setName] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const [axis, setAxis] = useState<Axis>('roll');
  const [all, setAll] = useState<Readonly<Record<Axis, Elsewhere>>>({
    roll: nothing,
    pitch: nothing,
    yaw: nothing,
  });
  const reload = () =>
    keptConventions().then(setKept, (error) =>
      setFault(error instanceof Error ? error.message : String(error)),
    );
  useEffect(() => {
    void reload();
  }, []);
  const rotors = isRotorcraft(airframe);
  const known = [...broughtConventions, ...kept];
  const written = all[axis];
  const taken = takeOver(convention, written, axis, values, rotors);
  const fits = taken.filter(({ key, value }) => catalogue.checkValue(key, value) === null);
  const lost = taken.length > 0 ? cannotCarry(convention, written, rotors) : [];
  const choose = (to: string) => {
    const found = known.find((c) => c.name === to);
    setConvention(found ?? newConvention(OWN));
    setName(found && !isBroughtConvention(to) ? to : '');
  };
  const isOne = known.some((c) => c.name === convention.name);
  const trimmed = name.trim();
  const keep = async () => {
    setFault(null);
    try {
      const named = { ...convention, name: trimmed };
      await keepConvention(named);
      setConvention(named);
      await reload();
    } catch (error) {
      setFault(error instanceof Error ? error.message : String(error));
    }
  };
  const drop = async () => {
    setFault(null);
    try {
      await dropConvention(convention.name);
      setConvention(newConvention(OWN));
      setName('');
      await reload();
    } catch (error) {
      setFault(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <>
      <Lead />
      <section aria-label="What its numbers mean" className="mt-3">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <label className="flex items-center gap-2">
            Written for
            <Select value={isOne ? convention.name : OWN} onChange={(e) => choose(e.target.value)}>
              {known.map((c) => (
                <option key={c.name}>{c.name}</option>
              ))}
              <option>{OWN}</option>
            </Select>
          </label>
          <label className="flex items-center gap-2">
            kept as
            <input
              value={name}
              maxLength={40}
              className="w-40 rounded-[4px] border border-line bg-sheet px-2 py-1"
              onChange={(e) => setName(e.target.value)}
            />
          </label>
          <Button
            disabled={trimmed === '' || trimmed === OWN || isBroughtConvention(trimmed)}
            onClick={() => void keep()}
          >
            Keep it
          </Button>
          {isOne && !isBroughtConvention(convention.name) && (
            <Button kind="flat" onClick={() => void drop()}>
              Let {convention.name} go
            </Button>
          )}
        </div>
        {fault && <Notice className="mt-2">{fault}</Notice>}
        <MeaningForm
          convention={convention}
          onChange={(change) =>
            // A scale that came with the application stays as it is: what is changed is one of its own.
            setConvention({
              ...convention,
              ...change,
              name: isBroughtConvention(convention.name) ? OWN : convention.name,
            })
          }
        />
      </section>
      <section aria-label="Its numbers" className="mt-4 border-line border-t pt-3">
        <RadioCards
          label="Axis"
          className="flex flex-wrap gap-2"
          value={axis}
          cards={axes.map((a) => ({ id: a, name: a[0]!.toUpperCase() + a.slice(1) }))}
          onChange={setAxis}
        />
        <NumbersTable
          key={axis}
          axis={axis}
          written={written}
          taken={taken}
          values={values}
          catalogue={catalogue}
          onWritten={(part, value) => {
            const { [part]: _, ...rest } = written;
            setAll({ ...all, [axis]: value === undefined ? rest : { ...rest, [part]: value } });
          }}
        />
        {lost.length > 0 && (
          <ul className="mt-2 list-disc pl-5 text-amber">
            {lost.map((l) => (
              <li key={l}>{l}</li>
            ))}
          </ul>
        )}
        <Button
          kind="go"
          className="mt-2"
          disabled={fits.length === 0}
          onClick={() => dispatch(staged(Object.fromEntries(fits.map((t) => [t.key, t.value]))))}
        >
          {fits.length === 0 ? 'Nothing to take over' : `Take over ${fits.length} for ${axis}`}
        </Button>
      </section>
      <MeasurePart
        key={`measure ${axis}`}
        axis={axis}
        values={values}
        catalogue={catalogue}
        rotors={rotors}
      />
    </>
  );
}
