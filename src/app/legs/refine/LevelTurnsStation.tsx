import { useDeferredValue, useMemo } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { askedOf, type ManoeuvreId } from '#core/answers/outer/manoeuvres.ts';
import { predictAll } from '#core/answers/outer/predict.ts';
import { inSet } from '#core/control/controlSet.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { selectDescription, selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Notice } from '../../ui/Notice.tsx';
import { AnySettingField } from '../../ui/SettingField.tsx';
import { Lead } from '../Lead.tsx';
import { ManoeuvreFigure } from './outer/ManoeuvreFigure.tsx';
import { useFlownOuter } from './outer/useFlownOuter.ts';
import { titleOf, traceWords } from './outer/words.ts';

type Fields = readonly (readonly [key: string, name: string])[];

/** The settings that bend each of them. */
const fieldsOf = (id: ManoeuvreId, rotors: boolean, set: number): Fields => {
  switch (id) {
    case 'bank':
      return [[inSet('level.time', set), 'gets there in about']];
    case 'height':
      return rotors
        ? [
            ['hover.heightP', 'climb per metre'],
            ['hover.climbP', 'throttle per m/s'],
            ['hover.climbI', 'and per metre summed'],
          ]
        : [
            ['nav.heightTime', 'height made up in about'],
            ['nav.climb', 'climbs at most'],
          ];
    case 'speed':
      return [['nav.speedTime', 'speed made up in about']];
    case 'path':
      return [
        ['nav.period', 'period'],
        ['nav.damping', 'damping'],
      ];
    case 'circle':
      return [['loiter.radius', 'radius']];
    case 'go':
      return [
        ['hover.velocityP', 'lean per m/s'],
        ['hover.velocityI', 'and per metre summed'],
        ['hover.tilt', 'leans at most'],
      ];
    case 'gusts':
      return [['hover.positionP', 'speed per metre']];
  }
};

const noPads: [] = [];

/** The loops around the rate loops, each asked for something: promised at once, flown when edits rest. */
export default function LevelTurnsStation() {
  const units = useApp((s) => s.ui.units);
  const airframe = useApp((s) => s.craft.airframe)!;
  const now = useApp(selectValues);
  const pads = useApp((s) => selectDescription(s)?.pads) ?? noPads;
  const values = useDeferredValue(now);
  const said = useMemo(() => predictAll(airframe, values, pads), [airframe, values, pads]);
  const { doing, flown } = useFlownOuter();
  const rotors = isRotorcraft(airframe);
  const s = settingsOf(values);
  const [set, radius] = [Number(s.choice('set.active')), s.number('loiter.radius')];
  return (
    <>
      <Lead />
      <p role="status" className="mt-2 flex flex-wrap gap-x-5">
        <span>
          <svg viewBox="0 0 22 8" className="mr-1.5 inline-block w-[22px]" aria-hidden="true">
            <path d="M0 4H22" stroke="var(--forest)" strokeWidth={1.8} />
          </svg>
          promised
        </span>
        <span className={flown ? '' : 'text-soft'}>
          <svg viewBox="0 0 22 8" className="mr-1.5 inline-block w-[22px]" aria-hidden="true">
            <path d="M0 4H22" stroke="var(--lake)" strokeWidth={3.4} opacity={0.55} />
          </svg>
          {flown ? 'flown in the bench' : doing.kind === 'fault' ? 'not flown' : 'flying …'}
        </span>
        <span>
          <svg viewBox="0 0 22 8" className="mr-1.5 inline-block w-[22px]" aria-hidden="true">
            <path d="M0 4H22" stroke="var(--ink)" strokeDasharray="3 3" />
          </svg>
          asked
        </span>
      </p>
      {doing.kind === 'fault' && <Notice className="mt-2">{doing.why}</Notice>}
      <div className="mt-3 grid gap-x-7 gap-y-5 min-[560px]:grid-cols-2 min-[900px]:grid-cols-3">
        {said.map(({ id, trace }) => {
          const asked = askedOf(airframe, values, id);
          const title = titleOf(id, asked, units);
          const come = flown?.[id] ?? null;
          return (
            <section key={id} aria-label={title}>
              <h2 className="font-semibold">{title}</h2>
              <ManoeuvreFigure
                id={id}
                asked={asked}
                said={trace}
                flown={come}
                radius={radius}
                units={units}
              />
              <p className="min-h-[40px] text-[14px]">
                {trace ? (
                  <span className="text-forest">{traceWords(id, asked, trace, radius, units)}</span>
                ) : (
                  'The craft’s model does not fly at its cruise speed.'
                )}
                {come && (
                  <span className="block text-lake">{traceWords(id, asked, come, radius, units)}</span>
                )}
              </p>
              <dl className="mt-1 flex flex-wrap gap-x-5 gap-y-1">
                {fieldsOf(id, rotors, set).map(([key, name]) => (
                  <div key={key}>
                    <dt className="text-[13px] text-soft">{name}</dt>
                    <dd>
                      <AnySettingField name={key} />
                    </dd>
                  </div>
                ))}
              </dl>
            </section>
          );
        })}
      </div>
    </>
  );
}
