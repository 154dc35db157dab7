import { useApp, useAppDispatch } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { TextButton } from '../ui/TextButton.tsx';
import { takeUpdate } from './serviceWorker.ts';
import { inTheMiddleOf } from './update.ts';

/** A newer application waits: taken when the person wants, never in the middle of something. */
export function UpdateBanner() {
  const waits = useApp((s) => s.ui.updateWaits);
  const middle = useApp(inTheMiddleOf);
  const dispatch = useAppDispatch();
  if (!waits) return null;
  return (
    <div role="status" className="flex items-center gap-4 bg-forest-wash px-5 py-1.5">
      <span>
        A newer Wanderweg is here.{' '}
        {middle ? `It is not taken while ${middle}.` : 'Your work is kept; the page is opened anew.'}
      </span>
      <TextButton className="ml-auto" disabled={middle !== null} onClick={() => void takeUpdate()}>
        Take it now
      </TextButton>
      <TextButton tone="soft" onClick={() => dispatch(uiChanged({ updateWaits: false }))}>
        Later
      </TextButton>
    </div>
  );
}
