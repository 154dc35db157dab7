import type { EntryBook } from './entryBook.ts';

/** Every filter between gyro and loops, and that of D. */
export function addFilterSettings(book: EntryBook): void {
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
  book.number(
    'rate.dPoles',
    'D low-pass poles',
    'count',
    [1, 2, 1, 1],
    'How steeply the filter before the D part cuts off; two shake motors less, and are later.',
    'restart',
    'integer',
  );
  book.number(
    'gyro.notch',
    'Gyro notch',
    'hz',
    [0, 450, 0, 1],
    'Centre of the notch against the propellers. 0 turns it off.',
    'restart',
  );
  book.number('gyro.notchQ', 'Notch Q', 'share', [1, 10, 3, 0.5], 'Higher is narrower.', 'restart');
  book.flag(
    'gyro.notchFollows',
    'Notch follows the throttle',
    false,
    'Moves the notch with the throttle; its centre is then that at cruise or hover.',
    'restart',
  );
  book.number(
    'gyro.notchPower',
    'Notch over throttle',
    'share',
    [0.3, 1.5, 0.5, 0.05],
    'Power of the throttle by which a notch that follows moves: 0.5 is its root, 1 is in step with it.',
    'restart',
  );
  book.flag(
    'gyro.notchTold',
    'Notch goes by the motors’ own speed',
    false,
    'Motor controllers that are sent frames tell how fast they turn: the notch is there. Where they are silent it is where it would be without.',
    'restart',
  );
  book.number(
    'gyro.notchHarmonics',
    'Notches',
    'count',
    [1, 3, 1, 1],
    'Notches at once, twice and three times the centre: blades shake at multiples of the shaft.',
    'restart',
  );
  book.number(
    'gyro.poles',
    'Gyro low-pass poles',
    'count',
    [1, 3, 1, 1],
    'How steeply the gyro filter cuts off; each pole costs the delay of one.',
    'restart',
  );
  book.number(
    'gyro.track',
    'Tracking notches',
    'count',
    [0, 4, 0, 1],
    'Notches that look for what shakes most themselves, and follow it. 0 turns them off.',
    'restart',
    'integer',
  );
  book.number(
    'gyro.trackFrom',
    'Tracking from',
    'hz',
    [40, 300, 70, 5],
    'They look for nothing slower: what is below is the craft’s own turning.',
    'restart',
  );
  book.number('gyro.trackTo', 'Tracking to', 'hz', [80, 450, 350, 5], 'Nor for anything quicker.', 'restart');
  book.number('gyro.trackQ', 'Tracking Q', 'share', [1, 10, 3, 0.5], 'Higher is narrower.', 'restart');
  book.choice(
    'gyro.kind',
    'Gyro low-pass is',
    [
      ['poles', 'of poles'],
      ['biquad', 'of the second order'],
    ],
    'poles',
    'One of the second order cuts off twice as steeply as a pole, and costs less delay than two.',
    'restart',
  );
  book.number(
    'gyro.cutoff2',
    'Second gyro low-pass',
    'hz',
    [0, 400, 0, 5],
    'Cut-off of another pole behind the first low-pass. 0 turns it off.',
    'restart',
  );
  book.number(
    'gyro.yawCutoff',
    'Yaw low-pass',
    'hz',
    [0, 400, 0, 5],
    'Cut-off of a low-pass of the yaw gyro alone: fins and tilted rotors shake it most. 0 turns it off.',
    'restart',
  );
}
