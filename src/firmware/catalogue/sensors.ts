import type { EntryBook } from './entryBook.ts';

/** Sensors, battery and how the board is mounted. */
export function addSensorsSettings(book: EntryBook): void {
  book.group = 'Sensors';
  book.choice(
    'gnss.baud',
    'GNSS baud',
    [
      ['9600', '9600'],
      ['38400', '38400'],
      ['57600', '57600'],
      ['115200', '115200'],
    ],
    '38400',
    'Speed of the GNSS receiver’s port.',
    'restart',
  );
  book.number(
    'battery.cells',
    'Battery cells',
    'count',
    [1, 14, 4, 1],
    'Cells in series.',
    'restart',
    'integer',
  );
  book.number(
    'battery.scale',
    'Voltage scale',
    'share',
    [0.8, 1.25, 1, 0.001],
    'Corrects the voltage measured by the board.',
  );
  book.number(
    'battery.low',
    'Low cell voltage',
    'v',
    [2.5, 4, 3.55, 0.01],
    'A cell under load below this is a warning.',
  );
  book.number(
    'battery.empty',
    'Empty cell voltage',
    'v',
    [2.4, 3.9, 3.3, 0.01],
    'A cell under load below this is empty.',
  );
  book.number(
    'battery.capacity',
    'Battery capacity',
    'mah',
    [50, 100000, 5000, 50],
    'Charge that can be used from full to empty.',
  );
  book.number(
    'mount.roll',
    'Board turned, roll',
    'deg',
    [-180, 180, 0, 1],
    'How the board is turned in the craft about its length.',
    'restart',
  );
  book.number(
    'mount.pitch',
    'Board turned, pitch',
    'deg',
    [-180, 180, 0, 1],
    'How the board is turned in the craft, nose up.',
    'restart',
  );
  book.number(
    'mount.yaw',
    'Board turned, yaw',
    'deg',
    [-180, 180, 0, 1],
    'How the board is turned in the craft, seen from above.',
    'restart',
  );
}
