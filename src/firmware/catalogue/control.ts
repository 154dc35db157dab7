import type { EntryBook } from './entryBook.ts';

/** Loops, levelling and motors. */
export function addControlSettings(book: EntryBook): void {
  book.group = 'Rate loops';
  for (const [axis, name] of [
    ['roll', 'Roll'],
    ['pitch', 'Pitch'],
    ['yaw', 'Yaw'],
  ] as const) {
    book.number(
      `rate.${axis}.max`,
      `${name} rate at full stick`,
      'deg/s',
      [10, 720, axis === 'yaw' ? 60 : 150, 5],
      'Turn rate that a full stick asks for in Rate.',
    );
    book.number(
      `rate.${axis}.forward`,
      `${name} feed-forward`,
      'share',
      [0, 2, 0.15, 0.005],
      'Surface per rad/s asked for, at the reference speed.',
    );
    book.number(
      `rate.${axis}.p`,
      `${name} P`,
      'share',
      [0, 2, 0.06, 0.005],
      'Surface per rad/s of error, at the reference speed.',
    );
    book.number(
      `rate.${axis}.i`,
      `${name} I`,
      'share',
      [0, 4, 0.08, 0.005],
      'Surface per rad of summed error, at the reference speed.',
    );
    book.number(
      `rate.${axis}.d`,
      `${name} D`,
      'share',
      [0, 0.2, 0, 0.001],
      'Surface per rad/s^2, against the turn.',
    );
  }
  book.number(
    'rate.reference',
    'Reference speed',
    'm/s',
    [5, 60, 15, 0.5],
    'Airspeed at which the gains hold as written.',
  );
  book.number(
    'rate.sumLimit',
    'Greatest summed correction',
    'share',
    [0, 1, 0.3, 0.05],
    'How much surface the I part may use.',
  );
  book.number(
    'gyro.cutoff',
    'Gyro low-pass',
    'hz',
    [10, 400, 80, 5],
    'Cut-off of the gyro filter. Lower is smoother and slower.',
    'restart',
  );
  book.number(
    'rate.dCutoff',
    'D low-pass',
    'hz',
    [5, 200, 30, 5],
    'Cut-off of the filter before the D part.',
    'restart',
  );

  book.group = 'Level';
  book.number(
    'level.time',
    'Levelling time',
    's',
    [0.1, 2, 0.35, 0.05],
    'Angle error divided by this is the rate asked for.',
  );
  book.number(
    'level.bank',
    'Bank limit',
    'deg',
    [10, 75, 45, 1],
    'Greatest bank in Level and in all navigation.',
  );
  book.number(
    'level.up',
    'Nose-up limit',
    'deg',
    [5, 60, 22, 1],
    'Greatest nose-up angle in Level and navigation.',
  );
  book.number(
    'level.down',
    'Nose-down limit',
    'deg',
    [5, 60, 18, 1],
    'Greatest nose-down angle in Level and navigation.',
  );
  book.number(
    'level.pitch',
    'Cruise pitch',
    'deg',
    [-10, 15, 2, 0.1],
    'Attitude in which the craft flies level at its cruise speed.',
  );

  book.group = 'Motors';
  book.number(
    'motor.idle',
    'Motor idle',
    'share',
    [0, 0.3, 0, 0.01],
    'Lowest duty while armed. 0 lets the motors stand.',
  );
  book.number(
    'motor.cruise',
    'Cruise throttle',
    'share',
    [0.1, 0.9, 0.5, 0.01],
    'Throttle that holds height at cruise speed.',
  );
  book.number(
    'motor.max',
    'Highest throttle',
    'share',
    [0.3, 1, 1, 0.01],
    'Throttle is never more than this.',
  );
  book.number(
    'motor.perClimb',
    'Throttle per climb',
    'share',
    [0.01, 0.5, 0.08, 0.005],
    'More throttle for each m/s of climb.',
  );
  book.number('motor.ramp', 'Throttle ramp', 's', [0, 2, 0.2, 0.05], 'Time from stop to full throttle.');
  book.number(
    'mix.differential',
    'Differential thrust',
    'share',
    [0, 1, 0, 0.05],
    'How much yaw commands go to the motors.',
  );
  book.number(
    'mix.turnRudder',
    'Rudder with aileron',
    'share',
    [-0.5, 1, 0, 0.05],
    'Rudder added for each share of aileron.',
  );
  book.number(
    'mix.aileronUp',
    'Aileron differential',
    'share',
    [0, 0.8, 0, 0.05],
    'How much less the down-going aileron moves.',
  );
}
