import { modeNames } from '#core/modes/modes.ts';
import { useSampled, useStatus } from '../../live/hooks.ts';
import { liveNumbers } from '../../live/telemetry.ts';
import { selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Lead } from '../../ui/Lead.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { NeedsBoard } from './NeedsBoard.tsx';

const bands = [
  { key: 'arm', name: 'Arming', why: 'motors answer the throttle' },
  { key: 'mode.rate', name: 'Rate', why: 'sticks ask for turn rates' },
  { key: 'mode.level', name: 'Level', why: 'hands off it flies level' },
  { key: 'mode.return', name: 'Return home', why: 'comes back and circles; wins over the others' },
] as const;

const percent = (us: number) => Math.min(100, Math.max(0, ((us - 900) / 1200) * 100));

/** What each switch asks for: bands on receiver channels, with where each switch stands now. */
export default function SwitchesStation() {
  const values = useApp(selectValues);
  const status = useStatus();
  const channels = useSampled(() => liveNumbers('receiver'), 60);
  return (
    <>
      <Lead title="Switches to modes">
        Each band asks for something while its channel stands inside it. With none asked for the craft is in
        Manual. The mark is where the switch stands now.
      </Lead>
      <NeedsBoard>
        <ul className="mt-4 max-w-[700px] space-y-3">
          {bands.map((b) => {
            const channel = values[`${b.key}.channel`] as number;
            const from = values[`${b.key}.from`] as number;
            const to = values[`${b.key}.to`] as number;
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
        <p className="mt-4" role="status">
          {status ? (
            <>
              The board is in <b className="font-semibold text-lake">{modeNames[status.mode]}</b>
              {status.armed ? ', armed.' : ', not armed.'}
            </>
          ) : null}
        </p>
      </NeedsBoard>
    </>
  );
}
