import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { closeBench, everyView, goTo, open, plugIn } from './helpers.ts';

/** What is metric wherever it stands: the grid that a drawing is on is named by its own size. */
const METRIC = /(?<![\w.])\d[\d.]*\s?(km\/h|m\/s|km|cm|mm|m²|m|kg|g)(?![\w/²^])/;
/** The units that another system keeps: boards, wires and time have no others. */
const KEPT: Readonly<Record<'imperial' | 'aviation', RegExp>> = {
  imperial: /(?!)/,
  // Dimensions and weights of a craft stay metric with aviators.
  aviation: /\d\s?(cm|mm|kg|g|m²)(?![\w/²^])/g,
};

for (const units of ['imperial', 'aviation'] as const)
  test(`every number on every view is told in ${units} units`, async ({ page }) => {
    test.setTimeout(240_000);
    await open(page);
    await page.getByLabel('Craft file').setInputFiles({
      name: 'turnstone.wanderweg.json',
      mimeType: 'application/json',
      buffer: readFileSync('demo/turnstone.wanderweg.json'),
    });
    await page.getByRole('button', { name: /^Turnstone 1600/ }).click();
    await page.getByRole('menuitem', { name: `Units: ${units}` }).click();
    await plugIn(page, true);
    await closeBench(page);
    await goTo(page, '/rehearse/one-flight');
    await page.getByLabel('Outbound distance').fill('2000');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: /^Fly it/ }).click();
    await expect(page.getByRole('button', { name: 'Fly again' })).toBeVisible({ timeout: 90_000 });
    const foreign: string[] = [];
    const views = await everyView(page);
    for (const { path } of views) {
      await goTo(page, path);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await page.waitForTimeout(500);
      // What the board writes over the picture is in units of its own, until they are set otherwise.
      if (path === '/field/over-picture') {
        await page.getByRole('button', { name: /^Tell it in ft/ }).click();
        await page.waitForTimeout(200);
      }
      const texts = await page.evaluate(() => {
        const found: string[] = [];
        // A number and its unit may stand in elements of their own beside each other.
        for (const e of document.querySelectorAll(
          'p, li, td, dd, label, span, text, button, legend, h1, h2',
        )) {
          if (e.closest('[hidden], [aria-hidden=true], style, script')) continue;
          const text = e.textContent ?? '';
          if (text.length < 160) found.push(text.replace(/\s+/g, ' ').trim());
        }
        return [...new Set(found)];
      });
      for (const text of texts)
        if (METRIC.test(text.replace(KEPT[units], ''))) foreign.push(`${path}: ${text.slice(0, 100)}`);
    }
    expect([...new Set(foreign)]).toEqual([]);
  });
