import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { atTheDrawer } from './drawer.ts';
import { bench, closeBench, goTo, open, openBench, plugIn } from './helpers.ts';

test('the drill of a lost link: times as drawn, kept as proof, stale once the times change', async ({
  page,
}) => {
  test.setTimeout(120_000);
  const faults = await open(page, '/return/lost-link');
  const drill = page.getByRole('region', { name: 'Drill' });
  await expect(drill).toContainText('With a board on the cable');
  await expect(page.getByRole('region', { name: 'What it does, by where it is' })).toContainText(
    'Has it left the ground?',
  );

  await page.getByLabel('Craft file').setInputFiles({
    name: 'turnstone.wanderweg.json',
    mimeType: 'application/json',
    buffer: readFileSync('demo/turnstone.wanderweg.json'),
  });
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await plugIn(page, true);
  await goTo(page, '/return/lost-link');
  const hands = atTheDrawer(page);
  await expect(drill).toContainText('Switch the transmitter off', { timeout: 20_000 });

  // Pulled in the middle it is no drill.
  await hands.transmitter(false);
  await expect(drill).toContainText('in the air it would act now', { timeout: 10_000 });
  await bench(page, 'USB cable', false);
  await bench(page, 'Battery', false);
  await expect(drill).toContainText('With a board on the cable');
  await hands.transmitter(true);
  await bench(page, 'USB cable', true);
  await bench(page, 'Battery', true);
  await expect(drill).toContainText('Switch the transmitter off', { timeout: 20_000 });
  await expect(drill).not.toContainText('as it is drawn');

  await hands.transmitter(false);
  await expect(drill).toContainText('in the air it would act now', { timeout: 10_000 });
  await hands.transmitter(true);
  await expect(drill).toContainText('Now move a stick', { timeout: 10_000 });
  await page.waitForTimeout(3200);
  await hands.push('roll');
  await expect(drill).toContainText('The board notices and acts as it is drawn.', { timeout: 10_000 });
  await hands.letGo('roll');
  await closeBench(page);
  await expect(page.getByRole('link', { name: /When the link is lost.*proven/ })).toBeVisible();

  const notice = page.getByRole('textbox', { name: 'Loss noticed after' });
  await notice.fill('1.4');
  await notice.press('Enter');
  await expect(drill).toContainText('since then settings it rests on were changed');
  await openBench(page);
  expect(faults).toEqual([]);
});
