import { actuatorIds, actuatorNames } from '#core/airframe/actuators.ts';
import { OUTPUT_COUNT, TIMER_COUNT } from './counts.ts';
import type { EntryBook } from './entryBook.ts';

/** What each output drives, its ends and its timer. */
export function addOutputsSettings(book: EntryBook): void {
  book.group = 'Outputs';
  const drives = [
    ['nothing', 'nothing'] as const,
    ...actuatorIds.map((id) => [id, actuatorNames[id]] as const),
  ];
  for (let n = 1; n <= OUTPUT_COUNT; n++) {
    book.choice(
      `out.${n}.drives`,
      `Output ${n} drives`,
      drives,
      'nothing',
      'What is connected to this output.',
    );
    book.flag(
      `out.${n}.reversed`,
      `Output ${n} reversed`,
      false,
      'Turns the servo the other way. Correct a surface here, never in the radio.',
    );
    book.number(
      `out.${n}.low`,
      `Output ${n} low end`,
      'us',
      [800, 1500, 1000, 1],
      'Pulse at one end of the travel; a motor stands still here.',
      'now',
      'integer',
    );
    book.number(
      `out.${n}.centre`,
      `Output ${n} centre`,
      'us',
      [900, 2100, 1500, 1],
      'Pulse with the surface in its middle.',
      'now',
      'integer',
    );
    book.number(
      `out.${n}.high`,
      `Output ${n} high end`,
      'us',
      [1500, 2200, 2000, 1],
      'Pulse at the other end of the travel; a motor runs fully here.',
      'now',
      'integer',
    );
    book.number(
      `out.${n}.speed`,
      `Output ${n} speed`,
      'us/s',
      [0, 10000, 0, 100],
      'Fastest change of the pulse. 0 leaves it to the servo.',
    );
    for (const [what, label] of [
      ['armRight', 'right'],
      ['armAhead', 'ahead'],
    ] as const)
      book.number(
        `out.${n}.${what}`,
        `Output ${n}, rotor ${label} of the middle`,
        'mm',
        [-3000, 3000, 0, 1],
        `How far its rotor stands ${label} of the centre of gravity, where rotors go by their arms.`,
      );
    book.choice(
      `out.${n}.turns`,
      `Output ${n}, rotor turns`,
      [
        ['clockwise', 'clockwise'],
        ['anticlockwise', 'anticlockwise'],
      ],
      'clockwise',
      'How its rotor turns seen from above, where rotors go by their arms.',
    );
  }
  for (let n = 1; n <= TIMER_COUNT; n++) {
    book.choice(
      `timer.${n}.sends`,
      `Timer ${n} sends`,
      [
        ['pulses', 'pulses'],
        ['dshot300', 'DShot 300'],
        ['dshot600', 'DShot 600'],
      ],
      'pulses',
      'What every output on this timer sends. Servos understand pulses only, motor controllers frames as well.',
      'restart',
    );
    book.choice(
      `timer.${n}.rate`,
      `Timer ${n} rate`,
      [
        ['50', '50 Hz'],
        ['100', '100 Hz'],
        ['200', '200 Hz'],
        ['400', '400 Hz'],
      ],
      '50',
      'How often every output on this timer gets a pulse. Many servos stand only 50 Hz.',
      'restart',
    );
  }
}
