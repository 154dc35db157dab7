import { portKey } from '#core/board/portUses.ts';
import { switchedModes } from '#core/modes/modes.ts';
import type { CrossRule } from '#core/settings/catalogueSchema.ts';
import { OUTPUT_COUNT, PORT_COUNT } from './counts.ts';

/** Rules between settings, which the board enforces at commit. */
export const rules: CrossRule[] = [
  {
    kind: 'different',
    keys: ['rx.roll.channel', 'rx.pitch.channel', 'rx.throttle.channel', 'rx.yaw.channel'],
    except: '',
    why: 'Two sticks cannot be on one receiver channel',
  },
  ...(['roll', 'pitch', 'yaw'] as const).flatMap((stick): CrossRule[] => [
    {
      kind: 'below',
      a: `rx.${stick}.low`,
      b: `rx.${stick}.middle`,
      gap: 100,
      why: 'The stick’s low end has to lie at least 100 us below its middle.',
    },
    {
      kind: 'below',
      a: `rx.${stick}.middle`,
      b: `rx.${stick}.high`,
      gap: 100,
      why: 'The stick’s middle has to lie at least 100 us below its high end.',
    },
  ]),
  {
    kind: 'below',
    a: 'battery.empty',
    b: 'battery.low',
    gap: 0.05,
    why: 'The empty cell voltage has to lie below the low one.',
  },
  {
    kind: 'below',
    a: 'arm.from',
    b: 'arm.to',
    gap: 20,
    why: 'The arming band has to begin at least 20 us before it ends.',
  },
  {
    kind: 'below',
    a: 'nav.speedFloor',
    b: 'nav.speed',
    gap: 1,
    why: 'The least airspeed has to lie at least 1 m/s below the cruise speed.',
  },
  {
    kind: 'below',
    a: 'nav.speedFloor',
    b: 'return.speed',
    gap: 1,
    why: 'The least airspeed has to lie at least 1 m/s below the return speed.',
  },
  {
    kind: 'below',
    a: 'land.flare',
    b: 'land.height',
    gap: 5,
    why: 'The flare has to begin at least 5 m below the approach.',
  },
];
rules.push({
  kind: 'different',
  keys: Array.from({ length: PORT_COUNT }, (_, i) => portKey(i + 1)),
  except: 'free',
  why: 'Two ports cannot be for the same thing',
});
for (let n = 1; n <= OUTPUT_COUNT; n++) {
  rules.push({
    kind: 'below',
    a: `out.${n}.low`,
    b: `out.${n}.centre`,
    gap: 50,
    why: `Output ${n}: the low end has to lie at least 50 us below the centre.`,
  });
  rules.push({
    kind: 'below',
    a: `out.${n}.centre`,
    b: `out.${n}.high`,
    gap: 50,
    why: `Output ${n}: the centre has to lie at least 50 us below the high end.`,
  });
}
for (const id of switchedModes) {
  rules.push({
    kind: 'below',
    a: `mode.${id}.from`,
    b: `mode.${id}.to`,
    gap: 20,
    why: 'A switch band has to begin at least 20 us before it ends.',
  });
}
