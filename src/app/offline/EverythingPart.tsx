import { nanoid } from '@reduxjs/toolkit';
import { useEffect, useState } from 'react';
import { formatBytes } from '#core/units/units.ts';
import { desk } from '../crafts/index.ts';
import { saveBytes } from '../files.ts';
import { rows } from '../store/database.ts';
import { FileWords } from '../ui/FileInput.tsx';
import { Notice } from '../ui/Notice.tsx';
import { TextButton } from '../ui/TextButton.tsx';
import { bringBack, broughtBackWords, MOST_BYTES, packEverything } from './everything.ts';

interface Room {
  readonly used: number;
  readonly quota: number;
  readonly persisted: boolean;
}

async function roomNow(): Promise<Room | null> {
  const { storage } = navigator;
  if (!storage?.estimate) return null;
  const { usage = 0, quota = 0 } = await storage.estimate();
  return { used: usage, quota, persisted: (await storage.persisted?.()) ?? false };
}

/** How much this browser keeps of all craft, and all of it in one file. */
export default function EverythingPart() {
  const [room, setRoom] = useState<Room | null>(null);
  const [said, setSaid] = useState<{ readonly ok: boolean; readonly text: string } | null>(null);
  const [busy, setBusy] = useState(false);
  const look = () => void roomNow().then(setRoom, () => setRoom(null));
  useEffect(() => void roomNow().then(setRoom, () => setRoom(null)), []);
  const doing = async (what: () => Promise<string | null>) => {
    setBusy(true);
    setSaid(null);
    try {
      const text = await what();
      if (text) setSaid({ ok: true, text });
    } catch (error) {
      setSaid({ ok: false, text: error instanceof Error ? error.message : String(error) });
    }
    setBusy(false);
    look();
  };
  const save = () =>
    doing(async () => {
      await desk.flush();
      const now = new Date().toISOString();
      saveBytes(`wanderweg-${now.slice(0, 10)}.cbor`, 'application/cbor', await packEverything(rows, now));
      return null;
    });
  const open = (file: File) =>
    doing(async () => {
      if (file.size > MOST_BYTES)
        throw new Error(
          `${file.name} has ${formatBytes(file.size)}, more than a browser keeps. Nothing was changed.`,
        );
      const done = await bringBack(rows, new Uint8Array(await file.arrayBuffer()), () => nanoid(10));
      if (!done.ok) throw new Error(done.why);
      await desk.list();
      return broughtBackWords(done);
    });
  return (
    <section aria-label="Everything in this browser" className="mt-8 border-line border-t pt-3">
      <h2 className="font-semibold">Everything in this browser</h2>
      <p className="mt-1 flex flex-wrap gap-x-6 gap-y-1">
        {room && (
          <span className="text-soft">
            <span className="num">{formatBytes(room.used)}</span> used of{' '}
            <span className="num">{formatBytes(room.quota)}</span>,{' '}
            {room.persisted
              ? 'kept until you clear it'
              : 'which the browser may clear when its disk runs full'}
          </span>
        )}
        <TextButton disabled={busy} onClick={() => void save()}>
          Save all of it to a file
        </TextButton>
        <FileWords
          label="A file of everything"
          accept=".cbor,application/cbor"
          disabled={busy}
          onFile={(f) => void open(f)}
        >
          Bring it in from one
        </FileWords>
      </p>
      {said && (
        <Notice tone={said.ok ? 'plain' : 'red'} className="mt-2 max-w-[720px]">
          {said.text}
        </Notice>
      )}
    </section>
  );
}
