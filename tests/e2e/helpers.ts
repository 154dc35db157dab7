import { expect, type Page } from '@playwright/test';

/** Opens the application on a fresh profile, walks the demo and waits until its craft is there. */
export async function open(page: Page, path = '/'): Promise<string[]> {
  const faults: string[] = [];
  page.on('console', (m) => {
    if (m.type() === 'error') faults.push(m.text());
  });
  page.on('pageerror', (e) => faults.push(e.message));
  await page.goto(path);
  await walkDemo(page);
  await expect(page.getByText('Turnstone 1600').first()).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  return faults;
}

/** On a first visit, the way to the demo; it goes on where the address says. */
async function walkDemo(page: Page): Promise<void> {
  const path = new URL(page.url()).pathname;
  await page.getByRole('button', { name: 'Walk the demo' }).click();
  await expect(page.getByRole('navigation', { name: 'Trail' })).toBeVisible();
  if (path !== '/') await goTo(page, path);
}

/** At all craft: begins one of one's own, flown at Torvholm. */
export async function begin(page: Page, from: string, name = from): Promise<void> {
  await page.getByRole('button', { name: 'Begin with my craft' }).click();
  const form = page.getByRole('form', { name: 'A craft of your own' });
  await form.getByLabel('Begin from').selectOption(from);
  await form.getByLabel('Name').fill(name);
  await form.getByLabel(/^Board, in hand/).selectOption('Fell F7 revision A');
  await form.getByLabel('Where it flies').selectOption('Torvholm');
  await form.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(page.getByRole('navigation', { name: 'Trail' })).toBeVisible();
}

export async function openBench(page: Page): Promise<void> {
  const handle = page.getByRole('button', { name: /^Bench/ });
  if ((await handle.getAttribute('aria-expanded')) === 'false') await handle.click();
}

export async function closeBench(page: Page): Promise<void> {
  const handle = page.getByRole('button', { name: /^Bench/ });
  if ((await handle.getAttribute('aria-expanded')) === 'true') await handle.click();
}

/** Before the page is opened: a real game controller is plugged in, all of it at rest. */
export async function withGameController(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const axes = [0, 0, 0, 0];
    (window as unknown as { axes: number[] }).axes = axes;
    const pad = {
      connected: true,
      axes,
      buttons: [],
      id: 'test',
      index: 0,
      mapping: 'standard',
      timestamp: 0,
    };
    navigator.getGamepads = () => [pad as unknown as Gamepad, null, null, null];
  });
}

/** Both sticks of the controller at once, as a person holds them: right and up are positive. */
export async function holdSticks(
  page: Page,
  yaw: number,
  throttle: number,
  roll: number,
  pitch: number,
): Promise<void> {
  await page.evaluate(
    (axes) => {
      (window as unknown as { axes: number[] }).axes.splice(0, 4, ...axes);
    },
    // A controller's axes point right and down.
    [yaw, -throttle, roll, -pitch],
  );
}

/** Sets a two-way thing on the bench. */
export async function bench(page: Page, name: string, on: boolean): Promise<void> {
  await openBench(page);
  const control = page.getByRole('switch', { name: new RegExp(`^${name}`) });
  if ((await control.getAttribute('aria-checked')) !== String(on)) await control.click();
  await expect(control).toHaveAttribute('aria-checked', String(on));
}

export async function plugIn(page: Page, battery = false): Promise<void> {
  await bench(page, 'USB cable', true);
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
  if (battery) {
    await bench(page, 'Battery', true);
    await expect(page.getByText('USB and battery')).toBeVisible();
  }
}

/** Takes the craft on the bench out and flies what is on its board. */
export async function flyOut(page: Page): Promise<void> {
  await bench(page, 'USB cable', false);
  await bench(page, 'Battery', false);
  const drawer = page.getByRole('region', { name: 'Bench, simulated' });
  await drawer.getByRole('button', { name: 'Strip', exact: true }).click();
  await drawer.getByRole('button', { name: 'Fly it' }).click();
  await expect(drawer.getByText(/^It is back\./)).toBeVisible({ timeout: 120_000 });
}

/** Writes and waits until the board has read everything back. */
export async function write(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Write to board' }).click();
  await expect(page.getByText(/The board read back all \d+ as sent/)).toBeVisible({ timeout: 40_000 });
}

/** Holds the output chosen, by key, until the board says that it moves. */
export async function holdOutput(page: Page): Promise<void> {
  const hold = page.getByRole('button', { name: /Hold to move output/ });
  const moving = page.getByText('moving now');
  // A page that stalls for longer than the board waits is told to hold again, and does.
  const stopped = page.getByText('The board moves nothing now');
  await expect(hold).toBeEnabled();
  await hold.focus();
  for (;;) {
    await page.keyboard.down(' ');
    await expect(moving.or(stopped)).toBeVisible();
    if (await moving.isVisible()) return;
    await page.keyboard.up(' ');
  }
}

/** Holds the output until the board says it moves, lets go, and answers. */
export async function answer(page: Page, output: number, part: string | null, word: string): Promise<void> {
  await page
    .getByRole('list', { name: 'Outputs' })
    .getByRole('button')
    .nth(output - 1)
    .click();
  await holdOutput(page);
  await page.keyboard.up(' ');
  await expect(page.getByText('moving now')).toBeHidden();
  if (part === null) {
    await page.getByRole('button', { name: 'Nothing moved' }).click();
    return;
  }
  const target = page.getByRole('button', { name: new RegExp(`^${part}`) });
  await target.focus();
  await page.keyboard.press('Enter');
  await page
    .getByRole('group', { name: new RegExp(part) })
    .getByRole('button', { name: word })
    .click();
}

/** Lays the craft on the table of the open bench, takes it in hand and tilts it, degrees in steps of five. */
export async function tiltByKeys(page: Page, roll: number, pitch: number): Promise<void> {
  await page.getByRole('application', { name: /^The craft,/ }).focus();
  await page.keyboard.press('Home');
  for (let k = 0; k < Math.abs(roll) / 5; k++)
    await page.keyboard.press(roll > 0 ? 'ArrowRight' : 'ArrowLeft');
  for (let k = 0; k < Math.abs(pitch) / 5; k++)
    await page.keyboard.press(pitch > 0 ? 'ArrowDown' : 'ArrowUp');
}

/** Opens something by name. */
export async function find(page: Page, words: string): Promise<void> {
  // While the craft is opening its settings are not known yet, and a place of like words would be first.
  await expect(page.getByText('Opening the craft…')).toBeHidden();
  await page.keyboard.press('Control+k');
  await page.locator('input[role=combobox]').fill(words);
  await expect(page.locator('[role=option][aria-selected=true]')).toContainText(new RegExp(words, 'i'));
  await page.keyboard.press('Enter');
}

/** Goes somewhere within the application, so that the board stays plugged in. */
export async function goTo(page: Page, path: string): Promise<void> {
  await page.evaluate((to) => {
    history.pushState({}, '', to);
    dispatchEvent(new PopStateEvent('popstate'));
  }, path);
}

/** Every station that the trail leads to, and every leg without stations: where it is and what it is called. */
export async function everyView(page: Page): Promise<{ path: string; name: string }[]> {
  const views: { path: string; name: string }[] = [];
  const legs = await page.getByRole('navigation', { name: 'Trail' }).getByRole('link').all();
  for (const leg of legs) {
    const path = (await leg.getAttribute('href'))!;
    const name = (await leg.getAttribute('aria-label'))!.split(',')[0]!;
    await goTo(page, path);
    const list = page.getByRole('navigation', { name: `Stations of ${name}` });
    await expect(list).toBeVisible();
    const stations = await list.getByRole('link').all();
    if (stations.length === 0) views.push({ path, name });
    for (const s of stations)
      views.push({
        path: (await s.getAttribute('href'))!,
        name: await s.evaluate((e) => e.lastElementChild!.firstChild!.textContent!),
      });
  }
  expect(views.length).toBeGreaterThan(15);
  return views;
}

/** On the reach: puts the place that is looked at by keys. */
export async function putPlace(page: Page, bearing: number, distance: number): Promise<void> {
  const place = page.getByRole('slider', { name: /^Place that is looked at/ });
  await place.focus();
  const told = async () => {
    const [, at, far] = /bearing (\d+)°, (\d+) m/.exec((await place.getAttribute('aria-valuetext'))!)!;
    return { at: Number(at), far: Number(far) };
  };
  for (let now = await told(); Math.abs(now.at - bearing) > 1; now = await told())
    await page.keyboard.press((bearing - now.at + 360) % 360 < 180 ? 'ArrowRight' : 'ArrowLeft');
  for (let now = await told(); Math.abs(now.far - distance) > 60; now = await told())
    await page.keyboard.press(now.far < distance ? 'Shift+ArrowUp' : 'Shift+ArrowDown');
}
