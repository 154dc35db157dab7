import { useState } from 'react';
import { carriedSet, FEEL_KEYS } from '#core/answers/feel.ts';
import { inSet } from '#core/control/controlSet.ts';
import { formatNumber } from '#core/units/units.ts';
import { selectCatalogue, selectValues } from '../../../store/selectors.ts';
import { staged } from '../../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { Select } from '../../../ui/Select.tsx';
import { SettingField } from '../../../ui/SettingField.tsx';
import { Table } from '../../../ui/Table.tsx';

const ROWS = [
  ...FEEL_KEYS,
  ...(['roll', 'pitch', 'yaw'] as const).flatMap((axis) => [
    `rate.${axis}.forward`,
    `rate.${axis}.p`,
    `rate.${axis}.i`,
    `rate.${axis}.d`,
  ]),
];

/** The control sets of the board beside each other, which of them is flown, and one carried to another whole. */
export function SetsTable({ sets }: { readonly sets: readonly number[] }) {
  const dispatch = useAppDispatch();
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const [from, setFrom] = useState(2);
  const [to, setTo] = useState(1);
  const carry = carriedSet(values, from, to);
  const changes = Object.entries(carry).filter(([key, value]) => values[key] !== value).length;
  const differ = ROWS.filter((key) => new Set(sets.map((set) => values[inSet(key, set)])).size > 1);
  const chooser = (label: string, value: number, onChange: (n: number) => void) => (
    <Select aria-label={label} value={value} onChange={(e) => onChange(Number(e.target.value))}>
      {sets.map((n) => (
        <option key={n} value={n}>
          set {n}
        </option>
      ))}
    </Select>
  );
  return (
    <section aria-label="Control sets" className="mt-4 border-line border-t pt-3">
      <h2 className="font-semibold">Control sets beside each other</h2>
      <p className="text-soft">
        Flown: <SettingField name="set.active" />; chosen by a switch on channel{' '}
        <SettingField name="set.channel" />
        {Number(values['set.channel'] ?? 0) === 0 ? ', so by none' : ''}. What is the same in all is left out.
      </p>
      <Table className="mt-2 max-w-[760px]">
        <thead>
          <tr>
            <th scope="col">Setting</th>
            {sets.map((n) => (
              <th key={n} scope="col">
                set {n}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {differ.map((key) => (
            <tr key={key}>
              <td>{catalogue.entry(key)?.label ?? key}</td>
              {sets.map((n) => {
                const value = values[inSet(key, n)];
                return (
                  <td key={n} className="num">
                    {typeof value === 'number' ? formatNumber(value, 4) : ''}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </Table>
      {differ.length === 0 && <p className="mt-1">All of them are the same.</p>}
      <p className="mt-3 flex flex-wrap items-center gap-2">
        Carry {chooser('From', from, setFrom)} to {chooser('To', to, setTo)}
        <Button disabled={changes === 0} onClick={() => dispatch(staged(carry))}>
          {changes === 0 ? 'Nothing to carry' : `Carry ${changes} ${changes === 1 ? 'setting' : 'settings'}`}
        </Button>
      </p>
    </section>
  );
}
