import { expect, type Page, test } from '@playwright/test';
import { board } from './boardProcess.ts';
import { bench, closeBench, goTo, openBench, tiltByKeys } from './helpers.ts';
import { type Hands, walk } from './theWalk.ts';

/** Hands at the drawer of the bench. */
function atTheDrawer(page: Page): Hands {
  const keys = {
    throttle: ['Left', 'w'],
    roll: ['Right', 'ArrowRight'],
    pitch: ['Right', 'ArrowDown'],
    yaw: ['Left', 'd'],
  } as const;
  return {
    async plugIn() {
      await goTo(page, '/build/board');
      await page.getByRole('button', { name: 'Plug the simulated board in' }).click();
    },
    async battery() {
      await bench(page, 'Battery', true);
      await closeBench(page);
    },
    async push(stick) {
      await openBench(page);
      const [side, key] = keys[stick];
      await page.getByRole('slider', { name: new RegExp(`^${side} stick`) }).focus();
      for (let k = 0; k < 10; k++) {
        await page.keyboard.down(key);
        await page.waitForTimeout(60);
      }
    },
    async letGo(stick) {
      await page.keyboard.up(keys[stick][1]);
      if (stick === 'throttle') for (let k = 0; k < 11; k++) await page.keyboard.press('s');
    },
    async turn(way) {
      await openBench(page);
      await page.getByLabel('Turned').selectOption(String(way));
    },
    async halfThrottle() {
      await openBench(page);
      await page.getByRole('slider', { name: /^Left stick/ }).focus();
      for (let k = 0; k < 5; k++) await page.keyboard.press('w');
    },
    async transmitter(on) {
      await bench(page, 'Radio', on);
      if (!on) return;
      await page.getByRole('slider', { name: /^Left stick/ }).focus();
      for (let k = 0; k < 11; k++) await page.keyboard.press('s');
    },
    async switchToLevel() {
      await page.getByRole('button', { name: /Three-position switch/ }).click();
    },
    async tilt(roll, pitch) {
      await openBench(page);
      await tiltByKeys(page, roll, pitch);
    },
    async seesElevatorUp() {
      const region = page.getByRole('region', { name: 'Bench, simulated' });
      const real = region.locator('path[data-part=elevator]').last();
      await expect(real).toHaveAttribute('style', /translate\(.*, -/);
    },
  };
}

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
