import { ChevronDown, ChevronUp } from 'lucide-react';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { benchControl, keepControllers } from '../session.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { type BenchControls, type BenchState, bench } from '../workers/index.ts';
import type { Tray } from './BenchTable.tsx';
import { useRoom } from './room.ts';

const BenchTable = lazy(() => import('./BenchTable.tsx'));

/** A sheet is pulled between these, px. */
const LEAST = 60;
const FULL = 300;
const clampPull = (px: number) => Math.min(FULL, Math.max(LEAST, Math.round(px)));

/** The simulated workbench: what a person's hands do to craft, cable, battery and radio. Not part of the product. */
export function BenchDrawer() {
  const open = useApp((s) => s.ui.benchOpen);
  const airframe = useApp((s) => s.craft.airframe);
  const dispatch = useAppDispatch();
  const [state, setState] = useState<BenchState | null>(null);
  /** How often hands did something. */
  const asked = useRef(0);
  const controls = state?.controls;
  const [tray, setTray] = useState<Tray>('radio');
  const { small, low } = useRoom();
  /** How far up the sheet is pulled, px; null for all of it. */
  const [pulled, setPulled] = useState<number | null>(null);
  useEffect(() => {
    if (!airframe) return;
    let stopped = false;
    const look = async () => {
      while (!stopped) {
        const at = asked.current;
        const state = await bench.state();
        if (state && !stopped) {
          keepControllers(state.craft, state.controllers);
          // What hands did meanwhile is newer than what the bench said before it heard of it.
          const overtaken = at !== asked.current;
          setState((old) => {
            const now = overtaken && old ? { ...state, controls: old.controls } : state;
            return old && JSON.stringify(old) === JSON.stringify(now) ? old : now;
          });
        }
        await new Promise((r) => setTimeout(r, open ? 33 : 400));
      }
    };
    void look();
    return () => {
      stopped = true;
    };
  }, [airframe, open]);
  const control = (change: Partial<BenchControls>) => {
    asked.current++;
    setState((old) => old && { ...old, controls: { ...old.controls, ...change } });
    void benchControl(change);
  };
  const Chevron = open ? ChevronDown : ChevronUp;
  return (
    <section
      aria-label="Bench, simulated"
      // Where there is little room it lies over the work as a sheet, as far up as one pulls it; in a narrow window it
      // reaches over the stations, so that the craft on it stays large enough to see.
      className={`z-10 shrink-0 border-wood-dark border-t bg-wood text-on-wood ${
        (open ? low : small) ? 'absolute bottom-0 left-0' : 'relative'
      } ${open ? `${low ? 'right-0' : ''} ${small ? '' : 'max-[1199px]:-ml-[212px]'}` : ''}`}
      style={
        open
          ? {
              boxShadow: '0 -6px 18px rgb(0 0 0 / 0.12)',
              ...(low && pulled !== null ? { height: pulled } : {}),
              maxHeight: '100%',
              overflow: low ? 'auto' : undefined,
            }
          : { width: 230, borderTopRightRadius: 6 }
      }
    >
      {open && low && (
        <hr
          aria-label="Pull the bench up or down"
          aria-valuenow={pulled ?? FULL}
          aria-valuemin={LEAST}
          aria-valuemax={FULL}
          tabIndex={0}
          className="mx-auto my-1 h-1.5 w-16 cursor-ns-resize touch-none rounded-full border-0 bg-wood-dark"
          onKeyDown={(e) => {
            const by = e.key === 'ArrowUp' ? 30 : e.key === 'ArrowDown' ? -30 : 0;
            if (by === 0) return;
            e.preventDefault();
            setPulled(clampPull((pulled ?? FULL) + by));
          }}
          onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
          onPointerMove={(e) => {
            if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
            const bottom = e.currentTarget.closest('main')!.getBoundingClientRect().bottom;
            setPulled(clampPull(bottom - e.clientY));
          }}
        />
      )}
      <button
        type="button"
        aria-expanded={open}
        className="flex h-[30px] w-full items-center gap-3 px-3.5 font-label font-semibold text-[13px]"
        onClick={() => dispatch(uiChanged({ benchOpen: !open }))}
      >
        Bench
        <span className="font-medium">
          {controls ? `propellers ${controls.propellers ? 'on' : 'off'}` : ''}
        </span>
        {open && (
          <span className="font-medium opacity-80">
            simulated: what your hands do; none of it is a setting
          </span>
        )}
        <Chevron size={14} strokeWidth={1.8} className="ml-auto" aria-hidden="true" />
      </button>
      {open && controls && airframe && (
        <Suspense fallback={<div className="h-[216px]" />}>
          <BenchTable airframe={airframe} state={state} onChange={control} tray={tray} onTray={setTray} />
        </Suspense>
      )}
    </section>
  );
}
