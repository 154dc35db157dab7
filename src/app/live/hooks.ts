import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { currentStatus, onStatus } from './telemetry.ts';

/** Calls back once a frame for as long as the component is shown. */
export function useFrame(callback: () => void): void {
  const latest = useRef(callback);
  latest.current = callback;
  useEffect(() => {
    let id = requestAnimationFrame(function frame() {
      latest.current();
      id = requestAnimationFrame(frame);
    });
    return () => cancelAnimationFrame(id);
  }, []);
}

/** The board's status while the link is up. */
export function useStatus() {
  return useSyncExternalStore(onStatus, currentStatus);
}

/** Why the arming switch does nothing although it is on, in the board's words; null where it was not refused. */
export function useRefusedSwitch(): string | null {
  return useStatus()?.blockers.find((b) => b.id === 'switch-again')?.why ?? null;
}

/** A value read from live data a few times a second, for text that a person reads. */
export function useSampled<T>(read: () => T, everyMs = 120): T {
  const [value, setValue] = useState(read);
  const latest = useRef(read);
  latest.current = read;
  useEffect(() => {
    const timer = setInterval(() => setValue(() => latest.current()), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return value;
}
