import { ChevronDown, ChevronUp } from 'lucide-react';
import { lazy, Suspense, useEffect, useState } from 'react';
import { benchControl } from '../session.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { type BenchControls, type BenchState, bench } from '../workers/index.ts';

const BenchTable = lazy(() => import('./BenchTable.tsx'));

/** The simulated workbench: what a person's hands do to craft, cable, battery and radio. Not part of the product. */
export function BenchDrawer() {
  const open = useApp((s) => s.ui.benchOpen);
  const airframe = useApp((s) => s.craft.airframe);
  const dispatch = useAppDispatch();
  const [state, setState] = useState<BenchState | null>(null);
  const controls = state?.controls;
  useEffect(() => {
    if (!airframe) return;
    let stopped = false;
    const look = async () => {
      while (!stopped) {
        const now = await bench.state();
        if (now && !stopped) {
          setState((old) => (old && JSON.stringify(old) === JSON.stringify(now) ? old : now));
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
    setState((old) => old && { ...old, controls: { ...old.controls, ...change } });
    void benchControl(change);
  };
  const Chevron = open ? ChevronDown : ChevronUp;
  return (
    <section
      aria-label="Bench, simulated"
      // In a narrow window it reaches over the stations, so that the craft on it stays large enough to see.
      className={`relative z-10 shrink-0 border-wood-dark border-t bg-wood text-on-wood ${open ? 'max-[1199px]:-ml-[212px]' : ''}`}
      style={open ? { boxShadow: '0 -6px 18px rgb(0 0 0 / 0.12)' } : { width: 230, borderTopRightRadius: 6 }}
    >
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
          <BenchTable airframe={airframe} state={state} onChange={control} />
        </Suspense>
      )}
    </section>
  );
}
