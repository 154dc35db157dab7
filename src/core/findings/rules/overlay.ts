import { type OverlayProblem, overlayMended, overlayProblems } from '../../overlay/check.ts';
import { overlayConfigOf } from '../../overlay/config.ts';
import { itemName, type LayoutId, layoutIds, placeKey } from '../../overlay/items.ts';
import { finding, need, type Rule } from '../rule.ts';

/** What makes an overlay fail when it is needed; what is only less than it could be is said at its station. */
const kinds: readonly {
  readonly kind: OverlayProblem['kind'];
  readonly id: string;
  readonly title: (layout: string) => string;
  readonly label: string;
}[] = [
  {
    kind: 'overlap',
    id: 'overlay-flickers',
    title: (l) => `Over the picture, items of layout ${l} share cells`,
    label: 'Move them apart',
  },
  {
    kind: 'outside',
    id: 'overlay-outside',
    title: (l) => `Over the picture, items of layout ${l} lie outside it`,
    label: 'Move them in',
  },
  {
    kind: 'not-drawn',
    id: 'overlay-not-drawn',
    title: (l) => `The video system does not draw all of layout ${l}`,
    label: 'Show what it draws',
  },
  {
    kind: 'no-source',
    id: 'overlay-empty',
    title: (l) => `Over the picture, items of layout ${l} stay empty`,
    label: 'Take them off',
  },
];

/** What the rule can find. */
export const overlayFindingIds: readonly string[] = kinds.map((k) => k.id);

const MOST_NAMED = 3;

const overlay: Rule = ({ values }) => {
  need(values, 'overlay.system');
  const c = overlayConfigOf(values);
  const { system } = c;
  if (!system) return [];
  const flown: readonly LayoutId[] = c.channel > 0 ? layoutIds : ['a'];
  return flown.flatMap((layout) => {
    const problems = overlayProblems(layout, c, system, values);
    return kinds.flatMap(({ kind, id, title, label }) => {
      const these = problems.filter((p) => p.kind === kind);
      if (these.length === 0) return [];
      const items = [...new Set(these.flatMap((p) => p.items))];
      const more = these.length - 1;
      const others = items.filter((i) => !these[0]!.items.includes(i)).map(itemName);
      const named = others.slice(0, MOST_NAMED).join(', ');
      const rest = others.length > MOST_NAMED ? ' and others' : '';
      return [
        finding(
          `${id}.${layout}`,
          'caution',
          'over-picture',
          title(layout.toUpperCase()),
          more === 0 || named === '' ? these[0]!.says : `${these[0]!.says} So it is with ${named}${rest}.`,
          items.map((i) => placeKey(layout, i)),
          { label, edits: overlayMended(layout, c, system, values, [kind]) },
        ),
      ];
    });
  });
};

export const overlayRules: readonly Rule[] = [overlay];
