import { fellF7Model } from './boards.ts';
import type { BoardDescription } from './description.ts';

/** What Fell F7 says of itself as the bench has it wired. */
export const fellF7: BoardDescription = {
  board: fellF7Model.name,
  pads: fellF7Model.outputs.map(({ output, pad, timer }) => ({ output, pad, timer })),
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
