import type { Values } from '#core/settings/catalogue.ts';
import { radioAlarms } from '#core/toldBack/alarms.ts';
import { sensorOf } from '#core/toldBack/sensors.ts';
import type { UnitSystem } from '#core/units/units.ts';
import { Table } from '../../../ui/Table.tsx';

/** Marks for the transmitter's own alarms beside what the board does there. */
export function RadioAlarms({ values, units }: { readonly values: Values; readonly units: UnitSystem }) {
  return (
    <section aria-label="Alarms at the radio" className="mt-4 border-line border-t pt-3">
      <h2 className="font-semibold">Have the radio warn you a little before the board acts</h2>
      <Table className="mt-1 text-[13px]">
        <thead>
          <tr>
            <th scope="col">what</th>
            <th scope="col">alarm at the radio</th>
            <th scope="col">the board by itself</th>
          </tr>
        </thead>
        <tbody>
          {radioAlarms(values, units).map((a) => (
            <tr key={a.what}>
              <th scope="row">{a.what}</th>
              <td className="num">
                {a.deaf ? (
                  <span className="text-amber">
                    hears nothing of it: tell {sensorOf(a.deaf).name.toLowerCase()}
                  </span>
                ) : (
                  a.at
                )}
              </td>
              <td>{a.board}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}
