import { memo } from 'react';
import { EMPTY_BOOK, type FlownFlight, kitKinds } from '#core/field/fieldBook.ts';
import type { FlightFigures as Figures } from '#core/flown/summary.ts';
import { formatClock, formatQuantity } from '#core/units/units.ts';
import { fieldBookChanged } from '../../../store/craftSlice.ts';
import { useApp, useAppDispatch } from '../../../store/store.ts';
import { Select } from '../../../ui/Select.tsx';

interface Props {
  readonly figures: Figures;
  /** What the book says of it; null where it is not in it. */
  readonly told: FlownFlight | null;
}

/** A flight in its largest figures, and what it was flown with. */
export const FlightFigures = memo(function FlightFigures({ figures, told }: Props) {
  const dispatch = useAppDispatch();
  const units = useApp((s) => s.ui.units);
  const book = useApp((s) => s.craft.file!.field) ?? EMPTY_BOOK;
  const metres = (m: number) => formatQuantity(m, 'm', units, 0);
  return (
    <dl className="flex flex-wrap items-end gap-x-7 gap-y-1">
      <Large name="in the air" value={formatClock(figures.seconds)} />
      <Large name="flown" value={metres(figures.wayM)} />
      <Large name="from home at most" value={metres(figures.farthestM)} />
      <Large name="over its start" value={metres(figures.highestM)} />
      {figures.drawnMah !== undefined && (
        <Large name="drawn" value={formatQuantity(figures.drawnMah, 'mah', units, 0)} />
      )}
      {figures.ohm !== undefined && (
        <Large name="battery and lead" value={`${formatQuantity(1000 * figures.ohm, 'none', units, 0)} mΩ`} />
      )}
      {told && (
        <div className="text-[13px]">
          <dt className="text-soft">flown with</dt>
          <dd className="flex gap-2">
            {kitKinds.map((kind) => {
              const names = new Set(book.kit.filter((k) => k.kind === kind).map((k) => k.name));
              if (told[kind] !== '') names.add(told[kind]);
              return (
                <Select
                  key={kind}
                  aria-label={`${kind} it was flown with`}
                  value={told[kind]}
                  onChange={(e) =>
                    dispatch(
                      fieldBookChanged({
                        ...book,
                        flown: book.flown.map((f) => (f === told ? { ...f, [kind]: e.target.value } : f)),
                      }),
                    )
                  }
                >
                  <option value="">{kind} not said</option>
                  {[...names].map((n) => (
                    <option key={n} value={n}>
                      {n}
                    </option>
                  ))}
                </Select>
              );
            })}
          </dd>
        </div>
      )}
    </dl>
  );
});

const Large = ({ name, value }: { readonly name: string; readonly value: string }) => (
  <div>
    <dt className="text-[13px] text-soft">{name}</dt>
    <dd className="num text-[20px] leading-6">{value}</dd>
  </div>
);
