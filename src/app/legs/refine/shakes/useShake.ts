import { useRef, useState } from 'react';
import type { ThrottleSpectra } from '#core/analysis/throttleSpectra.ts';
import { type Axis, axes } from '#core/mixer/authority.ts';
import { toFly } from '../../../store/selectors.ts';
import { store } from '../../../store/store.ts';
import { workshop } from '../../../workers/index.ts';

/** Shake that was flown, or read from a table: of all axes, or of the one that the table is of. */
interface Shake {
  readonly by: (axis: Axis) => ThrottleSpectra;
  readonly seconds: number;
  readonly rateHz: number;
  /** Null for a flight in the bench. */
  readonly file: string | null;
}

type Doing =
  | { readonly kind: 'nothing' }
  | { readonly kind: 'flying' | 'reading' }
  | { readonly kind: 'seen'; readonly shake: Shake }
  | { readonly kind: 'columns'; readonly file: File; readonly names: readonly string[] }
  | { readonly kind: 'fault'; readonly why: string };

/** What was last flown or opened, in a worker. */
export function useShake() {
  const [doing, setDoing] = useState<Doing>({ kind: 'nothing' });
  const newest = useRef(0);
  const after = async (kind: 'flying' | 'reading', work: () => Promise<Doing>, nothing: string) => {
    const mine = ++newest.current;
    setDoing({ kind });
    let outcome: Doing;
    try {
      outcome = await work();
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      outcome = { kind: 'fault', why: `${nothing}: ${why}. Nothing was changed.` };
    }
    if (mine === newest.current) setDoing(outcome);
  };
  const fly = () => {
    const what = toFly(store.getState());
    if (!what) return;
    const work = async (): Promise<Doing> => {
      const flown = await workshop().flyShake(what);
      if ('refused' in flown) return { kind: 'fault', why: `${flown.refused} So nothing can be shown.` };
      const { spectra, seconds, rateHz } = flown;
      return {
        kind: 'seen',
        shake: { by: (axis) => spectra[axes.indexOf(axis)]!, seconds, rateHz, file: null },
      };
    };
    void after('flying', work, 'It could not be flown');
  };
  /** @param named columns of the table and what they are */
  const open = (file: File, named: ReadonlyMap<string, string> = new Map()) => {
    const work = async (): Promise<Doing> => {
      const opened = await workshop().openShake(file, named);
      if (opened.kind === 'columns') return { ...opened, file };
      if (opened.kind === 'refused') return { kind: 'fault', why: opened.why };
      const { spectra, seconds, rateHz } = opened;
      return { kind: 'seen', shake: { by: () => spectra, seconds, rateHz, file: file.name } };
    };
    void after('reading', work, `${file.name} could not be read`);
  };
  return { doing, fly, open };
}
