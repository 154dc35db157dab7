import { useMemo } from 'react';
import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import type { AxisAnswer } from '#core/answers/answers.ts';
import { answersAt, extremesOf, type Flight } from '#core/answers/gainSchedule.ts';
import type { BoardDescription } from '#core/board/description.ts';
import type { Axis } from '#core/mixer/authority.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { formatNumber, formatQuantity, type UnitSystem } from '#core/units/units.ts';
import { useApp } from '../../../store/store.ts';
import { answerLine, askedAt } from './smallAnswer.ts';

const [W, H] = [226, 108];

interface Props {
  readonly airframe: Airframe;
  readonly values: Values;
  readonly pads: BoardDescription['pads'];
  readonly axis: Axis;
}

const names = {
  wings: { slow: 'just above the stall', usual: 'cruise', fast: 'a dive, throttle shut' },
  rotors: { slow: 'sinking fast', usual: 'hover', fast: 'nearly all throttle' },
} as const;

/** The same wish at the ends of what it flies: how it answers there by the law. */
export function AtTheEnds({ airframe, values, pads, axis }: Props) {
  const units = useApp((s) => s.ui.units);
  const answers = useMemo(
    () => answersAt(airframe, values, pads, axis, extremesOf(airframe, values)),
    [airframe, values, pads, axis],
  );
  const named = names[isRotorcraft(airframe) ? 'rotors' : 'wings'];
  return (
    <section aria-label="At the ends" className="mt-3 border-line border-t pt-3">
      <h2 className="font-semibold">The same wish at the ends of what it flies</h2>
      <div className="mt-2 grid gap-x-6 gap-y-3 min-[620px]:grid-cols-3">
        {answers.map(({ id, flight, answer }) => (
          <figure key={id}>
            <figcaption>
              <b className="font-semibold">{named[id]}</b>{' '}
              <span className="num text-soft">{placed(flight, units)}</span>
            </figcaption>
            {answer && (
              <>
                <svg viewBox={`0 0 ${W} ${H}`} className="w-full max-w-[260px]" aria-hidden="true">
                  <path d={`M0 ${H - 0.5}H${W}`} stroke="var(--contour)" />
                  <path d={`M0 ${askedAt(H)}H${W}`} stroke="var(--ink)" strokeDasharray="3 3" />
                  <path
                    d={answerLine(answer, W, H)}
                    fill="none"
                    stroke={answer.state === 'rings' ? 'var(--red)' : 'var(--forest)'}
                    strokeWidth={2.4}
                  />
                </svg>
                <p className={answer.state === 'well' ? '' : 'font-medium text-amber'}>{words(answer)}</p>
              </>
            )}
          </figure>
        ))}
      </div>
    </section>
  );
}

const placed = ({ speedMps, flown }: Flight, units: UnitSystem) =>
  speedMps > 0
    ? formatQuantity(speedMps, 'm/s', units, 1)
    : `${formatNumber(100 * (flown.throttle ?? 0), 0)} %`;

function words({ state, figures: f, margin }: AxisAnswer): string {
  if (state === 'rings') return `Rings by itself, ${formatNumber(margin.ringsHz, 1)} times a second.`;
  const up = Number.isNaN(f.riseS) ? 'does not get there' : `up in ${formatNumber(f.riseS, 2)} s`;
  const over = f.overshoot > 0.02 ? `, ${formatNumber(100 * f.overshoot, 0)} % over` : '';
  const left = margin.gainLeft < 100 ? `; bears ${formatNumber(margin.gainLeft, 1)} times its gains` : '';
  return `${up[0]!.toUpperCase()}${up.slice(1)}${over}${left}.`;
}
