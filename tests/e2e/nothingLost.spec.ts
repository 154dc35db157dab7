import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { begin, find, goTo, open, plugIn, write } from './helpers.ts';

/**
 * Acts that replace or end something: after each the work is there, or one was asked, or it can be had back. Each act is a
 * step of a name; there are thirty of them.
 */

test.use({ actionTimeout: 20_000 });

const turnstone = readFileSync('demo/turnstone.wanderweg.json', 'utf8');

const act = (name: string, what: () => Promise<void>) => test.step(name, what);
const tray = (page: Page) => page.getByTestId('tray-count');
const menu = (page: Page) =>
  page
    .locator('header')
    .getByRole('button', { name: /▾|Turnstone|Avocet|Heron|Copy/ })
    .first();
const banner = (page: Page) => page.getByText('Another tab works on this craft.');

async function openFile(page: Page, name: string, text: string): Promise<void> {
  await page.getByLabel('Craft file').setInputFiles({
    name: `${name}.wanderweg.json`,
    mimeType: 'application/json',
    buffer: Buffer.from(text),
  });
}

/** One waiting edit. */
async function edit(page: Page, height: string): Promise<void> {
  await find(page, 'return height');
  await page.getByRole('dialog').getByRole('textbox', { name: 'Return height' }).fill(height);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
}

async function reload(page: Page): Promise<void> {
  await page.reload();
  await expect(page.getByRole('navigation', { name: 'Trail' })).toBeVisible();
}

/** The return height as it is with the waiting edits. */
async function height(page: Page): Promise<string> {
  await find(page, 'return height');
  const value = await page.getByRole('dialog').getByRole('textbox', { name: 'Return height' }).inputValue();
  await page.keyboard.press('Escape');
  return value;
}

async function openKept(page: Page, name: string): Promise<void> {
  await goTo(page, '/craft');
  await page
    .getByRole('region', { name: 'Craft kept here' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .click();
  await expect(page.getByRole('navigation', { name: 'Trail' })).toBeVisible();
}

test('craft beside craft: opening, beginning, letting go and reloading lose nothing', async ({ page }) => {
  test.setTimeout(100_000);
  await open(page, '/build/airframe');
  await edit(page, '301');
  await act('1 a craft file is opened', async () => {
    await openFile(page, 'other', turnstone.replaceAll('Turnstone 1600', 'Heron 1'));
    await expect(menu(page)).toContainText('Heron 1');
    await expect(tray(page)).toHaveText('No edits wait');
    await openKept(page, 'Turnstone 1600');
    expect(await height(page)).toBe('301');
  });
  await act('2 a craft is begun', async () => {
    await goTo(page, '/craft');
    await begin(page, 'Avocet 7', 'Heron 2');
    await openKept(page, 'Turnstone 1600');
    expect(await height(page)).toBe('301');
  });
  await act('3 a craft file of the same name is opened', async () => {
    await openFile(page, 'same', turnstone);
    await expect(page.getByText(/is open\. .* is kept beside it/)).toBeVisible();
    await goTo(page, '/craft');
    await expect(page.getByRole('button', { name: /^Turnstone 1600/ })).toHaveCount(2);
    await page.getByRole('button', { name: /^Turnstone 1600.*honest mistakes/ }).click();
    await expect(page.getByRole('navigation', { name: 'Trail' })).toBeVisible();
    expect(await height(page)).toBe('301');
  });
  await act('4 the page is reloaded at once after an edit', async () => {
    await edit(page, '302');
    await page.waitForTimeout(200);
    await reload(page);
    expect(await height(page)).toBe('302');
  });
  await act('5 an edit is undone after a reload', async () => {
    await page.keyboard.press('Control+z');
    expect(await height(page)).toBe('301');
  });
  await act('6 and redone', async () => {
    await page.keyboard.press('Control+Shift+z');
    expect(await height(page)).toBe('302');
  });
  await act('7 geometry is undone', async () => {
    await goTo(page, '/build/airframe');
    const mass = page.getByRole('textbox', { name: 'Mass', exact: true });
    await mass.fill('2.6');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Control+z');
    await expect(mass).toHaveValue('2.1');
    await page.keyboard.press('Control+Shift+z');
    await expect(mass).toHaveValue('2.6');
  });
  await act('8 a name is undone', async () => {
    await page.getByRole('textbox', { name: 'Name' }).fill('Heron 9');
    await page.keyboard.press('Enter');
    await expect(menu(page)).toContainText('Heron 9');
    await page.keyboard.press('Control+z');
    await expect(menu(page)).toContainText('Turnstone 1600');
  });
  await act('9 the open craft is let go, and brought back by the notice', async () => {
    await goTo(page, '/craft');
    const card = page.getByRole('listitem').filter({ hasText: 'honest mistakes' });
    await card.getByRole('button', { name: 'Let go' }).click();
    await expect(card).toBeHidden();
    await page.getByRole('button', { name: 'Bring it back' }).click();
    await expect(card).toBeVisible();
  });
  await act('10 another is let go, and brought back from the list after a reload', async () => {
    await page
      .getByRole('listitem')
      .filter({ hasText: 'Heron 2' })
      .getByRole('button', { name: 'Let go' })
      .click();
    await expect(page.getByText('Heron 2 was let go.')).toBeVisible();
    await page.reload();
    await page
      .getByRole('region', { name: 'Recently replaced' })
      .getByRole('listitem')
      .filter({ hasText: 'Heron 2' })
      .getByRole('button', { name: 'Bring back' })
      .click();
    await expect(menu(page)).toContainText('Heron 2');
  });
  await act('11 the demo is walked again: it is the same one', async () => {
    await goTo(page, '/craft');
    await page.getByRole('button', { name: 'Walk the demo' }).click();
    await expect(menu(page)).toContainText('Turnstone 1600');
    expect(await height(page)).toBe('302');
  });
  await act('12 a file that is no craft is opened: everything stays', async () => {
    await openFile(page, 'bad', '{"format": "wanderweg-craft"}');
    await expect(page.getByRole('dialog').getByRole('alert')).toBeVisible();
    await page.getByRole('button', { name: 'Go on' }).click();
    expect(await height(page)).toBe('302');
  });
  await act('13 the tab is closed and another opened', async () => {
    const other = await page.context().newPage();
    await page.close();
    await other.goto('/');
    await expect(other.getByRole('navigation', { name: 'Trail' })).toBeVisible();
    await expect(banner(other)).toBeHidden();
    expect(await height(other)).toBe('302');
  });
});

test('two tabs on one craft lose nothing, whoever works', async ({ page, context }) => {
  test.setTimeout(120_000);
  await open(page, '/return/way-home');
  const two = await context.newPage();
  await act('14 a second tab reads along', async () => {
    await two.goto('/return/way-home');
    await expect(banner(two)).toBeVisible();
    await edit(page, '303');
    await expect(two.getByRole('textbox', { name: 'Return height' })).toHaveValue('303');
  });
  await act('15 what is typed in it changes nothing', async () => {
    await two.getByRole('textbox', { name: 'Return height' }).fill('99');
    await two.keyboard.press('Enter');
    await expect(tray(two)).toHaveText('1 edit waits');
    expect(await height(page)).toBe('303');
  });
  await act('16 it takes the craft over', async () => {
    await edit(page, '304');
    await two.getByRole('button', { name: 'Work on it here' }).click();
    await expect(banner(two)).toBeHidden();
    await expect(banner(page)).toBeVisible();
    expect(await height(two)).toBe('304');
  });
  await act('17 a confirmed write of one is not undone by the other', async () => {
    await two.bringToFront();
    await plugIn(two);
    await write(two);
    await page.waitForTimeout(400);
    await expect(tray(page)).toHaveText('No edits wait');
    expect(await height(page)).toBe('304');
  });
  await act('18 each has a craft of its own', async () => {
    await openFile(page, 'other', turnstone.replaceAll('Turnstone 1600', 'Heron 1'));
    await expect(menu(page)).toContainText('Heron 1');
    await expect(banner(page)).toBeHidden();
    await reload(page);
    await expect(menu(page)).toContainText('Heron 1');
    await expect(menu(two)).toContainText('Turnstone 1600');
  });
  await act('19 the tab that works is closed: the other has the craft to take', async () => {
    await openKept(page, 'Turnstone 1600');
    await expect(banner(page)).toBeVisible();
    await two.close();
    await page.getByRole('button', { name: 'Work on it here' }).click();
    await expect(banner(page)).toBeHidden();
    expect(await height(page)).toBe('304');
  });
});

test('what a board confirmed is there after a reload in the same moment', async ({ page }) => {
  test.setTimeout(120_000);
  await open(page, '/return/way-home');
  await plugIn(page);
  await act('20 a reload at the moment of the confirmation', async () => {
    await page.getByRole('textbox', { name: 'Return height' }).fill('305');
    await page.keyboard.press('Enter');
    await write(page);
    await reload(page);
    await plugIn(page);
    await expect(tray(page)).toHaveText('No edits wait');
    await expect(page.getByRole('textbox', { name: 'Return height' })).toHaveValue('305');
  });
  await act('21 a reload while the board stores', async () => {
    await page.getByRole('textbox', { name: 'Return height' }).fill('306');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Write to board' }).click();
    await page.waitForTimeout(60);
    await reload(page);
    await plugIn(page);
    // On the board or waiting, it is there.
    await expect(page.getByRole('textbox', { name: 'Return height' })).toHaveValue('306');
  });
});

test('flights and batches outlive the page, and a stopped batch goes on', async ({ page }) => {
  test.setTimeout(150_000);
  await open(page);
  await openFile(page, 'turnstone', turnstone);
  await goTo(page, '/rehearse/one-flight');
  await page.getByLabel('Outbound distance').fill('600');
  await page.keyboard.press('Enter');
  await page.getByLabel('Link lost after').fill('60');
  await page.keyboard.press('Enter');
  await act('22 a reload after a flight', async () => {
    await page.getByRole('button', { name: /^Fly it/ }).click();
    await expect(page.getByRole('button', { name: 'Fly again' })).toBeVisible({ timeout: 90_000 });
    await page.getByRole('button', { name: 'Keep beside' }).click();
    await page.waitForTimeout(900);
    await reload(page);
    await expect(page.getByRole('status').filter({ hasText: 'Comes home' })).toBeVisible();
  });
  await act('23 flights kept beside it are there', async () => {
    await expect(page.getByRole('button', { name: 'Let flight 1 go' })).toBeVisible();
  });
  await act('24 another craft is opened and this one again: the flight is there', async () => {
    await goTo(page, '/craft');
    await page.getByRole('button', { name: /^Turnstone 1600.*honest/ }).click();
    await expect(page.getByRole('navigation', { name: 'Trail' })).toBeVisible();
    await goTo(page, '/craft');
    await page
      .getByRole('region', { name: 'Craft kept here' })

      .getByRole('button', { name: /^Turnstone(?!.*honest)/ })
      .click();
    await expect(page.getByRole('navigation', { name: 'Trail' })).toBeVisible();
    await goTo(page, '/rehearse/one-flight');
    await expect(page.getByRole('status').filter({ hasText: 'Comes home' })).toBeVisible();
  });
  await act('25 a batch is quit in the middle by a reload, and goes on', async () => {
    await goTo(page, '/rehearse/many-winds');
    await page.getByRole('button', { name: 'Fly all 240' }).click();
    await expect(page.getByText(/ of [1-9]\d* flown come home/)).toBeVisible({ timeout: 90_000 });
    await page.waitForTimeout(1500);
    await reload(page);
    const stopped = page.getByText(/stopped with \d+ not flown/);
    await expect(stopped).toBeVisible();
    const left = Number(/with (\d+) not/.exec((await stopped.textContent())!)![1]);
    expect(left).toBeLessThan(240);
    await page.getByRole('button', { name: `Fly the other ${left}` }).click();
    await expect(page.getByText(/still to fly/)).toBeVisible();
    await page.getByRole('button', { name: 'Stop' }).click();
    await expect(stopped).toBeVisible();
    expect(Number(/with (\d+) not/.exec((await stopped.textContent())!)![1])).toBeLessThanOrEqual(left);
  });
});

test('what is damaged, refused or replaced is told, kept aside, and can be had back', async ({ page }) => {
  test.setTimeout(120_000);
  await open(page, '/return/way-home');
  await act('26 a record is damaged: it is put aside, and the rest stays', async () => {
    await openFile(page, 'other', turnstone.replaceAll('Turnstone 1600', 'Heron 1'));
    await expect(menu(page)).toContainText('Heron 1');
    await page.waitForTimeout(300);
    await page.evaluate(
      () =>
        new Promise<void>((resolve, reject) => {
          const opening = indexedDB.open('wanderweg');
          opening.onerror = () => reject(opening.error);
          opening.onsuccess = () => {
            const db = opening.result;
            const part = db.transaction('crafts', 'readwrite').objectStore('crafts');
            const get = part.get('demo');
            get.onsuccess = () => {
              part.put({ ...get.result, craft: get.result.craft.replace('"massKg": 2.1', '"massKg": 8000') });
              part.transaction.oncomplete = () => {
                db.close();
                resolve();
              };
            };
          };
        }),
    );
    await reload(page);
    await expect(menu(page)).toContainText('Heron 1');
    await goTo(page, '/craft');
    const aside = page.getByRole('region', { name: 'Put aside' });
    await expect(aside).toContainText('massKg');
    const saved = page.waitForEvent('download');
    await aside.getByRole('button', { name: 'Save it as a file' }).click();
    expect(readFileSync(await (await saved).path(), 'utf8')).toContain('8000');
  });
  await act('27 a site’s file takes the place of one of its name, and that is brought back', async () => {
    const site = JSON.parse(readFileSync('demo/sites/torvholm.wanderweg-site.json', 'utf8'));
    const file = (heightM: number) => ({
      name: 'heath.wanderweg-site.json',
      mimeType: 'application/json',
      buffer: Buffer.from(JSON.stringify({ ...site, name: 'Heath', home: { ...site.home, heightM } })),
    });
    await goTo(page, '/build/site');
    await page.getByLabel('Site file').setInputFiles(file(site.home.heightM));
    await expect(page.getByText('Heath').first()).toBeAttached();
    await page.getByLabel('Site file').setInputFiles(file(site.home.heightM + 1));
    await expect(page.getByText('took the place of what was kept')).toBeVisible();
    await reload(page);
    await goTo(page, '/craft');
    const gone = page
      .getByRole('region', { name: 'Recently replaced' })
      .getByRole('listitem')
      .filter({ hasText: 'Heath' });
    await gone.getByRole('button', { name: 'Bring back' }).click();
    await expect(page.getByText('The site Heath is as it was.')).toBeVisible();
  });
  await act('28 the disk is full for a while: kept by itself when there is room', async () => {
    await goTo(page, '/return/way-home');
    await page.evaluate(() => {
      const put = IDBObjectStore.prototype.put;
      Object.assign(window, { roomAgain: () => Object.assign(IDBObjectStore.prototype, { put }) });
      IDBObjectStore.prototype.put = () => {
        throw new DOMException('full', 'QuotaExceededError');
      };
    });
    await page.getByRole('textbox', { name: 'Return height' }).fill('307');
    await page.keyboard.press('Enter');
    await expect(page.getByText('The disk of this browser is full')).toBeVisible();
    await page.evaluate(() => (window as unknown as { roomAgain(): void }).roomAgain());
    await expect(page.getByText('The disk of this browser is full')).toBeHidden({ timeout: 15_000 });
    await reload(page);
    await expect(page.getByRole('textbox', { name: 'Return height' })).toHaveValue('307');
  });
  await act('29 another board is chosen by hand, and undone', async () => {
    await openKept(page, 'Heron 1');
    await goTo(page, '/build/wiring');
    const board = page.getByRole('combobox', { name: 'Board' });
    await board.selectOption('massif-h7-b');
    await expect(board).toHaveValue('massif-h7-b');
    await page.locator('main h1').click();
    await page.keyboard.press('Control+z');
    while ((await board.inputValue()) !== 'fell-f7') await page.keyboard.press('Control+z');
  });
  await act('30 edits are dropped all together, and undone', async () => {
    await goTo(page, '/return/way-home');
    await page.getByRole('textbox', { name: 'Return height' }).fill('308');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Review' }).click();
    await page.getByRole('button', { name: 'Drop all' }).click();
    await page.keyboard.press('Escape');
    await expect(tray(page)).toHaveText('No edits wait');
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('textbox', { name: 'Return height' })).toHaveValue('308');
  });
});
