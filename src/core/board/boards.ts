import type { BoardModel, Bus, OutputPad, Port, Rail, Spot, Timer } from './model.ts';

/** The boards there are: pads, timers, ports and buses of each. */

const row = (
  first: number,
  timers: readonly number[],
  yMm: number,
  fromMm: number,
  pitchMm: number,
): OutputPad[] =>
  timers.map((timer, i) => ({
    output: first + i,
    pad: `S${first + i}`,
    timer,
    xMm: fromMm + i * pitchMm,
    yMm,
  }));

const timer = (n: number, frames: boolean, capture: boolean): Timer => ({ n, frames, capture });

const port = (n: number, xMm: number, yMm: number, more: Partial<Port> = {}): Port => ({
  name: `port ${n}`,
  xMm,
  yMm,
  mostBaud: 921600,
  inverts: false,
  halfDuplex: true,
  ...more,
});

/** One regulator for the board and what hangs on its ports, one for servos, which USB does not feed. */
const rails = (boardA: number, servoA: number): Rail[] => [
  { name: '5 V rail', feeds: 'board', volts: 5, mostA: boardA, usbA: 0.5 },
  { name: 'servo rail', feeds: 'servos', volts: 5, mostA: servoA, usbA: 0 },
];

/** Battery, rails, buzzer and, where the board draws over the picture, the camera, down the left edge. */
const spots = (batteryMostV: number, boardA: number, servoA: number, camera: boolean): Spot[] => {
  const list = [
    ['BAT', 'battery', `up to ${batteryMostV} V`],
    ['5V', 'rail for devices', `5 V, ${boardA} A`],
    ['SV', 'rail for servos', `5 V, ${servoA} A; nothing on USB`],
    ['BZ', 'buzzer', '5 V, 0.1 A'],
    ...(camera ? [['CAM', 'camera in, picture out', '5 V, 0.3 A']] : []),
  ] as const;
  return list.map(([name, what, power], i) => ({
    name: name!,
    what: what!,
    power: power!,
    xMm: 3.4,
    yMm: 11.5 + 3.6 * i,
  }));
};

const bus = (name: string, kind: Bus['kind'], xMm: number, yMm: number, more: Partial<Bus> = {}): Bus => ({
  name,
  kind,
  xMm,
  yMm,
  onBoard: [],
  ...more,
});

/** Seven outputs on four timers, four ports, one I2C bus. Its fourth port lies on the last two outputs. */
export const cobbleF4Wing: BoardModel = {
  target: 'cobble-f4-wing',
  name: 'Cobble F4 Wing',
  revision: 'A',
  flashBytes: 512 * 1024,
  widthMm: 46,
  heightMm: 32,
  outputs: row(1, [1, 1, 2, 2, 3, 4, 4], 2.5, 8, 5),
  timers: [timer(1, true, false), timer(2, true, true), timer(3, false, true), timer(4, false, true)],
  ports: [
    port(1, 8, 29.5),
    port(2, 18, 29.5, { inverts: true, halfDuplex: false }),
    port(3, 28, 29.5, { mostBaud: 460800 }),
    port(4, 38, 29.5, { mostBaud: 115200, halfDuplex: false, sharesOutputs: [6, 7] }),
  ],
  buses: [
    bus('SPI 1', 'spi', 23, 14, { onBoard: [{ device: 'gyro and accelerometer', address: 0 }] }),
    bus('I2C 1', 'i2c', 43, 16, {
      onBoard: [{ device: 'barometer', address: 0x76 }],
      batteryFed: true,
    }),
  ],
  rails: rails(1, 3),
  spots: spots(18, 1, 3, true),
  batteryMostV: 18,
  ownA: 0.12,
  logsTo: 'chip',
  parts: ['overlay chip'],
};

/** Nine outputs on five timers, six ports, two I2C buses, of which the second lies on the fifth port. */
export const fellF7Model: BoardModel = {
  target: 'fell-f7',
  name: 'Fell F7',
  revision: 'A',
  flashBytes: 1024 * 1024,
  widthMm: 52,
  heightMm: 36,
  outputs: row(1, [1, 1, 2, 2, 3, 3, 4, 4, 5], 2.5, 5, 5.2),
  timers: [
    timer(1, true, true),
    timer(2, true, true),
    timer(3, true, true),
    timer(4, true, false),
    timer(5, false, true),
  ],
  ports: [
    port(1, 6, 33.5),
    port(2, 14, 33.5, { inverts: true }),
    port(3, 22, 33.5),
    port(4, 30, 33.5, { inverts: true }),
    port(5, 38, 33.5, { mostBaud: 460800 }),
    port(6, 46, 33.5, { mostBaud: 115200, halfDuplex: false, sharesOutputs: [9] }),
  ],
  buses: [
    bus('SPI 1', 'spi', 26, 17, { onBoard: [{ device: 'gyro and accelerometer', address: 0 }] }),
    bus('I2C 1', 'i2c', 49, 14, { onBoard: [{ device: 'barometer', address: 0x76 }] }),
    bus('I2C 2', 'i2c', 49, 23, { sharesPort: 'port 5', batteryFed: true }),
  ],
  rails: rails(1.5, 4),
  spots: spots(27, 1.5, 4, false),
  batteryMostV: 27,
  ownA: 0.16,
  logsTo: 'chip',
  parts: [],
};

function massif(revision: 'A' | 'B'): BoardModel {
  return {
    target: `massif-h7-${revision.toLowerCase()}`,
    name: 'Massif H7',
    revision,
    flashBytes: 2048 * 1024,
    // Of another make and laid out another way in each revision.
    chipYawsDeg: [0, revision === 'A' ? 90 : 180],
    widthMm: 58,
    heightMm: 40,
    outputs: row(1, [1, 1, 2, 2, 3, 3, 3, 3, 4, 4, 5, 5], 2.5, 4, 4.5),
    timers: [
      timer(1, true, true),
      timer(2, true, true),
      timer(3, true, true),
      timer(4, true, true),
      timer(5, false, true),
    ],
    ports: [
      port(1, 5, 37.5),
      port(2, 13, 37.5, { inverts: true }),
      port(3, 21, 37.5, { inverts: true }),
      port(4, 29, 37.5),
      port(5, 37, 37.5),
      port(6, 45, 37.5, { mostBaud: 460800 }),
      port(7, 53, 37.5, { mostBaud: 115200, halfDuplex: false, sharesOutputs: [11, 12] }),
    ],
    buses: [
      bus('SPI 1', 'spi', 22, 18, { onBoard: [{ device: 'first gyro and accelerometer', address: 0 }] }),
      bus('SPI 2', 'spi', 34, 18, { onBoard: [{ device: 'second gyro and accelerometer', address: 0 }] }),
      bus('I2C 1', 'i2c', 55, 12, { onBoard: [{ device: 'barometer', address: 0x76 }] }),
      bus('I2C 2', 'i2c', 55, 20, { sharesPort: 'port 6', batteryFed: true }),
      // Of revision A the CAN driver hangs on the timer of the last outputs, of B on that of the middle ones.
      bus('CAN 1', 'can', 55, 28, { takesTimer: revision === 'A' ? 5 : 3 }),
    ],
    rails: rails(2, 6),
    spots: spots(36, 2, 6, false),
    batteryMostV: 36,
    ownA: 0.22,
    logsTo: 'card',
    parts: ['second processor'],
  };
}

/** Twelve outputs on five timers, seven ports, two I2C buses and CAN, which takes a timer from the outputs. */
export const massifH7A: BoardModel = massif('A');
export const massifH7B: BoardModel = massif('B');

export const boards: readonly BoardModel[] = [cobbleF4Wing, fellF7Model, massifH7A, massifH7B];

export function boardOf(target: string): BoardModel | undefined {
  return boards.find((b) => b.target === target);
}

/** The bus for devices outside the board: the last one with two wires. */
export function outerBus(board: BoardModel): Bus {
  return board.buses.findLast((b) => b.kind === 'i2c')!;
}
