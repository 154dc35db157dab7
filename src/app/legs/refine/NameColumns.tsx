import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { Select } from '../../ui/Select.tsx';

/** Something that a table has to tell, and the units it may be in, by what ends a column's name and by symbol. */
export interface WantedColumn {
  readonly id: string;
  readonly name: string;
  readonly units: readonly (readonly [unit: string, symbol: string])[];
}

export const TIME: WantedColumn = {
  id: 't',
  name: 'Time',
  units: [
    ['s', 's'],
    ['ms', 'ms'],
    ['us', 'µs'],
  ],
};

export const RATES: WantedColumn['units'] = [
  ['dps', '°/s'],
  ['radps', 'rad/s'],
];

/** Which columns of a table are what, and in which units: a table does not say it in words that are known. */
export function NameColumns({
  file,
  names,
  wanted,
  onNamed,
}: {
  readonly file: string;
  readonly names: readonly string[];
  readonly wanted: readonly WantedColumn[];
  readonly onNamed: (named: ReadonlyMap<string, string>) => void;
}) {
  const [columns, setColumns] = useState<Readonly<Record<string, string | undefined>>>({});
  const [units, setUnits] = useState<Readonly<Record<string, string>>>(() =>
    Object.fromEntries(wanted.map((w) => [w.id, w.units[0]![0]])),
  );
  const chosen = wanted.flatMap(({ id }) => columns[id] ?? []);
  const whole = new Set(chosen).size === wanted.length;
  return (
    <fieldset className="mt-3 border-line border-t pt-3">
      <legend className="sr-only">Columns of {file}</legend>
      <p className="text-soft">Say which columns of {file} are what, and in which unit.</p>
      <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2">
        {wanted.map(({ id, name, units: choices }) => (
          <div key={id}>
            <label className="block text-soft" htmlFor={`column-${id}`}>
              {name}
            </label>
            <span className="flex gap-1">
              <Select
                id={`column-${id}`}
                className="max-w-[150px]"
                value={columns[id] ?? ''}
                onChange={(e) => setColumns({ ...columns, [id]: e.target.value || undefined })}
              >
                <option value="">choose</option>
                {[...new Set(names)].map((n) => (
                  <option key={n}>{n}</option>
                ))}
              </Select>
              <Select
                aria-label={`Unit of ${name.toLowerCase()}`}
                value={units[id]}
                onChange={(e) => setUnits({ ...units, [id]: e.target.value })}
              >
                {choices.map(([unit, symbol]) => (
                  <option key={unit} value={unit}>
                    {symbol}
                  </option>
                ))}
              </Select>
            </span>
          </div>
        ))}
        <Button
          disabled={!whole}
          onClick={() =>
            onNamed(new Map(wanted.map(({ id }) => [columns[id]!, `${id}_${units[id]}`] as const)))
          }
        >
          Read it so
        </Button>
      </div>
      {chosen.length === wanted.length && !whole && (
        <p className="mt-1 text-amber">One column cannot be two things.</p>
      )}
    </fieldset>
  );
}
