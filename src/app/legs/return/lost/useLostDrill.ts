import { useEffect, useRef, useState } from 'react';
import { type DrillState, drillOff, LostDrill } from '#core/lostlink/lostDrill.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { recent } from '../../../live/telemetry.ts';
import { recordProof } from '../../../session.ts';
import { useApp } from '../../../store/store.ts';

const LOOK_MS = 100;
/** So far back it is looked for what was told since the last look, s. */
const BACK_S = 3;

/** Watches the link while the station is shown; what a drill measured is kept as a proof. Null without a board. */
export function useLostDrill(): DrillState | null {
  const base = useApp((s) => s.settings.base);
  const ready = useApp((s) => s.board.link === 'ready');
  const [now, setNow] = useState<DrillState | null>(null);
  const seen = useRef({ heard: Number.NEGATIVE_INFINITY, looked: Number.NEGATIVE_INFINITY });
  useEffect(() => {
    if (!ready) {
      setNow(null);
      return;
    }
    const watch = new LostDrill();
    const s = settingsOf(base);
    const noticeS = s.number('lost.notice');
    const drawn = { noticeS, actsS: noticeS + s.number('lost.guard'), steadyS: s.number('lost.steady') };
    seen.current = { heard: Number.NEGATIVE_INFINITY, looked: Number.NEGATIVE_INFINITY };
    const timer = setInterval(() => {
      const at = seen.current;
      // In the order of the board's own time, so that a word of the link finds the frames before it.
      const told = [
        ...recent('receiver', BACK_S).flatMap(({ atS, value }) =>
          atS > at.heard ? [{ atS, age: value.frameAge, lost: null }] : [],
        ),
        ...recent('status', BACK_S).flatMap(({ atS, value }) =>
          atS > at.looked && !value.armed ? [{ atS, age: 0, lost: value.lost }] : [],
        ),
      ].sort((a, b) => a.atS - b.atS);
      for (const { atS, age, lost } of told) {
        if (lost === null) {
          at.heard = atS;
          watch.heard(atS, age);
          continue;
        }
        at.looked = atS;
        const times = watch.look({ atS, lost });
        if (times)
          recordProof({ kind: 'lost-drill', ...times, asDrawn: drillOff(times, drawn).length === 0 });
      }
      setNow(watch.now);
    }, LOOK_MS);
    return () => clearInterval(timer);
  }, [ready, base]);
  return now;
}
