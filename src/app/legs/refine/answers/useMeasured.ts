import type { LoggedStep } from '#core/analysis/stepResponse.ts';
import type { WhyRatesOther } from '#core/answers/loggedAnswer.ts';
import type { Axis } from '#core/mixer/authority.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { selectDescription, selectValues, toFly } from '../../../store/selectors.ts';
import { store } from '../../../store/store.ts';
import { workshop } from '../../../workers/index.ts';
import type { OpenedLog } from '../../../workers/openedLog.ts';
import { type Doing, useWorked } from '../../useWorked.ts';

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

/** Of which axis, and by which settings. */
interface Of {
  readonly axis: Axis | null;
  readonly values: Values;
}

/**
 * One measured answer at a time, flown or out of a log: as far as it says something of this axis and these settings. A flight says nothing of
 * others; a log stays beside them, but why it differs is told of the settings that it was compared with.
 */
export function useMeasured(axis: Axis, values: Values) {
  const { doing, of, work } = useWorked<Measured, Of>({ axis: null, values: {} });
  const fly = () => {
    const what = toFly(store.getState());
    if (!what) return;
    const does = async (): Promise<Doing<Measured>> => {
      const flown = await workshop().flyStep(what, axis);
      if ('refused' in flown) return { kind: 'fault', why: `${flown.refused} So nothing can be shown.` };
      const { step, why, speedMps, askedSize } = flown;
      return { kind: 'seen', seen: { step, why, from: { kind: 'bench', speedMps, askedSize } } };
    };
    void work('flying', { axis, values: what.values }, does, 'It could not be flown');
  };
  /** @param named columns of a table and what they are */
  const open = (file: File, speedMps: number, named: ReadonlyMap<string, string> = new Map()) => {
    const now = store.getState();
    const { airframe } = now.craft;
    if (!airframe) return;
    const pads = selectDescription(now)?.pads ?? [];
    const drafted = selectValues(now);
    const does = async (): Promise<Doing<Measured>> => {
      const opened = await workshop().openLog(
        file,
        axis,
        named,
        { airframe, values: drafted, pads },
        speedMps,
      );
      if (opened.kind === 'columns') return { ...opened, file };
      if (opened.kind === 'refused') return { kind: 'fault', why: opened.why };
      const { kind: _, step, why, ...told } = opened;
      return { kind: 'seen', seen: { step, why, from: { kind: 'log', name: file.name, ...told } } };
    };
    void work('reading', { axis, values: drafted }, does, `${file.name} could not be read`);
  };
  return { doing, here: hereOf(doing, of, axis, values), fly, open };
}

function hereOf(doing: Doing<Measured>, of: Of, axis: Axis, values: Values): Doing<Measured> {
  if (of.axis !== axis) return { kind: 'nothing' };
  if (of.values === values || doing.kind === 'columns') return doing;
  if (doing.kind !== 'seen' || doing.seen.from.kind === 'bench') return { kind: 'nothing' };
  return doing.seen.from.ownSettings ? doing : { kind: 'seen', seen: { ...doing.seen, why: null } };
}
