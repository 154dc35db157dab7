import { useMemo } from 'react';
import type { Airframe } from '#core/airframe/airframe.ts';
import type { AxisAnswer, LoopState } from '#core/answers/answers.ts';
import { answersOtherwise, type Otherwise } from '#core/answers/otherwise.ts';
import type { BoardDescription } from '#core/board/description.ts';
import type { Axis } from '#core/mixer/authority.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { formatNumber } from '#core/units/units.ts';
import { Table } from '../../../ui/Table.tsx';

interface Props {
  readonly answer: AxisAnswer;
  readonly airframe: Airframe;
  readonly values: Values;
  readonly pads: BoardDescription['pads'];
  readonly axis: Axis;
}

/** The same gains on a craft that is loaded or balanced otherwise. */
export function OtherwisePart({ answer, airframe, values, pads, axis }: Props) {
  const { speedMps } = answer;
  const others = useMemo(
    () => answersOtherwise(airframe, values, pads, axis, speedMps),
    [airframe, values, pads, axis, speedMps],
  );
  return (
    <section aria-label="If it were otherwise" className="mt-3 border-line border-t pt-3">
      <h2 className="font-semibold">If it were otherwise</h2>
      <Table className="mt-1 max-w-[760px]">
        <thead>
          <tr>
            <th scope="col">The craft</th>
            <th scope="col">up in</th>
            <th scope="col">over</th>
            <th scope="col">left until it rings</th>
            <th scope="col">gains could be</th>
          </tr>
        </thead>
        <tbody>
          <Row name="as described" answer={answer} />
          {others.map((o) => o.answer && <Row key={o.id} name={names[o.id]} answer={o.answer} />)}
        </tbody>
      </Table>
    </section>
  );
}

const names: Readonly<Record<Otherwise['id'], string>> = {
  heavier: 'a fifth heavier',
  lighter: 'a sixth lighter',
  'nose-heavy': 'balanced 4 % of the chord farther forward',
  'tail-heavy': 'balanced 4 % of the chord farther aft',
  drained: 'its battery nearly empty',
};

const looks: Readonly<Record<LoopState, string>> = {
  well: '',
  'little-margin': 'text-amber',
  rings: 'font-semibold text-red',
};

function Row({ name, answer: { figures: f, margin: m, state } }: { name: string; answer: AxisAnswer }) {
  const left = m.crossover
    ? `${formatNumber(m.crossover.degrees, 0)}°, ${formatNumber(1000 * m.crossover.delayS, 0)} ms`
    : 'any delay';
  return (
    <tr className={looks[state]}>
      <td>{name}</td>
      <td className="num">{Number.isNaN(f.riseS) ? '' : `${formatNumber(f.riseS, 3)} s`}</td>
      <td className="num">{formatNumber(100 * f.overshoot, 0)} %</td>
      <td className={m.crossover ? 'num' : ''}>{state === 'rings' ? 'rings by itself' : left}</td>
      <td className="num">{Number.isNaN(m.gainLeft) ? '' : `${formatNumber(m.gainLeft, 1)} times`}</td>
    </tr>
  );
}
