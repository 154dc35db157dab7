import { useState } from 'react';
import type { Elsewhere, ElsewherePart, TakenOver } from '#core/answers/conventions.ts';
import type { Axis } from '#core/mixer/authority.ts';
import type { Catalogue, Values } from '#core/settings/catalogue.ts';
import { formatNumber } from '#core/units/units.ts';
import { Table } from '../../../ui/Table.tsx';

interface Props {
  readonly axis: Axis;
  readonly written: Elsewhere;
  readonly taken: readonly TakenOver[];
  readonly values: Values;
  readonly catalogue: Catalogue;
  readonly onWritten: (part: ElsewherePart, value: number | undefined) => void;
}

const rows: readonly (readonly [ElsewherePart, string, (axis: Axis) => string])[] = [
  ['p', 'P', (a) => `rate.${a}.p`],
  ['i', 'I', (a) => `rate.${a}.i`],
  ['d', 'D', (a) => `rate.${a}.d`],
  ['forward', 'Feed-forward', (a) => `rate.${a}.forward`],
  ['angle', 'Levelling', () => 'level.time'],
  ['filter', 'Gyro low-pass', () => 'gyro.cutoff'],
];

/** What is written there, how it comes to what is written here, and what is here now. */
export function NumbersTable({ axis, written, taken, values, catalogue, onWritten }: Props) {
  return (
    <Table className="mt-2">
      <thead>
        <tr>
          <th> </th>
          <th>written there</th>
          <th>by meaning</th>
          <th>here</th>
          <th>now</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([part, name, keyOf]) => {
          const key = keyOf(axis);
          const entry = catalogue.entry(key);
          const t = taken.find((x) => x.part === part);
          const out = t && (t.value < (entry?.min ?? 0) || t.value > (entry?.max ?? 1e9));
          const now = values[key];
          return (
            <tr key={part}>
              <td className="font-medium">{name}</td>
              <td>
                <Optional
                  label={`${name} as it is written there`}
                  value={written[part]}
                  onChange={(v) => onWritten(part, v)}
                />
              </td>
              <td className="text-soft">{t?.formula ?? ''}</td>
              <td className={`num ${out ? 'text-red' : 'font-medium'}`}>
                {t ? formatNumber(t.value, 5) : ''}
                {out && entry && (
                  <span className="block font-sans">
                    takes {formatNumber(entry.min ?? 0, 4)} to {formatNumber(entry.max ?? 0, 4)}
                  </span>
                )}
              </td>
              <td className="num text-soft">{typeof now === 'number' ? formatNumber(now, 5) : ''}</td>
            </tr>
          );
        })}
      </tbody>
    </Table>
  );
}

/** A number that may be left out. */
function Optional({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: number | undefined;
  readonly onChange: (value: number | undefined) => void;
}) {
  const [text, setText] = useState(value === undefined ? '' : String(value));
  const number = Number(text.replace(',', '.').trim());
  const fault = text.trim() !== '' && (!Number.isFinite(number) || number < 0 || number > 1e7);
  return (
    <input
      aria-label={label}
      aria-invalid={fault}
      inputMode="decimal"
      value={text}
      placeholder="none"
      className={`num w-24 rounded-[3px] border-b border-dotted bg-transparent px-0.5 hover:bg-lake-wash focus:bg-lake-wash ${fault ? 'border-red text-red' : 'border-contour'}`}
      onChange={(e) => {
        setText(e.target.value);
        const next = Number(e.target.value.replace(',', '.').trim());
        const good = e.target.value.trim() !== '' && Number.isFinite(next) && next >= 0 && next <= 1e7;
        onChange(good ? next : undefined);
      }}
    />
  );
}
