import { BLANK } from '../overlay/glyphs.ts';
import type { VideoSystem } from '../overlay/videoSystems.ts';
import type { SettingValue, Values } from '../settings/catalogue.ts';
import type { SettingKey } from '../settings/typed.ts';
import { videoPowersMw } from '../video/transmitter.ts';

/** A menu over the pilot's picture, for the ground: a few settings that one wants to change at the strip. */

export type MenuKey = 'up' | 'down' | 'left' | 'right';

interface MenuEntry {
  readonly label: string;
  readonly key: SettingKey;
  /** What it may be, in order; or a number with its bounds and step. */
  readonly of:
    | readonly string[]
    | { readonly least: number; readonly most: number; readonly step: number; readonly unit: string };
}

const entries: readonly MenuEntry[] = [
  { label: 'Control set', key: 'set.active', of: ['1', '2', '3'] },
  { label: 'Return height', key: 'return.height', of: { least: 20, most: 1000, step: 10, unit: 'm' } },
  { label: 'Level: nose', key: 'mount.levelPitch', of: { least: -10, most: 10, step: 0.5, unit: '' } },
  { label: 'Level: wing', key: 'mount.levelRoll', of: { least: -10, most: 10, step: 0.5, unit: '' } },
  { label: 'Calls after', key: 'find.afterDown', of: { least: 0, most: 600, step: 30, unit: 's' } },
  { label: 'Video channel', key: 'video.channel', of: { least: 1, most: 8, step: 1, unit: '' } },
  { label: 'Video power', key: 'video.power', of: videoPowersMw.map(String) },
];
const TITLE = 'ON THE GROUND';
const LEAVE = 'Leave';
/** Entries and the way out. */
export const MENU_ROWS = entries.length + 1;
const LABEL_WIDE = 15;

/** The menu as lines, the one that it stands at marked; what can go farther has its arrows. */
export function menuLines(values: Values, at: number): readonly string[] {
  const lines = entries.map(({ label, key, of }, i) => {
    const value = String(values[key] ?? '');
    const unit = 'unit' in of ? of.unit : '';
    return `${i === at ? '>' : ' '} ${label.padEnd(LABEL_WIDE)}${value}${unit}`;
  });
  return [TITLE, ...lines, `${at === entries.length ? '>' : ' '} ${LEAVE}`];
}

export interface MenuStep {
  readonly at: number;
  readonly edits: Readonly<Record<string, SettingValue>>;
  readonly leave: boolean;
}

/** One push of the right stick: up and down go along, left and right change, left or right on the last line leaves. */
export function menuStep(values: Values, at: number, key: MenuKey): MenuStep {
  const stay = { at, edits: {}, leave: false };
  if (key === 'up' || key === 'down')
    return { ...stay, at: (at + (key === 'down' ? 1 : MENU_ROWS - 1)) % MENU_ROWS };
  const entry = entries[at];
  if (!entry) return { ...stay, leave: true };
  const by = key === 'right' ? 1 : -1;
  const { of } = entry;
  const now = values[entry.key];
  let next: SettingValue;
  if ('least' in of) {
    const from = typeof now === 'number' ? now : of.least;
    next = Number(Math.min(of.most, Math.max(of.least, from + by * of.step)).toFixed(2));
  } else {
    const i = of.indexOf(String(now));
    next = of[Math.min(of.length - 1, Math.max(0, i + by))]!;
  }
  return next === now ? stay : { ...stay, edits: { [entry.key]: next } };
}

/** Writes lines into the middle of an empty picture. @param cells as many as the grid has */
export function drawMenu(
  lines: readonly string[],
  system: Pick<VideoSystem, 'columns' | 'rows'>,
  cells: Uint16Array,
): void {
  cells.fill(BLANK);
  const { columns, rows } = system;
  const wide = Math.max(...lines.map((l) => l.length));
  const left = Math.max(0, Math.floor((columns - wide) / 2));
  const top = Math.max(0, Math.floor((rows - lines.length) / 2));
  lines.slice(0, rows - top).forEach((line, row) => {
    for (let i = 0; i < Math.min(line.length, columns - left); i++)
      cells[(top + row) * columns + left + i] = line.charCodeAt(i);
  });
}

/**
 * The menu as it stands over a picture; null where there is none.
 * @param cells character codes row by row, as `drawMenu` writes them and a board tells them
 */
export function menuSeen(cells: ArrayLike<number>, columns: number): readonly string[] | null {
  const rows = Array.from({ length: Math.floor(cells.length / Math.max(1, columns)) }, (_, row) =>
    String.fromCharCode(
      ...Array.from({ length: columns }, (__, i) => (cells[row * columns + i] ?? 0) & 0xff),
    ),
  );
  const top = rows.findIndex((row) => row.includes(TITLE));
  const left = rows[top]?.indexOf(TITLE) ?? 0;
  return top < 0 ? null : rows.slice(top, top + 1 + MENU_ROWS).map((row) => row.slice(left).trimEnd());
}
