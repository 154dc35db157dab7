import { useState } from 'react';
import { tuningChanges } from '#core/answers/tunings.ts';
import type { Tuning } from '#core/formats/tuning.ts';
import { axes } from '#core/mixer/authority.ts';
import type { Catalogue, Values } from '#core/settings/catalogue.ts';
import { formatClock, formatNumber, formatQuantity, type UnitSystem } from '#core/units/units.ts';
import { when } from '../../history/words.ts';
import { selectCatalogue, selectDescription, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { FileWords } from '../../ui/FileInput.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { Lead } from '../Lead.tsx';
import { useTunings } from './changes/useTunings.ts';
import { WhatChanged } from './changes/WhatChanged.tsx';

const noPads: [] = [];

/** Flights beside the tuning that flew them, and two of them compared. */
export default function ChangesStation() {
  const dispatch = useAppDispatch();
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const units = useApp((s) => s.ui.units);
  const pads = useApp((s) => selectDescription(s)?.pads) ?? noPads;
  const { list, busy, faults, fly, open, change } = useTunings();
  const [picked, setPicked] = useState<readonly string[]>([]);
  const pick = (id: string) =>
    setPicked((p) => (p.includes(id) ? p.filter((x) => x !== id) : [...p, id].slice(-2)));
  // Of those that were picked, or of the two newest, the older one stands before.
  const compared = picked.length === 2 ? list.filter((t) => picked.includes(t.id)) : list.slice(0, 2);
  const [after, before] = compared;
  return (
    <>
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead />
        </div>
        <div className="flex flex-col items-end gap-2">
          <Button kind="go" disabled={busy !== null} onClick={() => void fly()}>
            {busy === 'flying' ? 'Flying …' : 'Fly it as it is drafted'}
          </Button>
          <FileWords
            label="Log of a flight"
            accept=".log,.bin,.cbor"
            disabled={busy !== null}
            onFile={(f) => void open(f)}
          >
            {busy === 'reading' ? 'Reading …' : 'Add a log'}
          </FileWords>
        </div>
      </div>
      {faults.map((f) => (
        <Notice key={f}>{f}</Notice>
      ))}
      {list.length === 0 ? (
        <p className="mt-4 text-soft">
          No flight yet. Fly it in the bench, or add the log of a board: it tells by which settings it was
          flown.
        </p>
      ) : (
        <ol aria-label="Flights" className="mt-3">
          {list.map((t, k) => (
            <Flight
              key={t.id}
              tuning={t}
              number={list.length - k}
              before={list[k + 1] ?? null}
              catalogue={catalogue}
              units={units}
              picked={after?.id === t.id || before?.id === t.id}
              isNow={sameTuning(t.values, values, catalogue)}
              onPick={() => pick(t.id)}
              onNote={(note) => void change({ ...t, note }, t.id)}
              onDrop={() => void change(null, t.id)}
              onTake={() => dispatch(staged(toTake(t.values, catalogue)))}
            />
          ))}
        </ol>
      )}
      {before && after && (
        <WhatChanged
          before={before}
          after={after}
          numberOf={(t) => list.length - list.indexOf(t)}
          airframe={airframe}
          values={values}
          pads={pads}
          catalogue={catalogue}
          units={units}
        />
      )}
    </>
  );
}

const sameTuning = (a: Values, b: Values, catalogue: Catalogue) =>
  tuningChanges(a, b, catalogue).length === 0;

/** Of what a flight was flown by, all that this board has and takes. */
const toTake = (values: Values, catalogue: Catalogue): Record<string, Values[string]> =>
  Object.fromEntries(
    Object.entries(values).filter(
      ([key, value]) => catalogue.entry(key) && catalogue.checkValue(key, value) === null,
    ),
  );

interface FlightProps {
  readonly tuning: Tuning;
  readonly number: number;
  /** The one before it. */
  readonly before: Tuning | null;
  readonly catalogue: Catalogue;
  readonly units: UnitSystem;
  readonly picked: boolean;
  readonly isNow: boolean;
  readonly onPick: () => void;
  readonly onNote: (note: string) => void;
  readonly onDrop: () => void;
  readonly onTake: () => void;
}

function Flight({
  tuning: t,
  number,
  before,
  catalogue,
  units,
  picked,
  isNow,
  onPick,
  onNote,
  onDrop,
  onTake,
}: FlightProps) {
  const changes = before ? tuningChanges(before.values, t.values, catalogue).length : 0;
  const since = before
    ? changes === 0
      ? 'as the one before'
      : `${changes} ${changes === 1 ? 'change' : 'changes'} to the one before`
    : 'the first';
  const answers = axes.flatMap((axis) => {
    const a = t.answers[axis];
    return a
      ? [
          `${axis} ${a.riseS === null ? 'not there' : `${formatNumber(a.riseS, 2)} s`}, ${formatNumber(100 * a.overshoot, 0)} % over`,
        ]
      : [];
  });
  return (
    <li
      className={`border-line border-t py-2 pl-3 ${picked ? 'border-l-4 border-l-lake' : 'border-l-4 border-l-transparent'}`}
    >
      <div className="flex flex-wrap items-baseline gap-x-4">
        <label className="flex items-baseline gap-2 font-semibold">
          <input
            type="checkbox"
            checked={picked}
            aria-label={`Compare ${t.name} of ${when(t.at)}`}
            onChange={onPick}
          />
          {number}. {t.name}
        </label>
        <span className="text-soft">{when(t.at)}</span>
        <span className="text-soft">
          {formatClock(t.seconds)}
          {t.speedMps > 5 && ` at ${formatQuantity(t.speedMps, 'm/s', units, 1)}`}
        </span>
        <span>{since}</span>
        {isNow && <span className="text-forest">as drafted now</span>}
      </div>
      <p className="num text-[13px] text-soft">{answers.join(' · ')}</p>
      {t.moved.map((text) => (
        <p key={text}>Not as it is written: {text}</p>
      ))}
      <div className="mt-1 flex flex-wrap items-baseline gap-x-4">
        <input
          defaultValue={t.note}
          maxLength={500}
          placeholder="what it felt like"
          aria-label={`Note on ${t.name}`}
          className="w-full max-w-[380px] border-contour border-b border-dotted bg-transparent"
          onBlur={(e) => e.target.value !== t.note && onNote(e.target.value)}
        />
        {!isNow && <TextButton onClick={onTake}>Take its tuning</TextButton>}
        <TextButton onClick={onDrop}>Let it go</TextButton>
      </div>
    </li>
  );
}
