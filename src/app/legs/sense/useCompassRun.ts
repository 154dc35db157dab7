import { useEffect, useState } from 'react';
import { boardSession } from '../../board/session.ts';
import { useApp } from '../../store/store.ts';
import { CompassRun, HZ } from './compassRun.ts';

/** Watches a compass while the component is shown, and says why nothing comes. */
export function useCompassRun(fitted: boolean): { readonly run: CompassRun; readonly fault: string | null } {
  const ready = useApp((s) => s.board.link === 'ready');
  const [run] = useState(() => new CompassRun());
  const [fault, setFault] = useState<string | null>(null);
  useEffect(() => {
    if (!ready || !fitted) return;
    setFault(null);
    const ends = [
      boardSession.watchStream('compass', HZ, run.compass, setFault),
      boardSession.watchStream('accelerometer', HZ, run.accelerometer, setFault),
      boardSession.watchStream('battery', HZ, run.battery, setFault),
    ];
    return () => {
      for (const end of ends) end();
    };
  }, [ready, fitted, run]);
  return { run, fault };
}
