import { parse, TomlError } from 'smol-toml';
import * as z from 'zod';
import { parsed } from '../parsed.ts';
import { cellAt, columnOf, type ItemId, itemIds, rowOf } from './items.ts';
import { nowhere, type Placing } from './place.ts';
import { type VideoId, type VideoSystem, videoIds, videoSystems } from './videoSystems.ts';

/** A layout as text: TOML, rows and columns from 1 as a person counts them. */

const MOST_LETTERS = 20_000;
const spot = z.tuple([z.number().int().min(1).max(22), z.number().int().min(1).max(60)]);
const fileSchema = z.object({
  system: z.enum(videoIds),
  place: z.record(z.string().max(30), spot),
  words: z
    .record(
      z.string().regex(/^[123]$/),
      z
        .string()
        .max(20)
        .regex(/^[ -~]*$/),
    )
    .default({}),
});

export interface LayoutRead {
  readonly system: VideoSystem;
  readonly placing: Placing;
  readonly words: Readonly<Record<string, string>>;
  /** Items of the text that nobody here knows. */
  readonly unknown: readonly string[];
}

export function layoutToToml(
  placing: Placing,
  system: VideoId,
  words: readonly string[],
  title: string,
): string {
  const { name, columns, rows } = videoSystems[system];
  const lines = [
    `# ${title.replace(/[\r\n]+/g, ' ')}: ${name}, ${columns} columns by ${rows} rows. Each item by row and column, from 1.`,
    `system = "${system}"`,
    '',
    '[place]',
    ...itemIds
      .filter((id) => placing[id] >= 0)
      .sort((a, b) => placing[a] - placing[b])
      .map((id) => `${id} = [${rowOf(placing[id]) + 1}, ${columnOf(placing[id]) + 1}]`),
  ];
  const typed = words.flatMap((w, i) => (w === '' ? [] : [`${i + 1} = ${JSON.stringify(w)}`]));
  if (typed.length > 0) lines.push('', '[words]', ...typed);
  return `${lines.join('\n')}\n`;
}

/** Reads what `layoutToToml` wrote, or a person by hand. Never throws. */
export function layoutFromToml(text: string): { ok: true; layout: LayoutRead } | { ok: false; why: string } {
  if (text.length > MOST_LETTERS)
    return { ok: false, why: 'This is much longer than any layout. Nothing was changed.' };
  let table: unknown;
  try {
    table = parse(text, { maxDepth: 6 });
  } catch (error) {
    const at = error instanceof TomlError ? ` in line ${error.line}` : '';
    return { ok: false, why: `This is no layout: it is not TOML${at}. Nothing was changed.` };
  }
  const read = parsed(fileSchema, table);
  if (!read.success) {
    const first = read.error.issues[0];
    const at = first?.path.join('.') || 'its beginning';
    return {
      ok: false,
      why: `This is no layout: ${at} is missing or wrong. A layout names its video system and gives each item a row and a column. Nothing was changed.`,
    };
  }
  const placing = nowhere();
  const unknown: string[] = [];
  for (const [key, [row, column]] of Object.entries(read.data.place)) {
    const item = itemIds.find((id: ItemId) => id === key);
    if (item) placing[item] = cellAt(row - 1, column - 1);
    else unknown.push(key);
  }
  return {
    ok: true,
    layout: { system: videoSystems[read.data.system], placing, words: read.data.words, unknown },
  };
}
