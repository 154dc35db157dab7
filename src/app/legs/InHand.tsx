import { useSampled } from '../live/hooks.ts';
import { live } from '../live/telemetry.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import type { Need } from './station.ts';

/** The first thing that a station needs and that is not there, with what would give it. */
export function InHand({ needs }: { readonly needs: readonly Need[] }) {
  const link = useApp((s) => s.board.link);
  const dispatch = useAppDispatch();
  const rail = useSampled(() => live('power')?.servoRailV ?? null, 200);
  const missing =
    link === 'loader'
      ? 'The board is in its loader. Put a firmware on it, or start the one that is there, under Build, Firmware.'
      : link !== 'ready'
        ? 'This needs a board on the cable. Plug USB in on the bench.'
        : needs.includes('battery') && (rail === null || rail < 4)
          ? 'This needs the battery: servos, motors and, on many boards, sensors outside the board have no power from USB. Take the propellers off, then plug the battery in on the bench.'
          : null;
  if (!missing) return null;
  return (
    <Notice
      tone="plain"
      className="mt-3"
      action={<Button onClick={() => dispatch(uiChanged({ benchOpen: true }))}>Open the bench</Button>}
    >
      {missing}
    </Notice>
  );
}
