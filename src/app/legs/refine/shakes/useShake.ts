import type { ThrottleSpectra } from '#core/analysis/throttleSpectra.ts';
import { type Axis, axes } from '#core/mixer/authority.ts';
import { toFly } from '../../../store/selectors.ts';
import { store } from '../../../store/store.ts';
import { workshop } from '../../../workers/index.ts';
import { type Doing, useWorked } from '../../useWorked.ts';

/** Shake that was flown or logged by a board, of all axes; or read from a table, which is of the axis that is looked at. */
interface Shake {
  readonly by: (axis: Axis) => ThrottleSpectra;
  readonly seconds: number;
  readonly rateHz: number;
  /** Null for a flight in the bench. */
  readonly file: string | null;
}

/** What was last flown or opened, in a worker. */
export function useShake() {
  const { doing, work } = useWorked<Shake, null>(null);
  const fly = () => {
    const what = toFly(store.getState());
    if (!what) return;
    const does = async (): Promise<Doing<Shake>> => {
      const flown = await workshop().flyShake(what);
      if ('refused' in flown) return { kind: 'fault', why: `${flown.refused} So nothing can be shown.` };
      const { spectra, seconds, rateHz } = flown;
      const by = (axis: Axis) => spectra[axes.indexOf(axis)]!;
      return { kind: 'seen', seen: { by, seconds, rateHz, file: null } };
    };
    void work('flying', null, does, 'It could not be flown');
  };
  /** @param named columns of the table and what they are */
  const open = (file: File, named: ReadonlyMap<string, string> = new Map()) => {
    const does = async (): Promise<Doing<Shake>> => {
      const opened = await workshop().openShake(file, named);
      if (opened.kind === 'columns') return { ...opened, file };
      if (opened.kind === 'refused') return { kind: 'fault', why: opened.why };
      const { spectra, seconds, rateHz } = opened;
      const by = (axis: Axis) => spectra[axes.indexOf(axis)] ?? spectra[0]!;
      return { kind: 'seen', seen: { by, seconds, rateHz, file: file.name } };
    };
    void work('reading', null, does, `${file.name} could not be read`);
  };
  return { doing, fly, open };
}
