import { useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { modeName, modeNames, ofKind, type SwitchedMode, switchedModes } from '#core/modes/modes.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { TransmitterInHand } from '../../drawing/TransmitterInHand.tsx';
import { useSampled, useStatus } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Select } from '../../ui/Select.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Told } from '../../ui/Told.tsx';
import { Lead } from '../Lead.tsx';
import { type Ask, SwitchDrawn, switchesOf } from './SwitchDrawn.tsx';

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

const WIDTH = 728;
const HEIGHT = 330;

/** What each switch asks for: the transmitter as it lies in the hands, a flag for everything that a position asks for. */
export default function SwitchesStation() {
  const values = useApp(selectValues);
  const status = useStatus();
  const channels = useSampled(() => live('receiver')?.channels ?? null, 60);
  const airframe = useApp((s) => s.craft.airframe)!;
  const [picked, setPicked] = useState<Ask['id']>('arm');
  const rotors = isRotorcraft(airframe);
  const s = settingsOf(values);
  const asks: readonly Ask[] = [
    { id: 'arm' as const, name: 'Armed', why: 'motors answer the throttle' },
    ...switchedModes
      .filter((m) => ofKind(m, rotors))
      .map((m) => ({ id: `mode.${m}` as const, name: modeNames[m], why: whys[m] })),
  ].map((a) => ({
    ...a,
    channel: s.number(`${a.id}.channel`),
    from: s.number(`${a.id}.from`),
    to: s.number(`${a.id}.to`),
  }));
  const switches = switchesOf(asks);
  const without = asks.filter((a) => a.channel === 0);
  const here = asks.find((a) => a.id === picked)!;
  const us = here.channel > 0 ? (channels?.[here.channel - 1] ?? null) : null;
  const asked = us !== null && us >= here.from && us <= here.to;
  const mode = here.id === 'arm' ? null : here.id.slice(5);
  const cannot = mode ? status?.unavailable.find((u) => u.mode === mode)?.why : undefined;
  return (
    <>
      <Lead>
        Each switch of the transmitter, and what its positions ask for; of two that ask, the later mode in the
        list wins. With nothing asked for the craft is in {rotors ? 'Rate' : 'Manual'}.
      </Lead>
      <svg
        viewBox={`${-WIDTH / 2} -150 ${WIDTH} ${HEIGHT}`}
        className="mt-2 max-h-[50vh] min-h-[310px] w-full min-w-[640px]"
        role="group"
        aria-label="The transmitter in the hands, with its switches"
      >
        <TransmitterInHand left={null} right={null} />
        <SwitchDrawn
          switches={switches}
          channels={channels}
          picked={picked}
          onPick={setPicked}
          width={WIDTH}
        />
      </svg>
      <section
        aria-label={`What asks for ${here.name}`}
        className="mt-2 max-w-[700px] rounded-[4px] border border-line bg-paper px-3.5 py-2.5"
      >
        <p>
          <b className="font-semibold">{here.name}</b>{' '}
          <span className="text-soft">
            {here.why}.{' '}
            {here.channel === 0
              ? 'No switch asks for it.'
              : us === null
                ? 'Where its switch stands is not live.'
                : asked
                  ? 'Asked for now.'
                  : `Not asked for now: channel ${here.channel} is at ${us.toFixed(0)} µs.`}
          </span>
        </p>
        {asked && cannot && (
          <p className="text-amber">
            Not to be had now. <Told>{cannot}</Told>
          </p>
        )}
        <div className="mt-1 flex flex-wrap items-baseline gap-x-6 gap-y-1 text-soft">
          <span>
            channel <SettingField name={`${here.id}.channel`} />
          </span>
          <span>
            from <SettingField name={`${here.id}.from`} />
          </span>
          <span>
            to <SettingField name={`${here.id}.to`} />
          </span>
        </div>
      </section>
      <div className="mt-3 flex flex-wrap items-baseline gap-x-6 gap-y-2">
        {without.length > 0 && (
          <Select
            aria-label="Give another mode a switch"
            value=""
            className="max-w-none text-[13px]"
            onChange={(e) => {
              const next = without.find((a) => a.id === e.target.value);
              if (next) setPicked(next.id);
            }}
          >
            <option value="" disabled>
              give another a switch…
            </option>
            {without.map((a) => (
              <option key={a.id} value={a.id}>
                {a.name}
              </option>
            ))}
          </Select>
        )}
        <p role="status">
          {status ? (
            <>
              The board is in <b className="font-semibold text-lake">{modeName(status.mode)}</b>
              {status.armed ? ', armed.' : ', not armed.'}
            </>
          ) : null}
        </p>
      </div>
    </>
  );
}
