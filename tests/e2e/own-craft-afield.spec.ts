import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { begin, goTo, open } from './helpers.ts';

/** Somebody's own craft, nothing of it set, taken through every station of Field without a board. */
for (const [from, name] of [
  ['Sandpiper 1900', 'Long-legged wader with a name that goes on'],
  ['Avocet 7', 'Seven'],
] as const)
  test(`a craft of one's own begun from ${from} goes through all of Field, and nothing is taken for granted`, async ({
    page,
  }) => {
    test.setTimeout(180_000);
    const faults = await open(page);
    await goTo(page, '/craft');
    await begin(page, from, name);
    const main = page.getByRole('main');
    // A picture that nobody chose yet.
    await goTo(page, '/field/over-picture');
    await expect(main.getByText('What brings the picture down from the craft?')).toBeVisible();
    await main.getByRole('radio', { name: /525 lines/ }).click();
    await main.getByRole('button', { name: 'Begin with what is looked at most' }).click();
    await expect(main.locator('[data-item=mode]')).toBeVisible();
    await expect(main.getByText('A moment that never was')).toBeVisible();
    await expect(main.getByRole('region', { name: 'Video transmitter' })).toBeVisible();
    // A radio whose way back is not known.
    await goTo(page, '/field/radio-hears');
    await expect(main.getByRole('heading', { name: 'What the radio hears' })).toBeVisible();
    // No strip: the buzzer alone; with one on no output it is said that it stays dark.
    await goTo(page, '/field/lights-sounds');
    await main.getByRole('button', { name: 'See Find me' }).click();
    await expect(main.getByText('A trial, here on the page')).toBeVisible();
    await goTo(page, '/field/no-computer');
    await expect(main.getByText('Plug the board in to try it.')).toBeVisible();
    await expect(main.getByRole('region', { name: 'Card for the pocket' })).toContainText(name);
    // Of the walk nothing was seen yet: all that is so is that no finding stands in its way.
    await goTo(page, '/field/before-throw');
    await expect(main.getByRole('status').first()).toContainText(/^1 of \d+ are proven/);
    const sign = page.getByRole('region', { name: 'Signed off' });
    await expect(sign).toBeVisible();
    await goTo(page, '/field/after-flight');
    await expect(main.getByText('Plug the board in after the flight')).toBeVisible();
    // Lost on its first day: what is known is typed.
    await goTo(page, '/field/when-lost');
    await expect(
      main.getByText(/^It can begin from a board that is connected and has a fix or a flight/),
    ).toBeVisible();
    await main.getByRole('button', { name: 'Type what is known' }).click();
    await expect(main.getByText(/hold nine tenths of the chance/)).toBeVisible({ timeout: 60_000 });
    // Its sheet says what it is, and what it is not.
    await goTo(page, '/field/whole-set-up');
    const [saved] = await Promise.all([
      page.waitForEvent('download'),
      main.getByRole('button', { name: 'Save it as a page' }).click(),
    ]);
    const sheet = readFileSync(await saved.path(), 'utf8');
    expect(sheet).toContain(name);
    expect(sheet).not.toMatch(/\b(NaN|undefined|Infinity)\b/);
    for (const path of [
      'over-picture',
      'radio-hears',
      'lights-sounds',
      'no-computer',
      'before-throw',
      'when-lost',
    ]) {
      await goTo(page, `/field/${path}`);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      expect(await main.textContent(), path).not.toMatch(/\b(NaN|undefined|Infinity)\b/);
    }
    expect(faults).toEqual([]);
  });
