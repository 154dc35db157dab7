import { useState } from 'react';
import { EMPTY_BOOK, type KitItem, type KitKind, kitKinds, MOST_SIGN_OFFS } from '#core/field/fieldBook.ts';
import { agedWords, ageOf, signedOff, whyNotSigned, withItem } from '#core/field/signOff.ts';
import type { WalkLine } from '#core/field/walk.ts';
import { formatClock, formatNumber, formatQuantity } from '#core/units/units.ts';
import { when } from '../../../history/words.ts';
import { live } from '../../../live/telemetry.ts';
import { fieldBookChanged } from '../../../store/craftSlice.ts';
import { useApp, useAppDispatch } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { Notice } from '../../../ui/Notice.tsx';
import { QuantityField } from '../../../ui/Quantity.tsx';
import { Select } from '../../../ui/Select.tsx';
import { TextButton } from '../../../ui/TextButton.tsx';
import { TextField } from '../../../ui/TextField.tsx';

interface Props {
  readonly lines: readonly WalkLine[];
  readonly now: Date;
  /** What the board on the cable says against arming; null where it says nothing. */
  readonly blocker: string | null;
}

const TOLD = 3;
const plural = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;

/** A flight signed off, with where, when and with what: kept with the craft. */
export function SignOffPart({ lines, now, blocker }: Props) {
  const dispatch = useAppDispatch();
  const book = useApp((s) => s.craft.file?.field) ?? EMPTY_BOOK;
  const site = useApp((s) => s.site.current?.name ?? '');
  const units = useApp((s) => s.ui.units);
  const last = book.signOffs.at(-1);
  const [chosen, setChosen] = useState<Readonly<Record<KitKind, string>>>({
    battery: last?.battery ?? '',
    propeller: last?.propeller ?? '',
  });
  const [windMps, setWind] = useState<number | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const why = whyNotSigned(lines);
  const sign = () => {
    const navigation = live('navigation');
    const { latitude: lat = 99, longitude: lon = 999, hasFix = false } = navigation ?? {};
    const place = hasFix && Math.abs(lat) <= 90 && Math.abs(lon) <= 180 ? { lat, lon } : {};
    dispatch(
      fieldBookChanged({
        ...book,
        signOffs: [
          // The oldest go once there are as many as a craft's file holds.
          ...book.signOffs.slice(1 - MOST_SIGN_OFFS),
          signedOff(lines, new Date(), {
            site,
            ...chosen,
            ...place,
            ...(windMps === null ? {} : { windMps }),
          }),
        ],
      }),
    );
  };
  const add = (kind: KitKind, name: string) => {
    if (name.trim() === '') return;
    const next = withItem(book, { kind, name: name.trim(), since: new Date().toISOString().slice(0, 10) });
    if (typeof next === 'string') {
      setFault(next);
      return;
    }
    setFault(null);
    dispatch(fieldBookChanged(next));
    setChosen({ ...chosen, [kind]: name.trim() });
  };
  return (
    <section aria-label="Signed off" className="mt-4 border-line border-t pt-3">
      <h2 className="font-semibold">Sign it off</h2>
      <div className="mt-2 grid grid-cols-[repeat(auto-fit,minmax(220px,1fr))] gap-x-6 gap-y-3">
        {kitKinds.map((kind) => (
          <KitChoice
            key={kind}
            kind={kind}
            value={chosen[kind]}
            items={book.kit.filter((k) => k.kind === kind)}
            told={(item) => {
              const age = ageOf(item, book, now);
              return {
                age: [
                  plural(age.flights, 'flight'),
                  plural(age.days, 'day'),
                  ...(age.seconds > 0 ? [`${formatClock(age.seconds)} in the air`] : []),
                  ...(kind === 'battery' && age.drawnMah > 0
                    ? [`${formatNumber(age.drawnMah / 1000, 1)} Ah drawn`]
                    : []),
                  ...(kind === 'battery' && age.ohm !== null ? [`${Math.round(1000 * age.ohm)} mΩ`] : []),
                ].join(', '),
                mind: agedWords(item, age),
              };
            }}
            onChoose={(name) => setChosen({ ...chosen, [kind]: name })}
            onAdd={(name) => add(kind, name)}
            onRetire={(name) => {
              dispatch(
                fieldBookChanged({
                  ...book,
                  kit: book.kit.filter((k) => k.kind !== kind || k.name !== name),
                }),
              );
              setChosen({ ...chosen, [kind]: '' });
            }}
          />
        ))}
        <div>
          <p className="text-soft">wind</p>
          <QuantityField
            label="Wind on the strip"
            value={windMps ?? 0}
            unit="m/s"
            min={0}
            max={50}
            step={0.5}
            onChange={setWind}
          />
        </div>
      </div>
      {fault && <Notice>{fault}</Notice>}
      {(why ?? blocker) && (
        <p role="status" className="mt-2 text-red">
          {why ?? `The board would refuse to arm: ${blocker}`}
        </p>
      )}
      <p className="mt-3 flex flex-wrap items-center gap-4">
        <Button kind="go" className="min-h-11" disabled={why !== null || blocker !== null} onClick={sign}>
          Sign this flight off
        </Button>
        {last && (
          <TextButton
            tone="soft"
            onClick={() => dispatch(fieldBookChanged({ ...book, signOffs: book.signOffs.slice(0, -1) }))}
          >
            Take the last one back
          </TextButton>
        )}
      </p>
      {last && (
        <ul aria-label="Flights signed off" className="mt-2 text-[13px]">
          {book.signOffs
            .slice(-TOLD)
            .reverse()
            .map((s) => (
              <li key={s.at} className="text-soft">
                <b className="font-medium text-ink">{when(s.at)}</b>
                {s.site && ` at ${s.site}`}
                {s.lat !== undefined && s.lon !== undefined && (
                  <span className="num">
                    {' '}
                    {s.lat.toFixed(5)}, {s.lon.toFixed(5)}
                  </span>
                )}
                {s.battery && `, battery ${s.battery}`}
                {s.propeller && `, propeller ${s.propeller}`}
                {s.windMps !== undefined && `, wind ${formatQuantity(s.windMps, 'm/s', units)}`}: {s.proven}{' '}
                of {s.of} proven
                {s.open.length > 0 &&
                  `; open were ${s.open.slice(0, TOLD).join(', ')}${s.open.length > TOLD ? ' and others' : ''}`}
              </li>
            ))}
          {book.signOffs.length > TOLD && (
            <li className="text-faint">and {book.signOffs.length - TOLD} before</li>
          )}
        </ul>
      )}
    </section>
  );
}

function KitChoice({
  kind,
  value,
  items,
  told,
  onChoose,
  onAdd,
  onRetire,
}: {
  readonly kind: KitKind;
  readonly value: string;
  readonly items: readonly KitItem[];
  readonly told: (item: KitItem) => { readonly age: string; readonly mind: string | null };
  readonly onChoose: (name: string) => void;
  readonly onAdd: (name: string) => void;
  /** It is not used any more; flights that were signed off with it stay. */
  readonly onRetire: (name: string) => void;
}) {
  const item = items.find((i) => i.name === value);
  const about = item && told(item);
  return (
    <div>
      <p className="text-soft">{kind}</p>
      {items.length > 0 && (
        <Select
          aria-label={`Which ${kind}`}
          value={value}
          className="w-full max-w-56"
          onChange={(e) => onChoose(e.target.value)}
        >
          <option value="">not said</option>
          {items.map((i) => (
            <option key={i.name} value={i.name}>
              {i.name}
            </option>
          ))}
        </Select>
      )}
      {item && about && (
        <p className="mt-0.5 text-[13px] text-soft">
          {about.age}.{' '}
          <TextButton tone="soft" onClick={() => onRetire(item.name)}>
            No longer used
          </TextButton>
        </p>
      )}
      {about?.mind && <p className="text-[13px] text-amber">{about.mind}</p>}
      <p className="mt-1 text-[13px]">
        <span className="text-soft">{items.length > 0 ? 'another: ' : 'by name: '}</span>
        <TextField
          key={items.length}
          label={`Name of another ${kind}`}
          value=""
          most={30}
          fits={() => true}
          otherwise=""
          onChange={onAdd}
        />
      </p>
    </div>
  );
}
