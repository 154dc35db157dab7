import { expect, type Page, test } from '@playwright/test';
import { everyView, goTo, open, plugIn } from './helpers.ts';

const sizes = [
  [1280, 800],
  [1024, 700],
  [1920, 1080],
  // 1280 by 800 at 200 %.
  [640, 400],
] as const;

/** Text that is too small, cut off, or lies over other text; and a work area that is too small. */
async function faults(page: Page): Promise<string[]> {
  return await page.evaluate(() => {
    const found: string[] = [];
    const work = document.getElementById('work')!;
    const box = work.getBoundingClientRect();
    if (box.width < 400 || box.height < 300)
      found.push(`work area of ${Math.round(box.width)} by ${Math.round(box.height)}`);
    const texts: { text: string; rect: DOMRect }[] = [];
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const text = node.textContent!.trim();
      const e = node.parentElement!;
      if (
        text === '' ||
        e.closest('.sr-only, [hidden], option, script, style, [aria-hidden=true] title, title')
      )
        continue;
      const style = getComputedStyle(e);
      if (style.visibility === 'hidden' || style.display === 'none' || Number(style.opacity) === 0) continue;
      const range = document.createRange();
      range.selectNodeContents(node);
      // Each line of it by itself.
      const rects = [...range.getClientRects()].filter((r) => r.width >= 1 && r.height >= 1);
      if (rects.length === 0) continue;
      const drawn = e.closest('svg');
      const turned = drawn
        ? Math.abs((e as unknown as SVGGraphicsElement).getScreenCTM?.()?.b ?? 0) > 0.05
        : false;
      const scale = drawn ? ((e as unknown as SVGGraphicsElement).getScreenCTM?.()?.a ?? 1) : 1;
      if (turned) continue;
      const px = Number.parseFloat(style.fontSize) * Math.abs(scale);
      // Half a pixel of rounding.
      if (px < 10.5 && px > 0.5) found.push(`${px.toFixed(1)} px: "${text.slice(0, 40)}"`);
      // Cut: what hides what runs over does so without a title that tells the rest.
      let holder: HTMLElement | null = e as HTMLElement;
      for (let up = 0; holder && up < 3; up++, holder = holder.parentElement) {
        const h = getComputedStyle(holder);
        if (
          h.overflowX === 'hidden' &&
          holder.scrollWidth > holder.clientWidth + 2 &&
          !holder.closest('[title]') &&
          !holder.closest('svg')
        )
          found.push(`cut: "${text.slice(0, 50)}"`);
      }
      if (work.contains(e)) for (const rect of rects) texts.push({ text, rect });
    }
    for (const [i, a] of texts.entries())
      for (const b of texts.slice(i + 1)) {
        const w = Math.min(a.rect.right, b.rect.right) - Math.max(a.rect.left, b.rect.left);
        const h = Math.min(a.rect.bottom, b.rect.bottom) - Math.max(a.rect.top, b.rect.top);
        if (w > 3 && h > 0.45 * Math.min(a.rect.height, b.rect.height))
          found.push(`"${a.text.slice(0, 30)}" over "${b.text.slice(0, 30)}"`);
      }
    return [...new Set(found)];
  });
}

for (const [width, height] of sizes)
  test(`no text is too small, cut or overlapped at ${width} by ${height}, by day and dusk, the bench open and closed`, async ({
    page,
  }) => {
    test.setTimeout(240_000);
    await open(page);
    await plugIn(page, true);
    const views = await everyView(page);
    await page.setViewportSize({ width, height });
    const found: string[] = [];
    for (const [theme, bench] of [
      ['day', 'open'],
      ['dusk', 'closed'],
      ['dusk', 'open'],
      ['day', 'closed'],
    ] as const) {
      await page.evaluate((to) => {
        document.documentElement.dataset.theme = to;
      }, theme);
      const handle = page.getByRole('button', { name: /^Bench/ });
      if ((await handle.getAttribute('aria-expanded')) !== String(bench === 'open')) await handle.click();
      for (const { path } of views) {
        await goTo(page, path);
        await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
        await page.waitForTimeout(150);
        for (const fault of await faults(page)) found.push(`${path}, ${theme}, bench ${bench}: ${fault}`);
      }
    }
    expect(found).toEqual([]);
  });
