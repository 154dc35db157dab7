import { useEffect, useRef } from 'react';
import type { StationId } from '#core/findings/rule.ts';
import { type LegId, legs, pathOfLeg } from '../legs/legs.ts';
import { writeToBoard } from '../session.ts';
import { redone, undone } from '../store/settingsSlice.ts';
import { store } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.matches('input:not([type=checkbox]):not([type=range]), textarea, select') ||
    target.isContentEditable);

/** Keys that work everywhere: legs, stations, undo, write, bench, findings, help. */
export function useShortcuts(leg: LegId, station: StationId | null, navigate: (to: string) => void): void {
  const place = useRef({ leg, station, navigate });
  place.current = { leg, station, navigate };
  useEffect(() => {
    const navigate = (to: string) => place.current.navigate(to);
    const step = (by: number) => {
      const { leg, station } = place.current;
      const stations = legs.find((l) => l.id === leg)!.stations;
      const at = stations.findIndex((s) => s.id === station);
      const next = stations[at + by];
      if (next) navigate(`/${leg}/${next.id}`);
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
