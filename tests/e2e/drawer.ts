import { expect, type Page } from '@playwright/test';
import { bench, closeBench, goTo, openBench, tiltByKeys } from './helpers.ts';
import type { Hands } from './theWalk.ts';

/** Hands at the drawer of the bench. */
export function atTheDrawer(page: Page): Hands {
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
      // A press is a tenth of the way from the middle to an end; the throttle comes from its low end.
      for (let k = 0; k < (stick === 'throttle' ? 20 : 10); k++) {
        await page.keyboard.down(key);
        await page.waitForTimeout(60);
      }
    },
    async letGo(stick) {
      await page.keyboard.up(keys[stick][1]);
      if (stick === 'throttle') for (let k = 0; k < 20; k++) await page.keyboard.press('s');
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
