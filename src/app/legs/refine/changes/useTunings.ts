import { nanoid } from '@reduxjs/toolkit';
import { useEffect, useState } from 'react';
import type { Tuning } from '#core/formats/tuning.ts';
import { notify } from '../../../notify.tsx';
import { toFly } from '../../../store/selectors.ts';
import { store, useApp } from '../../../store/store.ts';
import { dropTuning, keepTuning, tuningsOf } from '../../../tunings.ts';
import { workshop } from '../../../workers/index.ts';
import type { OpenedTuning } from '../../../workers/openedLog.ts';

const words = (error: unknown) => (error instanceof Error ? error.message : String(error));

/** Flights of this craft that were looked at. Where the browser keeps nothing they live as long as the page is shown. */
export function useTunings() {
  const craft = useApp((s) => s.crafts.id) ?? '';
  const [list, setList] = useState<readonly Tuning[]>([]);
  const [busy, setBusy] = useState<'flying' | 'reading' | null>(null);
  const [faults, setFaults] = useState<readonly string[]>([]);
  useEffect(() => {
    let current = true;
    tuningsOf(craft).then(
      (found) => current && setList(found),
      (error) => current && setFaults([words(error)]),
    );
    return () => {
      current = false;
    };
  }, [craft]);
  const take = async (
    name: string,
    from: Tuning['from'],
    opened: Extract<OpenedTuning, { kind: 'tuning' }>,
  ) => {
    const { kind: _, ...told } = opened;
    const tuning: Tuning = {
      id: nanoid(10),
      craft,
      name,
      from,
      at: new Date().toISOString(),
      note: '',
      ...told,
    };
    setList((l) => [tuning, ...l]);
    await keepTuning(tuning);
  };
  const fly = async () => {
    const what = toFly(store.getState());
    if (!what) return;
    setBusy('flying');
    setFaults([]);
    try {
      const flown = await workshop().flyTuning(what);
      if ('refused' in flown) setFaults([`${flown.refused} So nothing is told of it.`]);
      else if (flown.kind === 'tuning') await take('flown in the bench', 'bench', flown);
    } catch (error) {
      setFaults([words(error)]);
    } finally {
      setBusy(null);
    }
  };
  const open = async (file: File) => {
    setBusy('reading');
    setFaults([]);
    try {
      const opened = await workshop().openTuning(file);
      if (opened.kind === 'tuning') await take(file.name.slice(0, 200), 'log', opened);
      else setFaults([opened.why]);
    } catch (error) {
      setFaults([words(error)]);
    } finally {
      setBusy(null);
    }
  };
  const bringBack = async (gone: Tuning) => {
    setList((l) => [...l.filter((t) => t.id !== gone.id), gone].sort((a, b) => (a.at < b.at ? 1 : -1)));
    try {
      await keepTuning(gone);
    } catch (error) {
      setFaults([words(error)]);
    }
  };
  const change = async (tuning: Tuning | null, id: string) => {
    const before = list;
    setList((l) => l.flatMap((t) => (t.id === id ? (tuning ? [tuning] : []) : [t])));
    try {
      if (tuning) await keepTuning(tuning);
      else {
        await dropTuning(id);
        const gone = before.find((t) => t.id === id);
        if (gone)
          void notify('The flight was let go.', {
            label: 'Have it back',
            onClick: () => void bringBack(gone),
          });
      }
    } catch (error) {
      setFaults([words(error)]);
    }
  };
  return { list, busy, faults, fly, open, change };
}
