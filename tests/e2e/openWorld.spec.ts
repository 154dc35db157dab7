import { type ChildProcess, spawn } from 'node:child_process';
import { expect, test } from '@playwright/test';
import { everyView, find, goTo, open, write } from './helpers.ts';

/** A firmware that the application has never heard of, walked from station to station. */

let kar: ChildProcess;
let address: string;

test.beforeAll(async () => {
  kar = spawn(process.execPath, ['--import', 'tsx', 'examples/kar/main.ts'], {
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  address = await new Promise<string>((resolve, reject) => {
    kar.stderr!.on('data', (d: Buffer) => {
      const at = /ws:\/\/\S+/.exec(d.toString());
      if (at) resolve(at[0]);
    });
    kar.on('exit', () => reject(new Error('Kar ended')));
  });
});
test.afterAll(() => kar.kill());

test('a board with forty settings in words of its own is met, written, and walked with', async ({ page }) => {
  test.setTimeout(180_000);
  await open(page);
  await page.getByLabel('Address of the board').fill(address);
  await page.getByRole('button', { name: 'Connect to it' }).click();
  await expect(page.getByText(`On the cable now, over ${address}`)).toBeVisible();
  await expect(page.getByText('Grit Mini').first()).toBeVisible();
  const own = page.getByRole('region', { name: 'What is its own way' });
  await expect(own).toContainText('cannot say who answers on its buses and ports');
  await expect(own).toContainText('"word":"calm"');

  // Its own units and kinds are shown as they are.
  await find(page, 'up before it turns');
  const field = page.getByRole('dialog').getByRole('textbox', { name: 'Up before it turns' });
  await expect(page.getByRole('dialog')).toContainText('fathom');
  await field.fill('77');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await find(page, 'curve of its pull');
  await expect(page.getByRole('dialog')).toContainText('[0,1,3,6,10]');
  await expect(page.getByRole('dialog')).toContainText('of a kind that is only shown here');
  await page.keyboard.press('Escape');
  await write(page);

  // No station makes anything up.
  for (const { path, name } of await everyView(page)) {
    await goTo(page, path);
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(name);
    expect(await page.locator('body').textContent()).not.toMatch(/NaN|undefined|Infinity/);
  }
  for (const [path, what] of [
    ['/steer/which-moved', 'This board has no setting'],
    ['/return/way-home', 'This board has no setting return.height'],
    ['/rehearse/one-flight', 'This board has no setting'],
    ['/steer/opposes', 'cannot tell what goes to its outputs'],
    ['/build/starting-values', 'None of the values that are computed is a setting of this board.'],
  ] as const) {
    await goTo(page, path);
    await expect(page.getByText(what).first()).toBeVisible();
  }
  // Rules that need what it does not have are left out, and that is said.
  await page.keyboard.press('f');
  await expect(page.getByRole('dialog')).toContainText('Not everything could be looked at');
  await expect(page.getByRole('dialog')).not.toContainText('blocks flight');
  await page.keyboard.press('Escape');

  // The bench's own board afterwards is as it ever was.
  await goTo(page, '/build/board');
  await page.getByRole('button', { name: 'Let the board go' }).click();
  await page.getByRole('button', { name: 'Plug the simulated board in' }).click();
  await expect(page.getByText('On the cable now, over the bench')).toBeVisible();
  await expect(own).toBeHidden();
});
