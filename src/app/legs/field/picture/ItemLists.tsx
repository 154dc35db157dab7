import type { OverlayConfig } from '#core/overlay/config.ts';
import { type ItemId, itemIds, itemName, type Question, questionOf, questions } from '#core/overlay/items.ts';
import { itemText } from '#core/overlay/itemText.ts';
import type { Placing } from '#core/overlay/place.ts';
import type { VideoSystem } from '#core/overlay/videoSystems.ts';
import type { OverlayView } from '#core/overlay/view.ts';
import { Waymark } from '../../../ui/Waymark.tsx';
import { readable } from './readable.ts';

interface Props {
  readonly system: VideoSystem;
  readonly config: OverlayConfig;
  readonly placing: Placing;
  /** Of what each says now; null where that is another's to tell. */
  readonly view: OverlayView | null;
  readonly wrong: ReadonlySet<ItemId>;
  readonly chosen: ItemId | null;
  /** Shows one that is not shown, and chooses one that is. */
  readonly onPick: (item: ItemId) => void;
}

/** What can stand over the picture, by the question that it answers, and what each says now. */
export function ItemLists({ system, config, placing, view, wrong, chosen, onPick }: Props) {
  return (
    <div className="mt-4 columns-[200px] gap-x-6">
      {Object.entries(questions).map(([question, words]) => (
        <section key={question} aria-label={words} className="mb-4 break-inside-avoid">
          <h2 className="font-semibold">{words}</h2>
          <ul className="mt-1">
            {itemIds
              .filter((id) => questionOf(id) === (question as Question))
              .map((id) => {
                const shown = placing[id] >= 0;
                const draws = system.draws(id);
                const says =
                  !view || id === 'horizon' || id === 'aim' ? '' : readable(itemText(id, view, config));
                const state = wrong.has(id) ? 'blocked' : shown ? 'proven' : 'open';
                return (
                  <li key={id}>
                    <button
                      type="button"
                      aria-pressed={shown}
                      aria-current={id === chosen}
                      className="flex min-h-7 w-full items-center gap-2 rounded-[3px] px-1 text-left hover:bg-sunk aria-[current=true]:bg-lake-wash"
                      onClick={() => onPick(id)}
                    >
                      <Waymark progress={state} here={false} size={13} />
                      <span className={shown ? '' : 'text-soft'}>{itemName(id)}</span>
                      <span className={`num ml-auto text-[13px] ${shown ? 'text-ink' : 'text-faint'}`}>
                        {says}
                      </span>
                    </button>
                    {draws !== true && (
                      <p className="pl-7 text-[12.5px] text-amber leading-4">
                        {system.name.split(',')[0]} does not draw it
                        {draws.instead ? `; ${itemName(draws.instead)} tells much the same` : ''}
                      </p>
                    )}
                  </li>
                );
              })}
          </ul>
        </section>
      ))}
    </div>
  );
}
