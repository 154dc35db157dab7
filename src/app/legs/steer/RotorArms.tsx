import { actuatorNames } from '#core/airframe/actuators.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import { outputDriving } from '#core/mixer/commanded.ts';
import { armMixes, editsFromArms } from '#core/mixer/rotorArms.ts';
import { settingOf } from '#core/settings/typed.ts';
import { selectCatalogue, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Table } from '../../ui/Table.tsx';

/** Rotors by the usual shape of the frame, or by where each one stands. */
export function RotorArms({ airframe }: { readonly airframe: Airframe }) {
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const dispatch = useAppDispatch();
  if (!catalogue.entry('mix.rotors')) return null;
  const byArms = settingOf(values, 'mix.rotors') === 'arms';
  const rotors = airframe.motors.map((m) => ({ id: m.id, output: outputDriving(values, m.id) }));
  const can = armMixes(
    airframe.motors.map((m) => ({ right: m.rightM, ahead: airframe.cgAftM - m.aftM, turns: m.spin })),
  );
  return (
    <section className="mt-3 max-w-[760px] border-line border-t pt-3" aria-label="Rotors and their arms">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <h2 className="font-semibold">Rotors answer</h2>
        <SettingField name="mix.rotors" />
        <span className="flex-1" />
        <Button
          disabled={can === null || rotors.some((r) => r.output === null)}
          onClick={() => dispatch(staged(editsFromArms(airframe, values)))}
        >
          Take the arms of this craft
        </Button>
      </div>
      <p className="text-soft">
        {can === null
          ? 'Where these rotors stand they cannot roll and pitch the craft apart: see The craft.'
          : byArms
            ? 'Each command turns the craft about its own axis, wherever the rotors stand. From the centre of gravity:'
            : 'A frame with arms of unequal length, or rotors in other places, turns cleanly only by where each one stands.'}
      </p>
      {byArms && (
        <Table className="mt-1">
          <thead>
            <tr>
              <th>Rotor</th>
              <th>to the right</th>
              <th>ahead</th>
              <th>turns, from above</th>
            </tr>
          </thead>
          <tbody>
            {rotors.map(({ id, output }) => (
              <tr key={id}>
                <td className="font-medium">{actuatorNames[id]}</td>
                {output === null ? (
                  <td colSpan={3} className="text-amber">
                    no output drives it
                  </td>
                ) : (
                  <>
                    <td>
                      <SettingField name={`out.${output}.armRight`} />
                    </td>
                    <td>
                      <SettingField name={`out.${output}.armAhead`} />
                    </td>
                    <td>
                      <SettingField name={`out.${output}.turns`} />
                    </td>
                  </>
                )}
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </section>
  );
}
