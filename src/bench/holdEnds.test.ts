import { afterEach, describe, expect, it } from 'vitest';
import { DEAD_MAN_MS } from '#core/wire/messages.ts';
import { greet, writeEdits } from '#link/board.ts';
import { benchRig, type Rig } from '../testing/benchRig.ts';

/**
 * A motor that is moved by hand stands still within 300 ms of the moment in which its hold ends, in whichever way it ends:
 * by the board's own time, and the motor itself without drive, not only the command gone.
 */

let rig: Rig;
afterEach(() => rig.stop());

const LEFT_MOTOR = 1;

/** A motor turns, moved by output 1. @returns the number of the hold */
async function moving(): Promise<number> {
  rig = benchRig();
  rig.bench.controls.battery = true;
  // The motor controllers wake up first.
  rig.run(1);
  await rig.client.request('bench-allow', { propellersOff: true });
  const run = rig.client.acts.fresh();
  await rig.client.request('bench-move', { output: 1, run });
  rig.run(0.05);
  expect(rig.bench.plant.duties[LEFT_MOTOR]).toBeGreaterThan(0.05);
  return run;
}

/** Board time until the motor is without drive, ms. */
function untilStill(from: number): number {
  for (let ms = 0; ms < 2000; ms++) {
    if (rig.bench.plant.duties[LEFT_MOTOR] === 0) {
      const now = rig.bench.pfad?.uptimeS;
      return now === undefined ? ms : 1000 * (now - from);
    }
    rig.run(0.001);
  }
  return Number.POSITIVE_INFINITY;
}

const ends: readonly (readonly [name: string, end: (run: number) => unknown])[] = [
  ['nothing is said any more: the page stalls, is hidden or is closed', () => {}],
  ['it is let go', () => rig.client.request('bench-stop', {})],
  ['the stop is lost on the way, and nothing more is said', () => {}],
  ['the leave is taken back', () => rig.client.request('bench-allow', { propellersOff: false })],
  [
    'the cable comes out, the battery stays in',
    () => {
      rig.client.close();
      rig.bench.controls.usb = false;
    },
  ],
  [
    'the battery comes out',
    () => {
      rig.bench.controls.battery = false;
    },
  ],
  [
    'another output is moved',
    () => rig.client.request('bench-move', { output: 3, run: rig.client.acts.fresh() }),
  ],
  [
    'settings are written',
    async () => {
      const { fingerprint } = await greet(rig.client);
      await writeEdits(rig.client, fingerprint, { 'return.height': 222 });
    },
  ],
  ['the board restarts', () => rig.client.request('restart', {})],
];

describe('the end of a hold', () => {
  it.each(ends)('stops the motor within 300 ms when %s', async (_, end) => {
    const run = await moving();
    const from = rig.bench.pfad!.uptimeS;
    const ended = Promise.resolve(end(run)).catch(() => {});
    const ms = untilStill(from);
    expect(ms).toBeLessThanOrEqual(DEAD_MAN_MS + 1);
    await ended;
    // And it stays so, whatever is said of the hold that has ended.
    await rig.client.request('bench-move', { output: 1, run }, 1, 50).catch(() => {});
    rig.run(0.5);
    expect(rig.bench.plant.duties[LEFT_MOTOR]).toBe(0);
  });
});
