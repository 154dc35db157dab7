import { expect, test } from '@playwright/test';
import { board } from './boardProcess.ts';
import { find, goTo, open, write } from './helpers.ts';

test('a board in a process of its own, over a cable that loses 2 %, is met, written, moved and restarted', async ({
  page,
  browser,
}) => {
  test.setTimeout(300_000);
  const { run, address, hands } = await board('--loss', '2', '--delay', '40');
  try {
    await open(page);
    await page.getByLabel('Address of the board').fill(address.replace(/^ws:\/\//, ''));
    await page.getByRole('button', { name: 'Connect to it' }).click();
    await expect(page.getByText(`On the cable now, over ${address}`)).toBeVisible({ timeout: 60_000 });
    await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();

    // Its one cable is taken.
    const another = await browser.newContext();
    const other = await another.newPage();
    await open(other, '/build/board');
    await other.getByLabel('Address of the board').fill(address);
    await other.getByRole('button', { name: 'Connect to it' }).click();
    await expect(other.getByText(/Somebody else has the board/).first()).toBeVisible();
    await another.close();

    // An output is moved and answered for.
    hands({ battery: true });
    await goTo(page, '/steer/which-moved');
    await page.getByRole('checkbox', { name: /propellers are off/i }).check();
    await page.getByRole('list', { name: 'Outputs' }).getByRole('button').nth(4).click();
    const hold = page.getByRole('button', { name: /Hold to move output/ });
    await expect(hold).toBeEnabled();
    await hold.focus();
    await page.keyboard.down(' ');
    await expect(page.getByText('moving now')).toBeVisible();
    await page.keyboard.up(' ');
    await expect(page.getByText('moving now')).toBeHidden();

    // An edit is written and read back.
    await find(page, 'return height');
    await page.getByRole('dialog').getByRole('textbox', { name: 'Return height' }).fill('405');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await write(page);

    // The board loses its power and gets it back: it is met again by itself.
    hands({ usb: false, battery: false });
    await goTo(page, '/build/board');
    await expect(page.getByText('No board is on the cable.')).toBeVisible();
    hands({ usb: true });
    await expect(page.getByText(`On the cable now, over ${address}`)).toBeVisible({ timeout: 60_000 });

    // The process ends: that is said, and nothing waits for ever.
    run.kill();
    await expect(page.getByText('No board is on the cable.')).toBeVisible({ timeout: 30_000 });
    await page.getByRole('button', { name: 'Connect to it' }).click();
    await expect(page.getByText(/No board answers at/).first()).toBeVisible({ timeout: 20_000 });
    // The bench is there as before.
    await page.getByRole('button', { name: 'Plug the simulated board in' }).click();
    await expect(page.getByText('On the cable now, over the bench')).toBeVisible();
  } finally {
    run.kill();
  }
});

test('an address that is none, or of another machine, is refused in a sentence', async ({ page }) => {
  await open(page);
  for (const text of ['', 'ws://192.168.1.4:80', 'http//', 'example.org']) {
    await page.getByLabel('Address of the board').fill(text);
    await page.getByRole('button', { name: 'Connect to it' }).click();
    await expect(page.getByRole('alert')).toContainText('only boards of this machine');
  }
});
