import { useState } from 'react';
import { settingOf } from '#core/settings/typed.ts';
import { type Moment, moments } from '#core/signals/signals.ts';
import { stripFault } from '#core/signals/strip.ts';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { selectDescription, selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Named } from '../../ui/Named.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Lead } from '../Lead.tsx';
import { LitCraft } from './signals/LitCraft.tsx';
import { PatternRow } from './signals/PatternRow.tsx';
import { hear } from './signals/tone.ts';

/** What lamps, buzzer and motors tell. */
export default function LightsSoundsStation() {
  const airframe = useApp((s) => s.craft.airframe!);
  const values = useApp(selectValues);
  const description = useApp(selectDescription);
  const linked = useApp((s) => s.board.link === 'ready');
  const told = useSampled(() => live('signals'), 250);
  const [tried, setTried] = useState<Moment | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const lamps = Number(settingOf(values, 'light.lamps') ?? 0);
  const brightness = Number(settingOf(values, 'light.brightness') ?? 0.5);
  const sounds = settingOf(values, 'sound.buzzer') === true;
  const dark = description ? stripFault(values, description) : null;
  const now = linked ? told?.moment : undefined;
  return (
    <>
      <Lead />
      <div className="-mx-1 mt-3 grid grid-cols-[minmax(0,1fr)_290px] gap-6 bg-sheet px-1 pb-2 [@media(min-height:740px)]:sticky [@media(min-height:740px)]:top-0 [@media(min-height:740px)]:z-[2]">
        <div>
          <LitCraft {...{ airframe, lamps, brightness, tried }} />
          {lamps === 0 && <p className="mt-1 text-[13px]">It has no strip: the buzzer tells alone.</p>}
          {dark && <Notice tone="amber">{dark}</Notice>}
          <p className="mt-1 text-[13px] text-soft" role="status">
            {tried
              ? 'A trial, here on the page: the board does what it does.'
              : now
                ? `${lamps > 0 ? 'As the board has its lamps now' : 'Told by sound alone now'}${told!.toneHz > 0 ? `; the buzzer sounds at ${Math.round(told!.toneHz)} Hz` : '; the buzzer is silent'}${told!.motorsSing ? '; the motors sing' : ''}.`
                : 'Plug the board in to see what it tells now, or see a moment below.'}
          </p>
        </div>
        <div className="grid grid-cols-2 content-start gap-x-4 gap-y-2.5">
          <dl>
            <Named name="lamps on the strip">
              <SettingField name="light.lamps" />
            </Named>
          </dl>
          <dl>
            <Named name="on output">
              <SettingField name="light.output" />
            </Named>
          </dl>
          <dl>
            <Named name="brightness">
              <SettingField name="light.brightness" />
            </Named>
          </dl>
          <SettingField name="sound.buzzer" />
          <dl>
            <Named name="calls so long after landing">
              <SettingField name="find.afterDown" />
            </Named>
          </dl>
          <dl>
            <Named name="calls so long after a lost link">
              <SettingField name="find.afterLost" />
            </Named>
          </dl>
          <dl>
            <Named name="calls by a switch on channel">
              <SettingField name="find.channel" />
            </Named>
          </dl>
          <SettingField name="find.motors" />
        </div>
      </div>
      {fault && <Notice>{fault}</Notice>}
      <section aria-label="What each means" className="mt-4">
        <h2 className="font-semibold">What each means, the gravest first</h2>
        <ol className="mt-1">
          {moments.map((m) => (
            <PatternRow
              key={m}
              moment={m}
              now={m === now}
              tried={m === tried}
              sounds={sounds}
              onTry={() => setTried(m === tried ? null : m)}
              onHear={() => setFault(hear(m))}
            />
          ))}
        </ol>
        <p className="mt-1 text-[13px] text-faint">
          Each rhythm is shown over three seconds, light above and sound below.
        </p>
      </section>
    </>
  );
}
