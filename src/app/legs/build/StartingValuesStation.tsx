import { isRotorcraft } from '#core/airframe/airframe.ts';
import { unfitness } from '#core/airframe/fitness.ts';
import { sameValue } from '#core/settings/catalogue.ts';
import { valueText } from '#core/settings/valueText.ts';
import { useStartingValues } from '../../startingValues.ts';
import { selectCatalogue, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Told } from '../../ui/Told.tsx';
import { Lead } from '../Lead.tsx';

/** Values computed for this craft, each with its reason, to be put into the tray. */
export default function StartingValuesStation() {
  const catalogue = useApp(selectCatalogue);
  const values = useApp(selectValues);
  const units = useApp((s) => s.ui.units);
  const dispatch = useAppDispatch();
  const airframe = useApp((s) => s.craft.airframe);
  const computed = useStartingValues();
  const refused = airframe ? unfitness(airframe).filter((u) => u.grade === 'cannot') : [];
  const list = computed?.filter((s) => catalogue.entry(s.key)) ?? [];
  const other = list.filter((s) => !sameValue(values[s.key], s.value));
  const groups = [...new Set(list.map((s) => catalogue.entry(s.key)!.group))];
  return (
    <>
      <Lead>
        {airframe && isRotorcraft(airframe)
          ? 'Computed from the craft as described, not from a table for all: gains from its inertia and its motors’ answer, throttle from its hover, speeds from what its lean gives.'
          : undefined}
      </Lead>
      {refused.length > 0 && (
        <Notice tone="grave" className="mt-3 max-w-[720px]">
          <b className="font-semibold text-red">
            No values make this craft fly. They are not put into the tray.
          </b>
          <ul className="mt-1">
            {refused.map((u) => (
              <li key={u.id}>
                <Told>{u.title}</Told>.{' '}
                <span className="text-soft">
                  <Told>{u.why}</Told>
                </span>
              </li>
            ))}
          </ul>
        </Notice>
      )}
      <div className="mt-3 flex items-center gap-4">
        <Button
          kind="go"
          disabled={other.length === 0 || refused.length > 0}
          onClick={() => dispatch(staged(Object.fromEntries(other.map((s) => [s.key, s.value]))))}
        >
          {list.length === 0
            ? 'Nothing to put'
            : other.length === 0
              ? 'All in place'
              : `Put ${other.length} values into the tray`}
        </Button>
        <span className="text-soft">
          {computed === null
            ? 'Computing…'
            : list.length === 0
              ? 'None of the values that are computed is a setting of this board.'
              : `${list.length - other.length} of ${list.length} are already so.`}
        </span>
      </div>
      {groups.map((group) => (
        <section key={group} className="mt-4 max-w-[720px]">
          <h2 className="label">{group}</h2>
          <ul>
            {list
              .filter((s) => catalogue.entry(s.key)!.group === group)
              .map((s) => {
                const entry = catalogue.entry(s.key);
                const same = sameValue(values[s.key], s.value);
                return (
                  <li
                    key={s.key}
                    className="grid grid-cols-[180px_130px_1fr] items-baseline gap-3 border-line border-b py-1.5"
                  >
                    <span>{entry?.label}</span>
                    <span className="text-right">
                      {!same && (
                        <s className="num mr-2 text-faint text-sm">
                          {valueText(entry, values[s.key], units)}
                        </s>
                      )}
                      <b className={`num font-medium ${same ? 'text-soft' : ''}`}>
                        {valueText(entry, s.value, units)}
                      </b>
                    </span>
                    <span className="text-[13px] text-soft">
                      <Told>{s.why}</Told>
                    </span>
                  </li>
                );
              })}
          </ul>
        </section>
      ))}
    </>
  );
}
