import { modeNames, switchedModes } from '#core/modes/modes.ts';
import type { EntryBook } from './entryBook.ts';

/** Least, most, usual and step of each end and of the middle, us, and where the stick is then. */
const stickEnds = {
  low: [[800, 1300, 1000, 1], 'at its lower end'],
  middle: [[1300, 1700, 1500, 1], 'at rest'],
  high: [[1700, 2200, 2000, 1], 'at its upper end'],
} as const;

/** Receiver, switches and arming: how the pilot is heard. */
export function addPilotSettings(book: EntryBook): void {
  book.group = 'Receiver';
  book.choice(
    'rx.protocol',
    'Receiver protocol',
    [
      ['crsf', 'CRSF'],
      ['sbus', 'SBUS'],
      ['pulse-train', 'pulse train (PPM)'],
    ],
    'crsf',
    'How the receiver speaks to the board.',
    'restart',
  );
  book.choice(
    'rx.levels',
    'Receiver levels',
    [
      ['usual', 'as its protocol has them'],
      ['turned', 'turned round'],
    ],
    'usual',
    'Some receivers turn the levels of their wire round, and some adapters do.',
    'restart',
  );
  book.choice(
    'rx.wires',
    'Receiver wire',
    [
      ['two', 'a wire each way'],
      ['one', 'one wire both ways'],
    ],
    'two',
    'A receiver on one wire hangs on the pad that the board sends on.',
    'restart',
  );
  book.number(
    'rx.lossBelow',
    'Throttle that means loss',
    'us',
    [0, 1100, 0, 1],
    'For a receiver that sends made-up values: a throttle pulse below this counts as a lost link. 0 turns it off.',
    'now',
    'integer',
  );
  book.channel(
    'rx.quality.channel',
    'Link quality channel',
    0,
    'Receiver channel that carries how well it hears. 0: what the protocol says of the link is taken.',
  );
  book.number(
    'rx.quality.none',
    'Link quality, none',
    'us',
    [800, 2200, 1000, 1],
    'Pulse of that channel when nothing is heard: the link counts as lost.',
    'now',
    'integer',
  );
  book.number(
    'rx.quality.full',
    'Link quality, full',
    'us',
    [800, 2200, 2000, 1],
    'Pulse of that channel when all is heard; it may be the lower of the two.',
    'now',
    'integer',
  );
  book.channel('rx.roll.channel', 'Roll channel', 1, 'Which receiver channel carries the roll stick.');
  book.channel('rx.pitch.channel', 'Pitch channel', 2, 'Which receiver channel carries the pitch stick.');
  book.channel(
    'rx.throttle.channel',
    'Throttle channel',
    3,
    'Which receiver channel carries the throttle stick.',
  );
  book.channel('rx.yaw.channel', 'Yaw channel', 4, 'Which receiver channel carries the yaw stick.');
  book.flag(
    'rx.pitch.pullHigh',
    'Pull gives a long pulse',
    true,
    'Whether pulling the pitch stick back lengthens the pulse.',
  );
  for (const [part, [range, words]] of Object.entries(stickEnds))
    for (const stick of ['roll', 'pitch', 'throttle', 'yaw'] as const) {
      // The throttle stays where it is put: it has no middle.
      if (part === 'middle' && stick === 'throttle') continue;
      const name = `${stick[0]!.toUpperCase()}${stick.slice(1)}`;
      book.number(
        `rx.${stick}.${part}`,
        `${name} ${part === 'middle' ? 'middle' : `${part} end`}`,
        'us',
        range,
        `Pulse of the ${stick} stick ${words}.`,
        'now',
        'integer',
      );
    }
  book.number(
    'rx.deadband',
    'Stick deadband',
    'us',
    [0, 50, 4, 1],
    'Movement about the middle that is taken as rest.',
    'now',
    'integer',
  );
  book.number(
    'rx.expo',
    'Stick expo',
    'share',
    [0, 0.9, 0.2, 0.05],
    'Softens the sticks about the middle; the ends stay.',
  );

  book.group = 'Switches';
  book.channel(
    'arm.channel',
    'Arming channel',
    0,
    'Receiver channel that arms. 0 is none: the craft cannot be armed.',
  );
  book.number(
    'arm.from',
    'Arming from',
    'us',
    [800, 2200, 1700, 10],
    'Arming band begins here.',
    'now',
    'integer',
  );
  book.number('arm.to', 'Arming to', 'us', [800, 2200, 2200, 10], 'Arming band ends here.', 'now', 'integer');
  book.channel(
    'flip.channel',
    'Turning over, channel',
    0,
    'Receiver channel that has a rotorcraft which lies on its back arm to turn itself over. 0 is none.',
  );
  for (const [end, fallback] of [
    ['from', 1700],
    ['to', 2200],
  ] as const)
    book.number(
      `flip.${end}`,
      `Turning over ${end}`,
      'us',
      [800, 2200, fallback, 10],
      `The band of turning over ${end === 'from' ? 'begins' : 'ends'} here.`,
      'now',
      'integer',
    );
  book.number(
    'flip.power',
    'Turning over, power',
    'share',
    [0.1, 1, 0.6, 0.05],
    'What a rotor gets at full stick while the craft turns over. Backwards they push about half as hard.',
  );
  for (const id of switchedModes) {
    const name = modeNames[id];
    book.channel(
      `mode.${id}.channel`,
      `${name} channel`,
      0,
      `Receiver channel that asks for the mode ${name}. 0 is none.`,
    );
    book.number(
      `mode.${id}.from`,
      `${name} from`,
      'us',
      [800, 2200, 1700, 10],
      'The switch asks for the mode from here.',
      'now',
      'integer',
    );
    book.number(
      `mode.${id}.to`,
      `${name} to`,
      'us',
      [800, 2200, 2200, 10],
      'The switch asks for the mode up to here.',
      'now',
      'integer',
    );
  }
  book.channel('flap.channel', 'Flap channel', 0, 'Receiver channel that sets the flaps. 0 keeps them up.');
  book.channel(
    'set.channel',
    'Control set channel',
    0,
    'Three-position switch that chooses the control set while disarmed. 0 takes the chosen one.',
  );

  book.group = 'Arming';
  book.number(
    'arm.tilt',
    'Greatest tilt to arm',
    'deg',
    [5, 90, 45, 1],
    'A craft tilted more than this does not arm.',
  );
  book.flag(
    'arm.needFix',
    'Arm only with a fix',
    true,
    'Without a fix no home is stored, and no return can work.',
  );
  book.number(
    'arm.satellites',
    'Satellites to arm',
    'count',
    [4, 20, 8, 1],
    'Satellites used before home is trusted.',
    'now',
    'integer',
  );
  book.number(
    'arm.throttle',
    'Throttle low below',
    'share',
    [0.01, 0.2, 0.05, 0.01],
    'Throttle stick has to be below this to arm.',
  );
  book.flag(
    'arm.needCompass',
    'Arm only with a compass',
    false,
    'Refuses to arm while a fitted compass says nothing or something impossible.',
  );
  book.flag('arm.needStill', 'Arm only when still', true, 'Refuses to arm while the craft is being moved.');
  book.choice(
    'home.rule',
    'Home is set',
    [
      ['each-arming', 'at every arming'],
      ['first-arming', 'at the first arming after power-on'],
    ],
    'each-arming',
    'When the board stores where home is.',
  );
}
