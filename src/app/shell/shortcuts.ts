import { useEffect, useRef } from 'react';
import type { StationId } from '#core/findings/rule.ts';
import { legs, pathOfLeg, stationAfter } from '../legs/legs.ts';
import { writeToBoard } from '../session.ts';
import { store } from '../store/store.ts';
import { redone, undone } from '../store/timeline.ts';
import { uiChanged } from '../store/uiSlice.ts';

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.matches('input:not([type=checkbox]):not([type=range]), textarea, select') ||
    target.isContentEditable);

/** Keys that work everywhere: legs, stations, undo, write, bench, findings, help. */
export function useShortcuts(station: StationId | null, navigate: (to: string) => void): void {
  const place = useRef({ station, navigate });
  place.current = { station, navigate };
  useEffect(() => {
    const navigate = (to: string) => place.current.navigate(to);
    const step = (by: 1 | -1) => {
      const { station } = place.current;
      const next = station && stationAfter(station, by);
      if (next) navigate(next.path);
    };
    const onKey = (e: KeyboardEvent) => {
      const { ui } = store.getState();
      const ctrl = e.ctrlKey || e.metaKey;
      const key = e.key.toLowerCase();
      if (ctrl && key === 'k') {
        e.preventDefault();
        store.dispatch(uiChanged({ paletteOpen: !ui.paletteOpen }));
        return;
      }
      if (ctrl && key === 's') {
        e.preventDefault();
        void writeToBoard();
        return;
      }
      if (typing(e.target) || e.defaultPrevented) return;
      if (ctrl && key === 'z') {
        e.preventDefault();
        store.dispatch(e.shiftKey ? redone() : undone());
        return;
      }
      if (ctrl || e.altKey || ui.paletteOpen || document.querySelector('[role=dialog]')) return;
      const number = Number(e.key);
      if (number >= 1 && number <= legs.length) navigate(pathOfLeg(legs[number - 1]!.id, ui.stations));
      else if (key === 'j') step(1);
      else if (key === 'k') step(-1);
      else if (key === 'b') store.dispatch(uiChanged({ benchOpen: !ui.benchOpen }));
      else if (key === 'f') store.dispatch(uiChanged({ findingsOpen: 'all' }));
      else if (e.key === '?') store.dispatch(uiChanged({ helpOpen: true }));
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}
