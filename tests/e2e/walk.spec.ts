import { test } from '@playwright/test';
import { board } from './boardProcess.ts';
import { atTheDrawer } from './drawer.ts';
import { goTo } from './helpers.ts';
import { walk } from './theWalk.ts';

test('the walk from bare board to the way home', async ({ page }) => {
  test.setTimeout(240_000);
  await walk(page, atTheDrawer(page));
});

test('the same walk with a board in a process of its own, over a cable that loses 2 % and takes up to 40 ms', async ({
  page,
}) => {
  test.setTimeout(400_000);
  const { run, address, hands } = await board(
    'demo/turnstone-as-found.wanderweg.json',
    '--loss',
    '2',
    '--delay',
    '40',
  );
  const told = (what: object) => Promise.resolve(hands(what));
  try {
    await walk(page, {
      async plugIn() {
        await goTo(page, '/build/board');
        await page.getByLabel('Address of the board').fill(address);
        await page.getByRole('button', { name: 'Connect to it' }).click();
      },
      battery: () => told({ battery: true, transmitter: true }),
      push: (stick) =>
        told(
          {
            throttle: { stickThrottle: 1 },
            roll: { stickRoll: 1 },
            pitch: { stickPitch: 1 },
            yaw: { stickYaw: 1 },
          }[stick],
        ),
      letGo: () => told({ stickThrottle: 0, stickRoll: 0, stickPitch: 0, stickYaw: 0 }),
      turn: (way) => told({ turning: way }),
      halfThrottle: () => told({ stickThrottle: 0.5 }),
      transmitter: (on) => told(on ? { transmitter: true, stickThrottle: 0 } : { transmitter: false }),
      switchToLevel: () => told({ attitudeSwitch: 1 }),
      tilt: (rollDeg, pitchDeg) => told({ tilt: { rollDeg, pitchDeg } }),
      seesElevatorUp: () => Promise.resolve(),
    });
  } finally {
    run.kill();
  }
});
