import { memo } from 'react';
import type { Compared } from '#core/flown/compare.ts';
import { formatClock, formatQuantity, type UnitSystem } from '#core/units/units.ts';
import { Select } from '../../../ui/Select.tsx';
import { TextButton } from '../../../ui/TextButton.tsx';

interface Props {
  readonly choices: readonly { readonly id: string; readonly name: string }[];
  readonly chosen: string;
  readonly found: Compared | null;
  readonly units: UnitSystem;
  readonly onChoose: (id: string) => void;
  readonly onGo: (atS: number) => void;
}

/** Another flight, or the rehearsal, beside this one: what was other. */
export const BesidePart = memo(function BesidePart({ choices, chosen, found, units, onChoose, onGo }: Props) {
  return (
    <section aria-label="Beside another" className="mt-4 border-line border-t pt-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2 className="font-semibold">Beside</h2>
        <Select
          aria-label="Flight to lay beside it"
          value={chosen}
          onChange={(e) => onChoose(e.target.value)}
        >
          <option value="">no other flight</option>
          {choices.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </Select>
        {found?.apartM && (
          <span className="text-[13px] text-soft">
            apart by <span className="num text-ink">{formatQuantity(found.apartM.mean, 'm', units, 0)}</span>{' '}
            in the mean, at most{' '}
            <TextButton onClick={() => onGo(found.apartM!.atS)}>
              {formatQuantity(found.apartM.most, 'm', units, 0)} at {formatClock(found.apartM.atS)}
            </TextButton>
            ; laid over it by {found.by}
          </span>
        )}
      </div>
      {found && (
        <dl className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-x-6 gap-y-2">
          {found.facts.map((f) => (
            <div key={f.name}>
              <dt className="text-[13px] text-soft">{f.name}</dt>
              <dd>
                <span className="num">{f.first}</span>{' '}
                <span className="text-[13px] text-soft">
                  there <span className="num">{f.second}</span>
                  {f.share !== null && Math.abs(f.share) < 10 && (
                    <span className="num whitespace-nowrap">
                      {' '}
                      ({f.share > 0 ? '+' : ''}
                      {Math.round(100 * f.share)} %)
                    </span>
                  )}
                </span>
              </dd>
            </div>
          ))}
        </dl>
      )}
    </section>
  );
});
