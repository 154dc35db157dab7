import { useMemo, useRef } from 'react';
import { pocketCard } from '#core/byHand/card.ts';
import { GestureWatch, gestures, HOLD_S } from '#core/byHand/gestures.ts';
import { stickDemand, stickShapeOf } from '#core/modes/stickShape.ts';
import { armsIn, bandsOf, maskAt } from '#core/modes/switchMap.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Lead } from '../Lead.tsx';
import { MenuTrial } from './hand/MenuTrial.tsx';
import { PocketCard } from './hand/PocketCard.tsx';
import { SticksPicture } from './hand/SticksPicture.tsx';

const LOOK_MS = 50;

/** What can be changed with the transmitter alone. */
export default function NoComputerStation() {
  const values = useApp(selectValues);
  const units = useApp((s) => s.ui.units);
  const ready = useApp((s) => s.board.link === 'ready');
  const on = values['hand.gestures'] === true;
  /** As the board has it, not as it is drafted. */
  const listens = useApp((s) => s.board.link === 'ready' && s.settings.base['hand.gestures'] === true);
  const parts = useMemo(() => pocketCard(values, units), [values, units]);
  const watch = useRef(new GestureWatch());
  const atMs = useRef(performance.now());
  const held = useSampled(() => {
    const now = performance.now();
    const dt = (now - atMs.current) / 1000;
    atMs.current = now;
    const channels = live('receiver')?.channels;
    if (!channels || !listens) return null;
    if (asksToArm(channels, values)) return 'deaf';
    watch.current.step(sticksOf(channels, values), dt);
    const { held: id, heldS } = watch.current;
    return id && { id, share: heldS / HOLD_S };
  }, LOOK_MS);
  const deaf = held === 'deaf';
  return (
    <>
      <Lead />
      <section aria-label="By stick" className="mt-3">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h2 className="font-semibold">With the sticks, on the ground</h2>
          <SettingField name="hand.gestures" />
        </div>
        <p className="mt-0.5 max-w-[660px] text-[13px] text-soft">
          Disarmed, the left stick goes into a lower corner and the right one to a side, both held a good
          second. The board says over the picture what it did. In the air, and while the arming switch is on,
          none of it works.{' '}
          <span role="status" className={deaf ? 'text-amber' : ''}>
            {!ready
              ? 'Plug the board in to try it.'
              : !listens
                ? 'As the board is set now it does not listen to the sticks.'
                : deaf
                  ? 'The arming switch is on now: the board listens to none of it.'
                  : 'Try it: what your sticks stand in lights up here, and the board does it.'}
          </span>
        </p>
        <ul
          className={`mt-2 grid grid-cols-[repeat(auto-fill,minmax(320px,1fr))] gap-x-6 gap-y-2 ${on ? '' : 'opacity-55'}`}
        >
          {gestures.map((g) => {
            const share = on && held !== null && held !== 'deaf' && held.id === g.id ? held.share : 0;
            return (
              <li
                key={g.id}
                className={`flex items-center gap-3 rounded-[4px] border px-2 py-1.5 ${share > 0 ? 'border-lake bg-lake-wash' : 'border-line'}`}
              >
                <SticksPicture gesture={g} heldShare={share} />
                <span>
                  <b className="font-semibold">{g.name}</b>
                  {share >= 1 && (
                    <span className="ml-2 text-[13px] font-semibold text-ink" role="status">
                      held
                    </span>
                  )}
                  <span className="block text-[13px] text-soft">{g.does}</span>
                </span>
              </li>
            );
          })}
        </ul>
      </section>
      <section aria-label="The menu" className="mt-4 border-line border-t pt-3">
        <h2 className="mb-2 font-semibold">The menu over the picture</h2>
        <MenuTrial values={values} />
      </section>
      <section aria-label="The card" className="mt-4 border-line border-t pt-3">
        <div className="flex flex-wrap items-center gap-4">
          <h2 className="font-semibold">A card for the pocket</h2>
          <Button onClick={() => window.print()}>Print it</Button>
          <span className="text-[13px] text-soft">
            of this set-up as it is drafted; print it anew when it changes
          </span>
        </div>
        <PocketCard parts={parts} />
      </section>
    </>
  );
}

/** The arming switch is on. */
function asksToArm(channels: readonly number[], values: Values): boolean {
  const channel = settingsOf(values).number('arm.channel');
  return channel > 0 && armsIn(maskAt(bandsOf(values), channel, channels[channel - 1] ?? 0));
}

/** Where the sticks stand, by what the receiver tells and how this set-up reads it. */
function sticksOf(channels: readonly number[], values: Values) {
  const s = settingsOf(values);
  const us = (channel: number) => channels[channel - 1] ?? 1500;
  const [low, high] = [s.number('rx.throttle.low'), s.number('rx.throttle.high')];
  const centred = (stick: 'roll' | 'pitch' | 'yaw') =>
    stickDemand(us(s.number(`rx.${stick}.channel`)), stickShapeOf(values, stick));
  const pull = values['rx.pitch.pullHigh'] === false ? -1 : 1;
  return {
    throttle: (us(s.number('rx.throttle.channel')) - low) / Math.max(1, high - low),
    ...{ yaw: centred('yaw'), roll: centred('roll'), pitch: pull * centred('pitch') },
  };
}
