import type { SelfTest } from '#core/wire/messages.ts';

const stateWords: Readonly<Partial<Record<string, readonly [string, string]>>> = {
  answers: ['answers', 'text-forest'],
  silent: ['silent', 'text-amber'],
  garbage: ['not understood', 'text-amber'],
  crossed: ['wires swapped', 'text-amber'],
  missing: ['not there', 'text-amber'],
  full: ['full', 'text-amber'],
};

/** Who answers the board on its buses and ports, who does not, and what that means. */
export function Heard({ items }: { readonly items: SelfTest['items'] }) {
  return (
    <ul className="mt-1 max-w-[640px] text-[13px]" aria-label="Who answers">
      {items.map((i) => {
        const [word, color] = stateWords[i.state] ?? [i.state, 'text-soft'];
        return (
          <li
            key={`${i.on} ${i.what}`}
            className="grid grid-cols-[86px_minmax(0,1fr)_auto] gap-x-3 border-line border-b py-1"
          >
            <span className="num text-soft">{i.on}</span>
            <span>
              {i.what}
              {i.product && (
                <span className="text-soft">
                  , {i.product} <span className="num">{i.version}</span>
                </span>
              )}
            </span>
            <span className={color}>{word}</span>
            {i.says && <span className="col-span-2 col-start-2 text-soft leading-[18px]">{i.says}</span>}
          </li>
        );
      })}
    </ul>
  );
}
