import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

interface Props {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly title: string;
  readonly lead?: string | undefined;
  readonly side?: 'middle' | 'right';
  readonly children: ReactNode;
}

/** A sheet over the work, closed with Escape or by a click beside it. */
export function Panel({ open, onClose, title, lead, side = 'middle', children }: Props) {
  const place =
    side === 'right'
      ? 'right-0 top-0 bottom-12 w-[420px] border-l'
      : 'left-1/2 top-[14%] max-h-[72%] w-[560px] max-w-[92vw] -translate-x-1/2 rounded-[4px] border';
  return (
    <Dialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-sunk opacity-60" />
        <Dialog.Content
          aria-describedby={undefined}
          onOpenAutoFocus={focusField}
          className={`fixed z-50 flex flex-col border-line bg-sheet text-ink shadow-xl ${place}`}
        >
          <div className="flex items-baseline gap-3 px-5 pt-4">
            <Dialog.Title className="text-[18px] leading-6 font-semibold">{title}</Dialog.Title>
            <Dialog.Close className="ml-auto text-soft hover:text-ink">
              Close <kbd>Esc</kbd>
            </Dialog.Close>
          </div>
          {lead && <p className="px-5 pt-1 text-soft">{lead}</p>}
          <div className="min-h-0 flex-1 overflow-y-auto px-5 pt-3 pb-5">{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** What is to be filled in has the focus, not the way out. */
function focusField(e: Event): void {
  const field = (e.currentTarget as HTMLElement).querySelector<HTMLElement>('input, select, textarea');
  if (!field) return;
  e.preventDefault();
  field.focus();
}
