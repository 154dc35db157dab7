import { Link } from 'react-router';
import type { Airframe } from '#core/airframe/airframe.ts';
import { describedPlay } from '#core/answers/chain.ts';
import type { Cause, WhyOther } from '#core/answers/whyOther.ts';
import type { Axis } from '#core/mixer/authority.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { formatNumber } from '#core/units/units.ts';
import { textLook } from '../../../ui/TextButton.tsx';

interface Props {
  readonly why: WhyOther;
  readonly airframe: Airframe;
  readonly values: Values;
  readonly axis: Axis;
}

/** Why it flew otherwise than promised: what the log has in it that the craft as described has not. */
export function WhyPart({ why: { unexplained, agrees, causes }, airframe, values, axis }: Props) {
  const rest = formatNumber(Math.max(1, 100 * unexplained), 0);
  if (agrees)
    return (
      <p className="mt-1">
        It flies as promised: all but {rest} % of how it turned follows from what was asked for.
      </p>
    );
  return (
    <section aria-label="Why it flew otherwise" className="mt-2 border-line border-t pt-2">
      <p>
        {rest} % of how it turned does not follow from what was asked for by the craft as described.{' '}
        {causes.length === 0
          ? 'Nothing that is known of explains it: look for gusts, a stall, or another mode in this log.'
          : causes.length > 1
            ? 'More than one thing explains it as well:'
            : ''}
      </p>
      <ul className="mt-1">
        {causes.map((cause) => {
          const { text, to, at } = words[cause.kind](cause.size);
          const play = cause.kind === 'play' ? describedPlay(airframe, values, axis) : null;
          return (
            <li key={cause.kind}>
              <b className="font-semibold">{text}</b>
              {play
                ? `, about ${formatNumber((play.deg * (play.share + cause.size)) / play.share, 1)}° at the ${play.surface}`
                : ''}
              ; that would explain <span className="num">{formatNumber(100 * cause.explains, 0)} %</span> of
              it.{' '}
              <Link to={to} className={textLook('lake')}>
                {at}
              </Link>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

type Words = (size: number) => { readonly text: string; readonly to: string; readonly at: string };
const craft = { to: '/build/airframe', at: 'Look at the craft' } as const;
const throws = { to: '/steer/throws', at: 'Measure the throws' } as const;

const words: Readonly<Record<Cause['kind'], Words>> = {
  inertia: (k) => ({
    text: `It turns as if it had ${formatNumber(k, 1)} times the inertia about this axis: ${k > 1 ? 'heavier, or its weight farther out' : 'lighter, or its weight farther in'}, than described`,
    ...craft,
  }),
  throw: (k) => ({
    text: `A command turns it ${formatNumber(k, 2)} times as much as described: ${k < 1 ? 'less' : 'more'} throw, or a ${k < 1 ? 'smaller' : 'larger'} surface or propeller`,
    ...throws,
  }),
  servo: (k) => ({
    text: `Its servos move at ${formatNumber(100 * k, 0)} % of the speed described: slower ones, starved of voltage, or dragging`,
    ...craft,
  }),
  late: (s) => ({
    text: `Everything comes ${formatNumber(1000 * s, 0)} ms later than anything known of makes it`,
    to: '/steer/motors',
    at: 'Look at how outputs are driven',
  }),
  play: (h) => ({
    text: `About ${formatNumber(100 * h, 0)} % of the whole way is loose between servos and surfaces`,
    ...throws,
  }),
};
