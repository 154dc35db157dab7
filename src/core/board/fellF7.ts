import type { BoardDescription } from './description.ts';

/** Fell F7: nine outputs on five timers, six serial ports, two I2C buses. */
export const fellF7: BoardDescription = {
  board: 'Fell F7',
  pads: [
    { output: 1, pad: 'S1', timer: 1 },
    { output: 2, pad: 'S2', timer: 1 },
    { output: 3, pad: 'S3', timer: 2 },
    { output: 4, pad: 'S4', timer: 2 },
    { output: 5, pad: 'S5', timer: 3 },
    { output: 6, pad: 'S6', timer: 3 },
    { output: 7, pad: 'S7', timer: 4 },
    { output: 8, pad: 'S8', timer: 4 },
    { output: 9, pad: 'S9', timer: 5 },
  ],
  ports: [
    { name: 'port 1', use: 'this link' },
    { name: 'port 2', use: 'receiver' },
    { name: 'port 3', use: 'GNSS receiver' },
    { name: 'port 4', use: 'free' },
    { name: 'port 5', use: 'free' },
    { name: 'port 6', use: 'free' },
  ],
  buses: [
    { name: 'SPI 1', found: ['gyro and accelerometer'] },
    { name: 'I2C 1', found: ['barometer'] },
    { name: 'I2C 2', found: ['airspeed sensor'] },
  ],
};
