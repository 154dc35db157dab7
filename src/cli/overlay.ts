import type { CraftFile } from '#core/formats/craftFile.ts';
import { overlayProblems } from '#core/overlay/check.ts';
import { overlayConfigOf } from '#core/overlay/config.ts';
import { picturedInText } from '#core/overlay/draw.ts';
import { itemIds, itemName, layoutIds } from '#core/overlay/items.ts';
import { layoutToToml } from '#core/overlay/layoutText.ts';
import { carried } from '#core/overlay/place.ts';
import { sampleView } from '#core/overlay/sample.ts';
import { videoIds, videoSystems } from '#core/overlay/videoSystems.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { BadInput } from './input.ts';
import { say } from './output.ts';

/**
 * What stands over the pilot's picture, as text, and what is wrong with it; exit code 1 where anything is.
 * @param on a video system to carry the layouts to; the craft's own when left out
 */
export function showOverlay(craft: CraftFile, values: Values, on: string | undefined, json: boolean): number {
  const own = overlayConfigOf(values);
  const asked = videoIds.find((id) => id === on);
  if (on !== undefined && !asked)
    throw new BadInput(`--system ${on} is none; there are ${videoIds.join(', ')}. Nothing was done.`);
  const system = asked ? videoSystems[asked] : own.system;
  if (!system)
    throw new BadInput(
      `${craft.name} has no video system. Give one with --system: ${videoIds.join(', ')}. Nothing was done.`,
    );
  const from = own.system ?? system;
  const layouts = layoutIds.flatMap((id) => {
    if (!itemIds.some((i) => own.layouts[id][i] >= 0)) return [];
    const there = from === system ? null : carried(own.layouts[id], from, system, own);
    const placing = there?.placing ?? own.layouts[id];
    const c = { ...own, system, layouts: { ...own.layouts, [id]: placing } };
    const problems = overlayProblems(id, c, system, values);
    const picture = picturedInText(id, sampleView(c), c, system);
    const text = layoutToToml(placing, system.id, own.words, `Layout ${id.toUpperCase()} of ${craft.name}`);
    return [{ layout: id, text, picture, problems, left: there?.left ?? [], instead: there?.instead ?? [] }];
  });
  const wrong = layouts.some((l) => l.problems.length > 0 || l.left.length > 0);
  if (json) say(`${JSON.stringify({ craft: craft.name, system: system.id, layouts }, null, 2)}\n`);
  else {
    for (const l of layouts) {
      say(`${l.text}\n`);
      say('Its figures are of a moment that never was.\n');
      const rule = `+${'-'.repeat(system.columns)}+\n`;
      say(`${rule}${l.picture.map((row) => `|${row}|\n`).join('')}${rule}`);
      for (const p of l.problems) {
        say(`${p.kind.padEnd(10)} ${p.says}\n`);
        if (p.mend) say(`           To put right: ${p.mend.label}.\n`);
      }
      for (const { item, by } of l.instead)
        say(`instead    ${itemName(by)} stands where ${itemName(item)} stood.\n`);
      for (const { item, why } of l.left) say(`left out   ${itemName(item)}: ${why}\n`);
    }
    say(
      `${craft.name} on ${system.name}: ${layouts.length === 0 ? 'nothing stands over the picture' : wrong ? 'something is to be put right' : 'nothing is wrong'}.\n`,
    );
  }
  return wrong ? 1 : 0;
}
