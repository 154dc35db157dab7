import { useState } from 'react';
import { type ActuatorId, actuatorNames } from '#core/airframe/actuators.ts';
import { outputDriving } from '#core/mixer/commanded.ts';
import { freeRowNumber, freeRowsOf, MIX_ROWS } from '#core/mixer/freeRows.ts';
import { settingOf } from '#core/settings/typed.ts';
import { selectCatalogue, selectDescription, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Select } from '../../ui/Select.tsx';
import { SettingField } from '../../ui/SettingField.tsx';

/** Mixes of one's own that people make, each as rows between surfaces of the craft. */
const ready: readonly {
  readonly name: string;
  readonly rows: readonly { readonly to: ActuatorId; readonly from: string; readonly weight: number }[];
}[] = [
  {
    name: 'crow: ailerons up with the flaps',
    rows: [
      { to: 'left-aileron', from: 'flap', weight: -0.6 },
      { to: 'right-aileron', from: 'flap', weight: -0.6 },
    ],
  },
  {
    name: 'snap flap: flaps with the elevator',
    rows: [
      { to: 'left-flap', from: 'pitch', weight: 0.2 },
      { to: 'right-flap', from: 'pitch', weight: 0.2 },
    ],
  },
  {
    name: 'elevator down with the flaps',
    rows: [{ to: 'elevator', from: 'flap', weight: 0.15 }],
  },
  {
    name: 'rudder with the roll stick',
    rows: [{ to: 'rudder', from: 'stick-roll', weight: -0.3 }],
  },
  // An elevator before the wing raises the nose by going down: the usual mix, and twice the other way.
  {
    name: 'canard: the elevator before the wing turned round',
    rows: [{ to: 'elevator', from: 'pitch', weight: 2 }],
  },
  // Of a right angle of bank a servo that goes 45 degrees to a side gives twice its travel, and stops at its ends.
  { name: 'gimbal level in a bank', rows: [{ to: 'gimbal-roll', from: 'bank', weight: 2 }] },
  { name: 'gimbal level when the nose rises', rows: [{ to: 'gimbal-pitch', from: 'nose', weight: 2 }] },
  { name: 'pan by a knob', rows: [{ to: 'pan', from: 'channel-9', weight: 1 }] },
  { name: 'tilt by a knob', rows: [{ to: 'tilt', from: 'channel-10', weight: 1 }] },
  { name: 'lights by a switch', rows: [{ to: 'lights', from: 'channel-11', weight: 1 }] },
  { name: 'release by a switch', rows: [{ to: 'release', from: 'channel-12', weight: 1 }] },
];

/** Rows of a mix of one's own: what adds to which output, how much, and when. */
export function MixRows() {
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const pads = useApp(selectDescription)?.pads ?? [];
  const dispatch = useAppDispatch();
  const [output, setOutput] = useState('');
  const [mix, setMix] = useState('');
  if (!catalogue.entry('mix.row.1.to')) return null;
  const used = freeRowsOf(values);
  // A row that has an output and no weight yet is being made.
  const numbers = Array.from({ length: MIX_ROWS }, (_, k) => k + 1).filter(
    (n) => (settingOf(values, `mix.row.${n}.to`) ?? 0) > 0,
  );
  const next = freeRowNumber(values);
  const nameOf = (n: number) => {
    const drives = settingOf(values, `out.${n}.drives`);
    return drives && drives !== 'nothing' ? `${actuatorNames[drives]}, output ${n}` : `output ${n}`;
  };
  const fits = ready.filter((r) => r.rows.every((row) => outputDriving(values, row.to) !== null));
  const usual = (n: number) => ({
    [`mix.row.${n}.low`]: -1,
    [`mix.row.${n}.high`]: 1,
    [`mix.row.${n}.curve`]: 0,
    [`mix.row.${n}.channel`]: 0,
  });
  const addReady = () => {
    const chosen = fits.find((r) => r.name === mix);
    if (!chosen) return;
    const free = Array.from({ length: MIX_ROWS }, (_, k) => k + 1).filter(
      (n) => settingOf(values, `mix.row.${n}.to`) === 0,
    );
    if (free.length < chosen.rows.length) return;
    dispatch(
      staged(
        Object.assign(
          {},
          ...chosen.rows.map((row, i) => ({
            ...usual(free[i]!),
            [`mix.row.${free[i]}.to`]: outputDriving(values, row.to)!,
            [`mix.row.${free[i]}.from`]: row.from,
            [`mix.row.${free[i]}.weight`]: row.weight,
          })),
        ),
      ),
    );
    setMix('');
  };
  return (
    <section className="mt-3 max-w-[760px] border-line border-t pt-3" aria-label="Rows of your own">
      <h2 className="font-semibold">Rows of your own</h2>
      <p className="text-soft">
        {numbers.length === 0
          ? `What else an output shall follow: a command, a stick, how the craft lies, a knob or a switch. ${MIX_ROWS} rows, none in use.`
          : `${numbers.length} of ${MIX_ROWS} in use. Drawn above in amber; broken where a switch lets them act.`}
      </p>
      <ul className="mt-1">
        {numbers.map((n) => {
          const to = settingOf(values, `mix.row.${n}.to`)!;
          const channel = settingOf(values, `mix.row.${n}.channel`) ?? 0;
          return (
            <li key={n} className="border-line border-t py-1.5" aria-label={`Row ${n}`}>
              <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
                <b className="min-w-[150px] font-medium">{nameOf(to)}</b>
                <span>
                  follows <SettingField name={`mix.row.${n}.from`} />
                </span>
                <span>
                  by <SettingField name={`mix.row.${n}.weight`} />
                </span>
                <span className="flex-1" />
                <Button
                  kind="flat"
                  onClick={() => dispatch(staged({ [`mix.row.${n}.to`]: 0, [`mix.row.${n}.weight`]: 0 }))}
                >
                  Take it out
                </Button>
              </div>
              <div className="flex flex-wrap items-baseline gap-x-4 text-[13px] text-soft">
                <span>
                  between <SettingField name={`mix.row.${n}.low`} /> and{' '}
                  <SettingField name={`mix.row.${n}.high`} />
                </span>
                <span>
                  softer by <SettingField name={`mix.row.${n}.curve`} />
                </span>
                <span>
                  when channel <SettingField name={`mix.row.${n}.channel`} />
                  {channel > 0 ? (
                    <>
                      {' '}
                      is from <SettingField name={`mix.row.${n}.fromUs`} /> to{' '}
                      <SettingField name={`mix.row.${n}.toUs`} />
                    </>
                  ) : (
                    ' (always)'
                  )}
                </span>
                {!used.some((r) => r.n === n) && (
                  <span className="text-amber">Without a weight it does nothing.</span>
                )}
              </div>
            </li>
          );
        })}
      </ul>
      <div className="mt-2 flex flex-wrap items-center gap-x-6 gap-y-2 border-line border-t pt-2">
        <span className="flex items-center gap-2">
          <Select
            aria-label="Output of a new row"
            className="text-[13px]"
            value={output}
            onChange={(e) => setOutput(e.target.value)}
          >
            <option value="">a row for…</option>
            {pads.map((p) => (
              <option key={p.output} value={p.output}>
                {nameOf(p.output)}
              </option>
            ))}
          </Select>
          <Button
            disabled={output === '' || next === null}
            onClick={() => {
              if (next === null || output === '') return;
              dispatch(
                staged({
                  ...usual(next),
                  [`mix.row.${next}.to`]: Number(output),
                  [`mix.row.${next}.from`]: 'roll',
                  [`mix.row.${next}.weight`]: 0.2,
                }),
              );
              setOutput('');
            }}
          >
            Add it
          </Button>
        </span>
        {fits.length > 0 && (
          <span className="flex items-center gap-2">
            <Select
              aria-label="A mix that people make"
              className="text-[13px]"
              value={mix}
              onChange={(e) => setMix(e.target.value)}
            >
              <option value="">a mix that people make…</option>
              {fits.map((r) => (
                <option key={r.name}>{r.name}</option>
              ))}
            </Select>
            <Button disabled={mix === '' || next === null} onClick={addReady}>
              Add these rows
            </Button>
          </span>
        )}
      </div>
    </section>
  );
}
