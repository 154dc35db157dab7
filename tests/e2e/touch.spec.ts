import { expect, test } from '@playwright/test';
import { goTo, open } from './helpers.ts';

test.use({ hasTouch: true, isMobile: true });

test('at the strip everything that is touched is as large as a finger, on a tablet held upright', async ({
  page,
}) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await page.setViewportSize({ width: 800, height: 1180 });
  for (const path of ['/field/over-picture', '/field/before-throw', '/field/when-lost']) {
    await goTo(page, path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    if (path.endsWith('lost')) {
      await page.getByRole('button', { name: 'Type what is known' }).click();
      await expect(page.getByRole('button', { name: 'It is found' })).toBeVisible({ timeout: 30_000 });
    }
    await page.waitForTimeout(300);
    const small = await page.locator('#work').evaluate((work) =>
      [...work.querySelectorAll<HTMLElement>('button, select, summary')]
        // Words within a sentence, and what lies on the picture cell by cell.
        .filter((e) => !e.closest('p') && e.dataset.item === undefined && e.offsetParent !== null)
        .filter((e) => e.getBoundingClientRect().height < 43.5)
        .map((e) => `${e.textContent} ${e.getBoundingClientRect().height.toFixed(0)}`),
    );
    expect(small, path).toEqual([]);
    // Nothing is wider than the screen.
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(800);
  }
  expect(faults).toEqual([]);
});
