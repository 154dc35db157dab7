import { useEffect, useState } from 'react';
import { boardSession } from '../board/session.ts';
import { useApp } from '../store/store.ts';

export type HeardPort = 'gnss' | 'receiver';

/** The newest bytes of a port as they came, looked at once a second; null before any look, and where the board does not tell. */
export function usePortBytes(port: HeardPort): Uint8Array | null {
  const ready = useApp((s) => s.board.link === 'ready');
  const can = useApp((s) => s.board.identity?.can.requests.includes('heard') ?? false);
  const [bytes, setBytes] = useState<Uint8Array | null>(null);
  useEffect(() => {
    if (!ready || !can) return;
    let current = true;
    setBytes(null);
    const look = async () => {
      try {
        const heard = await boardSession.openLink().request('heard', { port }, 1);
        if (current) setBytes(heard.bytes);
      } catch {
        // The next look comes in a second.
      }
    };
    void look();
    const timer = setInterval(() => void look(), 1000);
    return () => {
      current = false;
      clearInterval(timer);
    };
  }, [ready, can, port]);
  return bytes;
}
