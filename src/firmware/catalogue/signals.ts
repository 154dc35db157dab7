import { OUTPUT_COUNT } from './counts.ts';
import type { EntryBook } from './entryBook.ts';

/** What lamps and buzzer tell. */
export function addSignalSettings(book: EntryBook): void {
  book.group = 'Lights and sounds';
  book.number(
    'light.lamps',
    'Lamps on the strip',
    'count',
    [0, 60, 0, 1],
    'The first third is to the left, the second to the right, the rest behind. 0 for no strip.',
    'now',
    'integer',
  );
  book.number(
    'light.output',
    'Output of the strip',
    'count',
    [0, OUTPUT_COUNT, 0, 1],
    'The strip hangs on the pad of this output. Colours need a timer that sends frames, and that nothing else is driven by. 0 for none.',
    'now',
    'integer',
  );
  book.number(
    'light.brightness',
    'Brightness',
    'share',
    [0.05, 1, 0.5, 0.05],
    'Share of all that the lamps can give: full light draws some 40 mA a lamp.',
  );
  book.flag('sound.buzzer', 'Buzzer', true, 'A buzzer hangs on the pad for it.');
  book.channel(
    'find.channel',
    'Find-me channel',
    0,
    'A switch that has the craft call while it is on. 0 for none.',
  );
  book.number(
    'find.afterDown',
    'Calls after landing',
    's',
    [0, 3600, 120, 5],
    'So long on the ground after a flight it calls by itself until it is found. 0 for never.',
  );
  book.number(
    'find.afterLost',
    'Calls after a lost link',
    's',
    [0, 3600, 60, 5],
    'So long without its transmitter, on the ground, it calls by itself. 0 for never.',
  );
  book.flag(
    'find.motors',
    'Motors call as well',
    false,
    'Motor controllers that are sent frames can give tones with their motors, without turning them. Only disarmed.',
  );

  book.group = 'Without a computer';
  book.flag(
    'hand.gestures',
    'Stick gestures',
    true,
    'On the ground the sticks, held in a corner, change control sets and what counts as level.',
  );
}
