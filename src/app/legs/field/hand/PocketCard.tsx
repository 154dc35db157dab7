import { createPortal } from 'react-dom';
import type { CardPart } from '#core/byHand/card.ts';
import { useApp } from '../../../store/store.ts';

/** The card: on the page as it looks, and on paper alone. */
export function PocketCard({ parts }: { readonly parts: readonly CardPart[] }) {
  const craft = useApp((s) => s.craft.file?.name ?? 'the craft');
  const setup = useApp((s) => s.craft.file?.setup ?? '');
  const body = (
    <>
      <p className="font-semibold">
        {craft}
        {setup && `, ${setup}`}
      </p>
      <div className="columns-2 gap-5">
        {parts.map((p) => (
          <section key={p.title} className="mt-1.5 break-inside-avoid">
            <h3 className="font-semibold">{p.title}</h3>
            <dl>
              {p.lines.map(([what, how]) => (
                <div key={what} className="flex justify-between gap-2 border-line border-t">
                  <dt>{what}</dt>
                  <dd className="text-right">{how}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </>
  );
  return (
    <>
      <section
        aria-label="Card for the pocket"
        className="mt-2 max-w-[620px] rounded-[8px] border border-contour bg-paper px-3.5 py-3 text-[12px] leading-[16px]"
      >
        {body}
      </section>
      {createPortal(
        <div className="print-sheet text-[9px] leading-[11px]" data-theme="day">
          <div style={{ width: '148mm' }} className="rounded border border-black p-2">
            {body}
          </div>
        </div>,
        document.body,
      )}
    </>
  );
}
