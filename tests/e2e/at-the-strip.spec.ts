import { expect, test } from '@playwright/test';
import { bench, closeBench, goTo, open, openBench, plugIn, write } from './helpers.ts';

test('what the radio hears: true bytes on both screens, made to fit, and kept when the craft falls silent', async ({
  page,
}) => {
  const faults = await open(page);
  const main = page.getByRole('main');
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('is open.')).toBeVisible();
  await goTo(page, '/field/radio-hears');
  await plugIn(page, true);
  await bench(page, 'Craft is', true);
  await bench(page, 'Radio', true);
  await page.getByRole('button', { name: 'Its screen', exact: true }).click();
  const hand = page.getByRole('region', { name: 'Its screen' });
  await expect(hand.getByText(/^61\.\d{5}$/)).toBeVisible({ timeout: 60_000 });
  await expect(main.getByText(/^Read from the very bytes/)).toBeVisible();
  // The power goes: what came last stays, in brackets.
  await bench(page, 'Battery', false);
  await bench(page, 'USB cable', false);
  await expect(hand.getByText(/^\(61\.\d{5}\)$/)).toBeVisible({ timeout: 15_000 });
  await bench(page, 'USB cable', true);
  await closeBench(page);
  // More than there is room for is told, made to fit, and written.
  const attitude = main.getByRole('textbox', { name: 'Attitude, times a second' });
  await attitude.fill('10');
  await page.keyboard.press('Enter');
  await expect(main.getByText(/^comes every/).first()).toBeVisible();
  await main.getByRole('button', { name: 'Make it fit' }).click();
  await expect(main.getByText(/^comes every/)).toHaveCount(0);
  await write(page);
  expect(faults).toEqual([]);
});

test('lights and sounds, and what sticks do without a computer', async ({ page }) => {
  const faults = await open(page);
  const main = page.getByRole('main');
  await page.getByLabel('Craft file').setInputFiles('demo/dunlin.wanderweg.json');
  await expect(page.getByText('Dunlin 900 is open.')).toBeVisible();
  await goTo(page, '/field/lights-sounds');
  await main.getByRole('button', { name: 'See Find me' }).click();
  await expect(main.getByText('A trial, here on the page')).toBeVisible();
  await main.getByRole('button', { name: 'Let go of Find me' }).click();
  await plugIn(page, true);
  await bench(page, 'Radio', false);
  const meaning = main.getByRole('region', { name: 'What each means' });
  await expect(
    meaning.getByRole('listitem').filter({ hasText: 'No radio' }).getByText('now', { exact: true }),
  ).toBeVisible();
  await bench(page, 'Radio', true);
  await expect(
    meaning.getByRole('listitem').filter({ hasText: 'Waits for the sky' }).getByText('now', { exact: true }),
  ).toBeVisible();
  // The sticks, held in a corner.
  await goTo(page, '/field/no-computer');
  await openBench(page);
  const left = page.getByRole('slider', { name: /^Left stick/ }).or(page.getByLabel(/^Left stick/));
  await expect(left.first()).toBeVisible();
  const card = main.getByRole('region', { name: 'Card for the pocket' });
  await expect(card).toContainText('Dunlin 900');
  await expect(card).toContainText('Next control set');
  await main.getByRole('checkbox', { name: 'Stick gestures' }).uncheck();
  await expect(card).toContainText('are switched off');
  expect(faults).toEqual([]);
});
