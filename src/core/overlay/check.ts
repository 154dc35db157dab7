import type { Values } from '../settings/catalogue.ts';
import type { Edits } from '../settings/draft.ts';
import { settingOf } from '../settings/typed.ts';
import type { OverlayConfig } from './config.ts';
import { symbolOf, symbols } from './glyphs.ts';
import { cellAt, columnOf, type ItemId, itemIds, itemName, type LayoutId, placeKey, rowOf } from './items.ts';
import { itemSize, itemText } from './itemText.ts';
import { boxOf, freeCell, inFrame, inSight, middleFor, overlaps } from './place.ts';
import type { VideoSystem } from './videoSystems.ts';
import { newView } from './view.ts';

const problemKinds = [
  'overlap',
  'outside',
  'edge',
  'off-middle',
  'not-drawn',
  'symbol',
  'no-source',
  'too-much',
] as const;

/** What is wrong with a layout. */
export interface OverlayProblem {
  readonly kind: (typeof problemKinds)[number];
  readonly items: readonly ItemId[];
  /** In a sentence for a person. */
  readonly says: string;
  readonly mend?: { readonly label: string; readonly edits: Edits };
}

/** More items than this, or more of the picture covered, and nobody reads them in a glance. Ours. */
const MOST_ITEMS = 18;
const MOST_COVERED = 0.3;

const upper = (text: string) => text[0]!.toUpperCase() + text.slice(1);
const where = (cell: number) => `row ${rowOf(cell) + 1}, column ${columnOf(cell) + 1}`;

/** Everything that is wrong with a layout on a video system, most serious first. */
export function overlayProblems(
  layout: LayoutId,
  c: OverlayConfig,
  system: VideoSystem,
  values: Values,
): readonly OverlayProblem[] {
  const placing = c.layouts[layout];
  const shown = itemIds.filter((id) => placing[id] >= 0);
  const drawn = shown.filter((id) => system.draws(id) === true);
  const problems: OverlayProblem[] = [];
  const move = (item: ItemId): OverlayProblem['mend'] => {
    const cell = placing[item];
    const free = freeCell(item, { row: rowOf(cell), column: columnOf(cell) }, placing, c, system);
    return free === null
      ? { label: `Take ${itemName(item)} off`, edits: { [placeKey(layout, item)]: -1 } }
      : { label: `Move ${itemName(item)} to ${where(free)}`, edits: { [placeKey(layout, item)]: free } };
  };
  for (const [i, a] of drawn.entries())
    for (const b of drawn.slice(i + 1)) {
      const [one, other] = [boxOf(a, placing[a], c), boxOf(b, placing[b], c)];
      if (!overlaps(one, other)) continue;
      const modes = [a, b].includes('mode') ? longest(c.modes) : null;
      problems.push({
        kind: 'overlap',
        items: [a, b],
        says: modes
          ? `${upper(itemName(a))} and ${itemName(b)} share cells. ${modes} takes ${modes.length} of them and would flicker just when you need it.`
          : `${upper(itemName(a))} and ${itemName(b)} share cells: where both write, they flicker.`,
        mend: move(
          itemSize(b, c).rows * itemSize(b, c).columns <= itemSize(a, c).rows * itemSize(a, c).columns
            ? b
            : a,
        )!,
      });
    }
  for (const id of drawn) {
    const box = boxOf(id, placing[id], c);
    if (!inFrame(box, system))
      problems.push({
        kind: 'outside',
        items: [id],
        says: `${upper(itemName(id))} reaches beyond the picture: ${system.name} has ${system.columns} columns and ${system.rows} rows. What lies outside is not drawn.`,
        mend: move(id)!,
      });
    else if (!inSight(box, system))
      problems.push({
        kind: 'edge',
        items: [id],
        says: `${upper(itemName(id))} stands at the very edge, which many screens and goggles cut off.`,
        mend: move(id)!,
      });
  }
  for (const id of ['horizon', 'aim'] as const) {
    if (!drawn.includes(id)) continue;
    const middle = middleFor(id, c, system);
    const cell = cellAt(middle.row, middle.column);
    if (
      Math.abs(rowOf(placing[id]) - middle.row) <= 1 &&
      Math.abs(columnOf(placing[id]) - middle.column) <= 1
    )
      continue;
    problems.push({
      kind: 'off-middle',
      items: [id],
      says: `${upper(itemName(id))} stands away from the middle of the picture: it is not where the nose points.`,
      mend: { label: `Move ${itemName(id)} to the middle`, edits: { [placeKey(layout, id)]: cell } },
    });
  }
  for (const id of shown) {
    const draws = system.draws(id);
    if (draws === true) continue;
    const { instead } = draws;
    const off = { [placeKey(layout, id)]: -1 };
    problems.push({
      kind: 'not-drawn',
      items: [id],
      says: `${system.name} does not draw ${itemName(id)}${instead ? `; ${itemName(instead)} tells much the same` : ', nor anything like it'}.`,
      mend:
        instead && placing[instead] < 0
          ? {
              label: `Show ${itemName(instead)} there`,
              edits: { ...off, [placeKey(layout, instead)]: placing[id] },
            }
          : { label: `Take ${itemName(id)} off`, edits: off },
    });
  }
  const lacking = drawn.flatMap((id) => lackingSymbol(id, c, system));
  for (const { id, name, instead } of lacking)
    problems.push({
      kind: 'symbol',
      items: [id],
      says: `${system.name} has no sign like ${name}: ${itemName(id)} shows ${instead} instead.`,
    });
  for (const id of drawn) {
    const why = whyNoSource(id, values);
    if (why)
      problems.push({
        kind: 'no-source',
        items: [id],
        says: `${upper(itemName(id))} stays empty: ${why}`,
        mend: { label: `Take ${itemName(id)} off`, edits: { [placeKey(layout, id)]: -1 } },
      });
  }
  const covered = drawn.reduce((sum, id) => {
    const { columns, rows } = itemSize(id, c);
    // A bar in each column, not its whole block.
    return sum + (id === 'horizon' ? columns : columns * rows);
  }, 0);
  const share = covered / (system.columns * system.rows);
  if (drawn.length > MOST_ITEMS || share > MOST_COVERED)
    problems.push({
      kind: 'too-much',
      items: [],
      says: `${drawn.length} items cover ${Math.round(100 * share)} % of the picture: more than is read in a glance. Another layout on a switch may take what is seldom looked at.`,
    });
  const order = (p: OverlayProblem) => problemKinds.indexOf(p.kind);
  return problems.sort((a, b) => order(a) - order(b));
}

/** Edits that put all problems of some kinds right that have a mend, one after the other. */
export function overlayMended(
  layout: LayoutId,
  c: OverlayConfig,
  system: VideoSystem,
  values: Values,
  kinds: readonly OverlayProblem['kind'][] = problemKinds,
): Edits {
  let edits: Edits = {};
  let now = c;
  // Each mend settles one item at least.
  for (let k = 0; k < 2 * itemIds.length; k++) {
    const next = overlayProblems(layout, now, system, values).find((p) => p.mend && kinds.includes(p.kind));
    if (!next?.mend) break;
    edits = { ...edits, ...next.mend.edits };
    const placing = { ...now.layouts[layout] };
    for (const id of itemIds) {
      const cell = next.mend.edits[placeKey(layout, id)];
      if (typeof cell === 'number') placing[id] = cell;
    }
    now = { ...now, layouts: { ...now.layouts, [layout]: placing } };
  }
  return edits;
}

const longest = (names: readonly string[]) =>
  names.reduce((most, name) => (name.length > most.length ? name : most), '');

/** A symbol of an item that a system shows by a letter. */
function lackingSymbol(id: ItemId, c: OverlayConfig, system: VideoSystem) {
  // Where home is known, every sign that an item has is in it.
  const view = { ...newView(), homeSet: true, homeBearing: 0, heading: 0, homeDistance: 1, windFrom: 0 };
  for (const line of itemText(id, view, c))
    for (const letter of line) {
      const symbol = symbolOf(letter.charCodeAt(0));
      if (symbol && system.lacks.includes(symbol))
        return [{ id, name: symbols[symbol].name, instead: `the letter ${symbols[symbol].instead}` }];
    }
  return [];
}

const byPlace: readonly ItemId[] = [
  'arrow',
  'distance',
  'bearing',
  'latitude',
  'longitude',
  'travelled',
  'speed',
  'satellites',
  'accuracy',
  'wind',
];

/** Why the board will never have anything to show for an item; null where it will. */
function whyNoSource(id: ItemId, values: Values): string | null {
  const words = /^words(\d)$/.exec(id)?.[1];
  if (words)
    return settingOf(values, `overlay.words.${words}` as 'overlay.words.1')
      ? null
      : 'no words are typed for it.';
  if (id === 'ground' && settingOf(values, 'range.fitted') === false)
    return 'no rangefinder is fitted, and nothing else tells the height over the ground.';
  if (id === 'dial' && !(Number(values['dial.1.channel']) > 0)) return 'no dial moves a setting.';
  if (id === 'need' && settingOf(values, 'battery.watch') !== 'home')
    return 'the battery is not watched by what the way home takes.';
  if (
    byPlace.includes(id) &&
    !Object.entries(values).some(([k, v]) => /^port\.\d+\.use$/.test(k) && v === 'gnss')
  )
    return 'no port is set for a GNSS receiver.';
  return null;
}
