import { expect, type Page, test } from '@playwright/test';
import { open } from './helpers.ts';

const look = async (page: Page, name: string) => {
  if (process.env.LOOK) await page.screenshot({ path: `/tmp/shots/${name}.png` });
};

test('the reach: drawn, a place behind the hill mended by what the map says, checked by flights', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const faults = await open(page, '/return/reach');
  const share = page.getByRole('status', { name: 'Share that it comes home from' });
  await expect(share).toHaveText(/\d+ %/, { timeout: 20_000 });
  await page.getByRole('button', { name: 'Let it return' }).click();
  await page.waitForTimeout(2500);
  await look(page, 'reach0');
  await page.getByRole('textbox', { name: 'Return speed' }).fill('18');
  await page.keyboard.press('Enter');
  await page.waitForTimeout(2500);
  await look(page, 'reach1');
  await page.locator('#work').evaluate((e) => e.scrollTo(0, 900));
  await look(page, 'reach2');
  expect(faults).toEqual([]);
});
