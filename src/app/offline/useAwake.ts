import { useEffect } from 'react';

/** The screen stays on for as long as this is shown, where the device allows it. */
export function useAwake(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | null = null;
    let ended = false;
    const ask = async () => {
      if (document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
      try {
        lock = await navigator.wakeLock.request('screen');
        if (ended) void lock.release();
      } catch {
        // A low battery or the browser's own rule: the screen goes off as ever.
      }
    };
    void ask();
    document.addEventListener('visibilitychange', ask);
    return () => {
      ended = true;
      document.removeEventListener('visibilitychange', ask);
      void lock?.release();
    };
  }, []);
}
