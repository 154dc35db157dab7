import { useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import {
  type ModeId,
  modeName,
  modeNames,
  ofKind,
  type SwitchedMode,
  switchedModes,
} from '#core/modes/modes.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { useSampled, useStatus } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Select } from '../../ui/Select.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Told } from '../../ui/Told.tsx';
import { Lead } from '../Lead.tsx';

const whys: Readonly<Record<SwitchedMode, string>> = {
  rate: 'sticks ask for turn rates',
  horizon: 'levels itself near the middle, turns freely at the ends',
  level: 'hands off it flies level',
  height: 'keeps its height by itself',
  course: 'keeps height and course over ground',
  hover: 'stays in the air where it is',
  position: 'stays where it is; sticks move it',
  loiter: 'circles here',
  route: 'flies its points in order',
  launch: 'waits for the throw, then climbs by itself',
  return: 'comes back; wins over the others',
};
/** Always shown; the other modes once they have a switch. */
const usual: readonly SwitchedMode[] = ['rate', 'level', 'return'];

const percent = (us: number) => Math.min(100, Math.max(0, ((us - 900) / 1200) * 100));

/** What each switch asks for: bands on receiver channels, with where each switch stands now. */
export default function SwitchesStation() {
  const values = useApp(selectValues);
  const status = useStatus();
  const channels = useSampled(() => live('receiver')?.channels ?? null, 60);
  const airframe = useApp((s) => s.craft.airframe)!;
  const [added, setAdded] = useState<readonly SwitchedMode[]>([]);
  const rotors = isRotorcraft(airframe);
  const kind = switchedModes.filter((m) => ofKind(m, rotors));
  const shown = kind.filter(
    (m) => usual.includes(m) || added.includes(m) || settingsOf(values).number(`mode.${m}.channel`) > 0,
  );
  const bands = [
    { key: 'arm' as const, mode: null, name: 'Arming', why: 'motors answer the throttle' },
    ...shown.map((m) => ({
      key: `mode.${m}` as const,
      mode: m,
      name: modeNames[m],
      why: whys[m],
    })),
  ];
  const unavailable = (mode: ModeId) => status?.unavailable.find((u) => u.mode === mode)?.why;
  return (
    <>
      <Lead>
        Each band asks for something while its channel stands inside it; the lower of two wins. With none
        asked for the craft is in {rotors ? 'Rate' : 'Manual'}. The mark is where the switch stands now.
      </Lead>

      <ul className="mt-4 max-w-[700px] space-y-3">
        {bands.map((b) => {
          const channel = settingsOf(values).number(`${b.key}.channel`);
          const from = settingsOf(values).number(`${b.key}.from`);
          const to = settingsOf(values).number(`${b.key}.to`);
          const us = channels && channel >= 1 ? channels[channel - 1]! : null;
          const inside = us !== null && us >= from && us <= to;
          return (
            <li key={b.key} className="rounded-[4px] bg-paper px-3.5 py-2.5">
              <div className="flex items-baseline gap-3">
                <span className="font-medium">{b.name}</span>
                <span className="text-[13px] text-soft">{b.why}</span>
                <span className={`ml-auto font-label ${inside ? 'text-lake' : 'text-faint'}`}>
                  {channel === 0
                    ? 'no switch'
                    : us === null
                      ? 'not live'
                      : inside
                        ? 'asked for now'
                        : 'not asked for'}
                </span>
              </div>
              {inside && b.mode && unavailable(b.mode) && (
                <p className="text-[13px] text-amber">
                  Not to be had now. <Told>{unavailable(b.mode) ?? ''}</Told>
                </p>
              )}
              <div className="relative mt-2 h-4" aria-hidden="true">
                <i className="absolute top-2 right-0 left-0 border-contour border-t" />
                {channel > 0 && (
                  <i
                    className="absolute top-0.5 h-3 rounded-[2px] border border-forest bg-forest-wash"
                    style={{ left: `${percent(from)}%`, right: `${100 - percent(to)}%` }}
                  />
                )}
                {us !== null && (
                  <i
                    className="absolute top-0 h-4 w-[3px] -translate-x-1/2 bg-lake"
                    style={{ left: `${percent(us)}%` }}
                  />
                )}
              </div>
              <div className="mt-1 flex items-baseline gap-6 text-soft">
                <span>
                  channel <SettingField name={`${b.key}.channel`} />
                </span>
                <span>
                  from <SettingField name={`${b.key}.from`} />
                </span>
                <span>
                  to <SettingField name={`${b.key}.to`} />
                </span>
              </div>
            </li>
          );
        })}
      </ul>
      {shown.length < kind.length && (
        <Select
          aria-label="Give another mode a switch"
          value=""
          className="mt-3 text-[13px]"
          onChange={(e) => {
            const mode = kind.find((m) => m === e.target.value);
            if (mode) setAdded([...added, mode]);
          }}
        >
          <option value="" disabled>
            give another mode a switch…
          </option>
          {kind
            .filter((m) => !shown.includes(m))
            .map((m) => (
              <option key={m} value={m}>
                {modeNames[m]}
              </option>
            ))}
        </Select>
      )}
      <p className="mt-4" role="status">
        {status ? (
          <>
            The board is in <b className="font-semibold text-lake">{modeName(status.mode)}</b>
            {status.armed ? ', armed.' : ', not armed.'}
          </>
        ) : null}
      </p>
    </>
  );
}
