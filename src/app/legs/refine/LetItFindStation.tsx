import { isRotorcraft } from '#core/airframe/airframe.ts';
import { gainsPart } from '#core/answers/tunings.ts';
import { inSet } from '#core/control/controlSet.ts';
import { FINDS_AXIS_S, FINDS_LOWEST_M } from '#core/control/identify.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { formatNumber, formatQuantity } from '#core/units/units.ts';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { selectCatalogue, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Named } from '../../ui/Named.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Told } from '../../ui/Told.tsx';
import { workshop } from '../../workers/index.ts';
import { Lead } from '../Lead.tsx';
import { type FoundAxis, GainsFound } from './tune/GainsFound.tsx';
import { TrimPart } from './tune/TrimPart.tsx';
import { TuneTrace } from './tune/TuneTrace.tsx';
import { useRehearsed } from './useRehearsed.ts';

const fields = [
  ['tune.channel', 'switch on channel'],
  ['tune.axes', 'finds gains of'],
  ['tune.share', 'share of the most'],
  ['tune.flies', ' '],
] as const;
/** Of wings. */
const servo = ['tune.servo', 'servo, middle to end'] as const;

/** Gains that the board finds in flight: what it does, rehearsed first; what it found, as edits. */
export default function LetItFindStation() {
  const dispatch = useAppDispatch();
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const units = useApp((s) => s.ui.units);
  const { rehearse, flying, fault, seen } = useRehearsed(
    (what) => workshop().flyTune(what),
    'So it could not be rehearsed.',
  );
  const told = useSampled(() => live('tune'));
  const s = settingsOf(values);
  const set = Number(s.choice('set.active'));
  const rotors = isRotorcraft(airframe);
  const keyOf = (axis: 'roll' | 'pitch', part: 'p' | 'i' | 'd' | 'forward') =>
    inSet(`rate.${axis}.${part}`, set);
  const seconds = FINDS_AXIS_S * (s.choice('tune.axes') === 'both' ? 2 : 1);
  const take = (found: Readonly<Record<'roll' | 'pitch', FoundAxis | null>>) =>
    dispatch(
      staged(
        Object.fromEntries(
          (['roll', 'pitch'] as const).flatMap((axis) =>
            (found[axis] ? gainsPart(found[axis], rotors) : []).flatMap(([part, value]) => {
              const key = keyOf(axis, part);
              return catalogue.entry(key) && catalogue.checkValue(key, value) === null
                ? [[key, value] as const]
                : [];
            }),
          ),
        ),
      ),
    );
  const found = told && (told.roll || told.pitch) ? told : null;
  return (
    <>
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead />
        </div>
        <Button kind="go" disabled={flying} onClick={rehearse}>
          {flying ? 'Flying …' : 'Rehearse it'}
        </Button>
      </div>
      <dl className="mt-3 flex flex-wrap gap-x-8 gap-y-3">
        {[...fields, ...(rotors ? [] : [servo])].map(([key, name]) => (
          <Named key={key} name={name}>
            <SettingField name={key} />
          </Named>
        ))}
      </dl>
      <section aria-label="What it will do" className="mt-4 border-line border-t pt-3">
        <h2 className="font-semibold">What it will do</h2>
        <ol className="mt-1 max-w-[720px] list-decimal pl-5">
          <li>
            In calm air, bring it up to {formatQuantity(FINDS_LOWEST_M, 'm', units, 0)} and more over where it
            was armed, into {rotors ? 'Position hold' : 'Height hold'} or Level, and put the switch on.
          </li>
          <li>
            For {seconds} s it turns to and fro, slowly and then quicker and quicker. Keep your hands at the
            sticks: what they ask for is flown besides.
            {!rotors &&
              ` It goes straight on meanwhile, ${formatQuantity(seconds * s.number('nav.speed'), 'm', units, 0)} of way.`}
          </li>
          <li>
            Put the switch back and it stops at once. So it does where the link is lost, or a mode that flies
            by itself takes over.
          </li>
          <li>Land, plug it in, and take over here what it found. Nothing is written before.</li>
        </ol>
      </section>
      {fault && <Notice className="mt-3">{fault}</Notice>}
      {seen && (
        <section aria-label="Rehearsed" className="mt-4 border-line border-t pt-3">
          <h2 className="font-semibold">Rehearsed in the bench</h2>
          <TuneTrace
            bank={seen.bank}
            pitch={seen.pitch}
            height={seen.height}
            stepS={seen.stepS}
            units={units}
          />
          <GainsFound found={seen.found} values={values} model={seen.model} keyOf={keyOf} />
          <ul className="mt-2 text-soft">
            {seen.said.map((t) => (
              <li key={t}>
                <Told>{t}</Told>
              </li>
            ))}
          </ul>
          <Button
            className="mt-2"
            disabled={!seen.found.roll && !seen.found.pitch}
            onClick={() => take(seen.found)}
          >
            Take over what was found
          </Button>
        </section>
      )}
      <section aria-label="On the board" className="mt-4 border-line border-t pt-3">
        <h2 className="font-semibold">On the board</h2>
        {found ? (
          <>
            <GainsFound found={found} values={values} model={null} keyOf={keyOf} />
            <Button className="mt-2" onClick={() => take(found)}>
              Take over what it found
            </Button>
          </>
        ) : (
          <p className="text-soft" role="status">
            {boardWords(told)}
          </p>
        )}
      </section>
      {!rotors && <TrimPart />}
    </>
  );
}

function boardWords(told: ReturnType<typeof live<'tune'>>): string {
  if (!told)
    return 'Plugged in after such a flight, the board tells here what it found, until it loses its power.';
  if (told.state === 'roll' || told.state === 'pitch')
    return `It finds gains of ${told.state}, ${formatNumber(told.seconds, 0)} s of ${FINDS_AXIS_S} so far.`;
  return told.state === 'waits'
    ? 'Its switch is on, and it waits until it is in the air.'
    : 'Since it has power it has found none.';
}
