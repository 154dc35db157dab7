import { createPortal } from 'react-dom';
import { placeNames, type WalkLine, walkPlaces } from '#core/field/walk.ts';
import { when } from '../../../history/words.ts';
import { useApp } from '../../../store/store.ts';

/** The walk on one page, to be ticked with a pencil: what is proven has its tick and its date. Seen on paper only. */
export function WalkSheet({ lines, now }: { readonly lines: readonly WalkLine[]; readonly now: Date }) {
  const craft = useApp((s) => s.craft.file?.name ?? 'the craft');
  const site = useApp((s) => s.site.current?.name ?? '');
  return createPortal(
    <div className="print-sheet text-[11px] leading-[14px]" data-theme="day">
      <h1>Before you throw {craft}</h1>
      <p className="mt-1">
        As of {when(now.toISOString())}
        {site && `, for ${site}`}. Wind ______ Battery ______ Signed ______________ at ______
      </p>
      <div className="mt-2 columns-2 gap-8">
        {walkPlaces.map((place) => (
          <section key={place} className="mb-2">
            <h2 className="font-semibold text-[13px]">{placeNames[place]}</h2>
            <ul>
              {lines
                .filter((l) => l.place === place)
                .map((l) => (
                  <li key={l.id} className="mt-1 flex break-inside-avoid gap-2">
                    <span className="mt-px inline-block h-[11px] w-[11px] shrink-0 border border-black text-center leading-[10px]">
                      {l.state === 'proven' ? '✓' : ''}
                    </span>
                    <span>
                      <b className="font-semibold">{l.title}.</b>{' '}
                      {l.state === 'proven' && l.seen
                        ? `${l.seen}${l.at ? `, ${when(l.at)}` : ''}`
                        : `${l.look}${l.why ? ` (${l.why})` : ''}`}
                    </span>
                  </li>
                ))}
            </ul>
          </section>
        ))}
      </div>
    </div>,
    document.body,
  );
}
