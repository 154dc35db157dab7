import type { Values } from '#core/settings/catalogue.ts';
import { formatNumber } from '#core/units/units.ts';
import { Table } from '../../../ui/Table.tsx';

/** Gains of one axis, wherever they come from. */
export interface FoundAxis {
  readonly p: number;
  readonly i: number;
  readonly d: number;
  readonly forward: number;
  readonly lateS: number;
  readonly explained: number;
}

interface Props {
  readonly found: Readonly<Record<'roll' | 'pitch', FoundAxis | null>>;
  readonly values: Values;
  /** By the craft's model, the P that is the same share of the most; null where it is not told. */
  readonly model: Readonly<Record<'roll' | 'pitch', number | null>> | null;
  /** Key of a gain in the control set that is flown. */
  readonly keyOf: (axis: 'roll' | 'pitch', part: 'p' | 'i' | 'd' | 'forward') => string;
}

const parts = ['p', 'i', 'd', 'forward'] as const;
const gain = (v: number) => formatNumber(Number(v.toPrecision(3)), 6);

/** What was found beside what is drafted. */
export function GainsFound({ found, values, model, keyOf }: Props) {
  return (
    <Table className="mt-2">
      <thead>
        <tr>
          <th> </th>
          <th>P</th>
          <th>I</th>
          <th>D</th>
          <th>feed-forward</th>
          <th>turns late by</th>
          <th>explained</th>
          {model && <th>P by the model</th>}
        </tr>
      </thead>
      <tbody>
        {(['roll', 'pitch'] as const).map((axis) => {
          const f = found[axis];
          return (
            <tr key={axis}>
              <td className="font-medium">{axis}</td>
              {parts.map((part) => {
                const now = values[keyOf(axis, part)];
                const was = typeof now === 'number' ? gain(now) : '';
                const is = f ? gain(f[part]) : '';
                return (
                  <td key={part} className="num">
                    <span className={f && is !== was ? 'text-soft line-through' : ''}>{was}</span>{' '}
                    {f && is !== was && <span className="font-medium">{is}</span>}
                  </td>
                );
              })}
              <td className="num">{f ? `${formatNumber(1000 * f.lateS, 0)} ms` : 'none found'}</td>
              <td className="num">{f ? `${formatNumber(100 * f.explained, 0)} %` : ''}</td>
              {model && <td className="num text-soft">{model[axis] === null ? '' : gain(model[axis])}</td>}
            </tr>
          );
        })}
      </tbody>
    </Table>
  );
}
