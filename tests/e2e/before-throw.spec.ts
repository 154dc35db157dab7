import { expect, test } from '@playwright/test';
import { closeBench, goTo, open, plugIn } from './helpers.ts';

test('the walk to the strip: said, kept over a reload, stale once the craft is another, and stopped by what is not well', async ({
  page,
}) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/knot.wanderweg.json');
  await expect(page.getByText('Knot 1200 is open.')).toBeVisible();
  await goTo(page, '/field/before-throw');
  const main = page.getByRole('main');
  const walk = page.getByRole('region', { name: 'The whole walk' });
  await expect(main.getByRole('status')).toContainText(/^1 of \d+ are proven/);
  // What is proven elsewhere leads there.
  await expect(main.getByRole('heading', { name: 'The board has it' })).toBeVisible();
  await expect(main.getByRole('link', { name: 'Who is there' })).toBeVisible();
  await walk.getByRole('button', { name: 'Balance' }).click();
  await main.getByRole('button', { name: 'It is so' }).click();
  await expect(walk.getByRole('row', { name: /^Balance/ })).toContainText('looked at, and well');
  // On to the next that is wanting.
  await expect(main.getByRole('heading', { name: 'Throws' })).toBeVisible();
  await walk.getByRole('button', { name: 'Tilt it to the right' }).click();
  await main.getByRole('button', { name: 'It is not' }).click();
  await expect(
    page.getByRole('navigation', { name: 'Trail' }).getByRole('link', { name: 'Field, blocked' }),
  ).toBeVisible();
  await page.reload();
  await expect(walk.getByRole('row', { name: /^Tilt it to the right/ })).toContainText('not well');
  await walk.getByRole('button', { name: 'Tilt it to the right' }).click();
  await main.getByRole('button', { name: 'It is so' }).click();
  // Heavier than it was when it hung level.
  await goTo(page, '/build/airframe');
  await page.getByRole('textbox', { name: 'Mass' }).fill('1.5');
  await page.keyboard.press('Enter');
  await goTo(page, '/field/before-throw');
  await expect(walk.getByRole('row', { name: /^Balance/ })).toContainText('the craft was changed');
  // Plugged in, the board says what it feels.
  await plugIn(page, true);
  await closeBench(page);
  await walk.getByRole('button', { name: 'Battery in, hands off' }).click();
  await expect(main.getByText(/^\d\d\.\d\d V$/)).toBeVisible();
  await walk.getByRole('button', { name: 'Wait for the sky' }).click();
  await expect(main.getByText(/^\d+ of \d+ satellites, /)).toBeVisible();
  await walk.getByRole('button', { name: 'Tilt it to the right' }).click();
  await expect(main.getByText(/^bank -?\d+°: hold its right wing down$/)).toBeVisible();
  expect(faults).toEqual([]);
});

test('a flight signed off: measured, with what it flies by name, kept over a reload, refused while something is not well', async ({
  page,
}) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/dunlin.wanderweg.json');
  await expect(page.getByText('Dunlin 900 is open.')).toBeVisible();
  await goTo(page, '/field/before-throw');
  const main = page.getByRole('main');
  const walk = page.getByRole('region', { name: 'The whole walk' });
  const sign = page.getByRole('region', { name: 'Signed off' });
  // A short across the lead is not well, whatever is said.
  await walk.getByRole('button', { name: 'Across the battery lead' }).click();
  await main.getByRole('textbox', { name: 'Across the lead' }).fill('0.4');
  await page.keyboard.press('Enter');
  await expect(main.getByRole('button', { name: 'It is so' })).toBeDisabled();
  await main.getByRole('button', { name: 'It is not' }).click();
  await expect(sign.getByRole('status')).toContainText('What is not well is mended before it flies.');
  await expect(sign.getByRole('button', { name: 'Sign this flight off' })).toBeDisabled();
  await main.getByRole('textbox', { name: 'Across the lead' }).fill('4700');
  await page.keyboard.press('Enter');
  await main.getByRole('button', { name: 'It is so' }).click();
  await expect(walk.getByRole('row', { name: /^Across the battery lead/ })).toContainText(
    '4700 Ω, looked at, and well',
  );
  // By name.
  for (const [kind, name] of [
    ['battery', 'B7'],
    ['propeller', '6x4 grey'],
  ]) {
    await sign.getByRole('textbox', { name: `Name of another ${kind}` }).fill(name!);
    await page.keyboard.press('Enter');
    await expect(sign.getByRole('combobox', { name: `Which ${kind}` })).toHaveValue(name!);
  }
  await sign.getByRole('textbox', { name: 'Name of another battery' }).fill('B7');
  await page.keyboard.press('Enter');
  await expect(sign.getByRole('alert')).toContainText('There is a battery called B7 already.');
  await sign.getByRole('button', { name: 'Sign this flight off' }).click();
  const signed = sign.getByRole('list', { name: 'Flights signed off' });
  await expect(signed).toContainText('battery B7, propeller 6x4 grey');
  await expect(signed).toContainText('open were');
  await expect(sign.getByText(/^1 flight, 0 days/).first()).toBeVisible();
  await page.waitForTimeout(500);
  await page.reload();
  await expect(signed).toContainText('battery B7, propeller 6x4 grey');
  // A first flight.
  await walk.getByRole('button', { name: 'Level by hand' }).click();
  await main.getByRole('button', { name: 'It flew so' }).click();
  await expect(walk.getByRole('row', { name: /^Level by hand/ })).toContainText('flown, and well');
  expect(faults).toEqual([]);
});
