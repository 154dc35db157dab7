import { expect, type Locator } from '@playwright/test';

/** How a person reaches things. */
export interface Person {
  press(target: Locator): Promise<void>;
  choose(select: Locator, option: string): Promise<void>;
  typeIn(field: Locator, text: string): Promise<void>;
}

const byMouse: Person = {
  press: (target) => target.click({ timeout: 30_000 }),
  async choose(select, option) {
    await select.selectOption(option);
  },
  async typeIn(field, text) {
    await field.fill(text);
    await field.press('Enter');
  },
};

/** Goes on by Tab until something has the focus. */
async function tabTo(target: Locator): Promise<void> {
  const page = target.page();
  await expect(target).toBeEnabled({ timeout: 30_000 });
  for (let k = 0; k < 240; k++) {
    if (await target.evaluate((e) => e === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`${target} is not reached by keys`);
}

export const byKeys: Person = {
  async press(target) {
    await tabTo(target);
    await target.page().keyboard.press('Enter');
  },
  async choose(select, option) {
    await tabTo(select);
    // A select that has the focus goes by what is typed of what it shows.
    const shown = await select.evaluate(
      (e, value) => [...(e as HTMLSelectElement).options].find((o) => o.value === value)!.text,
      option,
    );
    await select.page().keyboard.type(shown);
    await expect(select).toHaveValue(option);
  },
  async typeIn(field, text) {
    await tabTo(field);
    await field.page().keyboard.press('Control+a');
    await field.page().keyboard.type(text);
    await field.page().keyboard.press('Enter');
  },
};

export const people = [
  ['by mouse', byMouse],
  ['by keys alone', byKeys],
] as const;
