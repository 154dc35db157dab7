import { useRef, useState } from 'react';
import type { LoggedStep } from '#core/analysis/stepResponse.ts';
import type { WhyRatesOther } from '#core/answers/loggedAnswer.ts';
import type { Axis } from '#core/mixer/authority.ts';
import { selectDescription, selectValues, toFly } from '../../../store/selectors.ts';
import { store } from '../../../store/store.ts';
import { workshop } from '../../../workers/index.ts';
import type { OpenedLog } from '../../../workers/openedLog.ts';

/** An answer that was seen: in the bench, or by a log. */
export interface Measured {
  readonly step: LoggedStep;
  readonly why: WhyRatesOther | null;
  readonly from:
    | { readonly kind: 'bench'; readonly speedMps: number; readonly askedSize: number }
    | ({ readonly kind: 'log'; readonly name: string } & Omit<
        Extract<OpenedLog, { kind: 'answer' }>,
        'kind' | 'step' | 'why'
      >);
}

type Doing =
  | { readonly kind: 'nothing' }
  | { readonly kind: 'flying' | 'reading' }
  | { readonly kind: 'seen'; readonly measured: Measured }
  /** A table waits for its columns to be named. */
  | { readonly kind: 'columns'; readonly file: File; readonly names: readonly string[] }
  | { readonly kind: 'fault'; readonly why: string };

/** What was last asked for, and of which axis and settings it is: a flight says nothing of others, a log nothing of another axis. */
interface State {
  readonly doing: Doing;
  readonly axis: Axis | null;
  /** Of a flight; null for what rests on a log. */
  readonly values: unknown;
}

/** One measured answer at a time, flown or out of a log, worked out in a worker. */
export function useMeasured() {
  const [state, setState] = useState<State>({ doing: { kind: 'nothing' }, axis: null, values: null });
  const newest = useRef(0);
  const doing = async (begun: State, work: () => Promise<Doing>, nothing: string) => {
    const mine = ++newest.current;
    setState(begun);
    let outcome: Doing;
    try {
      outcome = await work();
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      outcome = { kind: 'fault', why: `${nothing}: ${why}. Nothing was changed.` };
    }
    if (mine === newest.current) setState({ ...begun, doing: outcome });
  };

  const fly = (axis: Axis) => {
    const what = toFly(store.getState());
    if (!what) return;
    const work = async (): Promise<Doing> => {
      const flown = await workshop().flyStep(what, axis);
      if ('refused' in flown) return { kind: 'fault', why: `${flown.refused} So nothing can be shown.` };
      const { step, why, speedMps, askedSize } = flown;
      return { kind: 'seen', measured: { step, why, from: { kind: 'bench', speedMps, askedSize } } };
    };
    void doing({ doing: { kind: 'flying' }, axis, values: what.values }, work, 'It could not be flown');
  };

  /** @param named columns of a table and what they are */
  const open = (file: File, axis: Axis, speedMps: number, named: ReadonlyMap<string, string> = new Map()) => {
    const now = store.getState();
    const { airframe } = now.craft;
    if (!airframe) return;
    const pads = selectDescription(now)?.pads ?? [];
    const work = async (): Promise<Doing> => {
      const craft = { airframe, values: selectValues(now), pads };
      const opened = await workshop().openLog(file, axis, named, craft, speedMps);
      if (opened.kind === 'columns') return { ...opened, file };
      if (opened.kind === 'refused') return { kind: 'fault', why: opened.why };
      const { kind: _, step, why, ...told } = opened;
      return { kind: 'seen', measured: { step, why, from: { kind: 'log', name: file.name, ...told } } };
    };
    void doing({ doing: { kind: 'reading' }, axis, values: null }, work, `${file.name} could not be read`);
  };

  return { ...state, fly, open };
}
