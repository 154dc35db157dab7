import { lazy, Suspense } from 'react';
import { useSampled, useStatus } from '../live/hooks.ts';
import { live } from '../live/telemetry.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { BrandMark } from './BrandMark.tsx';

const CraftMenu = lazy(() => import('./CraftMenu.tsx'));

/** Craft, board and power, and the way to everything by name. */
export function Header({
  small,
  children,
}: {
  /** There is no room for more than what is needed. */
  readonly small: boolean;
  /** Where one is, where there is no trail. */
  readonly children: React.ReactNode;
}) {
  const dispatch = useAppDispatch();
  const name = useApp((s) => s.craft.file?.name ?? '');
  return (
    <header className={`flex shrink-0 items-center ${small ? 'h-10 gap-2 px-3' : 'h-12 gap-[18px] px-5'}`}>
      {!small && <BrandMark />}
      <Suspense fallback={<b className="border-line border-l pl-[18px] font-semibold">{name}</b>}>
        <CraftMenu />
      </Suspense>
      {small ? children : <span className="flex-1" />}
      {!small && <LinkState />}
      <button
        type="button"
        onClick={() => dispatch(uiChanged({ paletteOpen: true }))}
        className={`flex justify-between rounded-[4px] border border-line bg-sheet px-2.5 py-1 text-soft hover:border-contour ${small ? '' : 'w-[190px]'}`}
      >
        {small ? 'Find' : 'Find anything'} {!small && <kbd>Ctrl K</kbd>}
      </button>
    </header>
  );
}

function LinkState() {
  const board = useApp((s) => s.board);
  const power = useSampled(() => live('power'), 300);
  const status = useStatus();
  if (board.link === 'unplugged') {
    return (
      <span className="flex items-center gap-2 text-soft" role="status">
        <i className="inline-block size-2 rounded-full border border-soft" />
        {board.waiting ? `waiting for ${board.waiting}` : (board.fault ?? 'no board plugged in')}
      </span>
    );
  }
  if (board.link === 'reading') {
    return (
      <span className="text-lake" role="status">
        reading the board, {Math.round(board.progress * 100)} %
      </span>
    );
  }
  if (board.link === 'loader') {
    return (
      <span className="flex items-center gap-2 text-soft" role="status">
        <i className="inline-block size-2 rounded-full bg-amber" />
        {board.identity?.board}, in its loader
      </span>
    );
  }
  const battery = power !== null && power.supplyV > 1;
  return (
    <span className="flex items-center gap-3.5 text-soft" role="status">
      <span className="flex items-center gap-2">
        <i className="inline-block size-2 rounded-full bg-lake shadow-[0_0_0_3px_var(--lake-wash)]" />
        {board.identity?.board}, {board.identity?.firmware} {board.identity?.version}
      </span>
      {power === null ? (
        <span>{status === null ? 'no live values' : ''}</span>
      ) : battery ? (
        <span>
          USB and battery <b className="num font-medium text-lake">{power.supplyV.toFixed(1)} V</b>
        </span>
      ) : (
        <span>USB only</span>
      )}
    </span>
  );
}
