import type { DrillState } from '#core/lostlink/lostDrill.ts';
import { DRILL_WITHIN_S } from '#core/lostlink/lostDrill.ts';
import { staleWords } from '#core/proofs/proofs.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { formatNumber } from '#core/units/units.ts';
import { useStatus } from '../../../live/hooks.ts';
import { selectProofWorld } from '../../../store/selectors.ts';
import { useApp } from '../../../store/store.ts';
import { Notice } from '../../../ui/Notice.tsx';
import { useLostDrill } from './useLostDrill.ts';

/** The transmitter is switched off and on on the bench; the board's own times against the drawn ones. */
export function LostDrillPart() {
  const base = useApp((s) => s.settings.base);
  const waits = useApp((s) =>
    Object.keys(s.settings.edits).some((k) => /^lost\.(notice|guard|steady|stick)$/.test(k)),
  );
  const world = useApp(selectProofWorld)!;
  const proof = useApp((s) => s.craft.proofs.find((p) => p.id === 'lost-drill'));
  const armed = useStatus()?.armed ?? false;
  const now = useLostDrill();
  const stale = staleWords(proof, world);
  const s = settingsOf(base);
  const [notice, guard, steady] = [s.number('lost.notice'), s.number('lost.guard'), s.number('lost.steady')];
  const seen = proof?.seen.kind === 'lost-drill' ? proof.seen : null;
  const sec = (v: number) => `${formatNumber(v, 1)} s`;
  return (
    <section aria-label="Drill" className="mt-5 max-w-[760px] border-line border-t pt-3">
      <h2 className="font-semibold">Drill: switch the transmitter off</h2>
      <p className="mt-1 text-soft" role="status">
        {!now
          ? 'With a board on the cable it is watched how long each state truly takes.'
          : armed
            ? 'The craft is armed. Disarm first.'
            : waits
              ? 'Times wait to be written: the drill measures those on the board.'
              : words(now, sec)}
      </p>
      <dl className="mt-2 grid grid-cols-3 gap-x-6 [&_dt]:text-soft">
        <Time
          name="Noticed after"
          drawn={sec(notice)}
          measured={now?.noticedS ?? seen?.noticedS ?? null}
          sec={sec}
        />
        <Time
          name="Acts after"
          drawn={sec(notice + guard)}
          measured={now?.actsS ?? seen?.actsS ?? null}
          sec={sec}
        />
        <Time
          name="Sticks count again after"
          drawn={`${sec(steady)} at least`}
          measured={seen?.backS ?? null}
          sec={sec}
        />
      </dl>
      {seen && (
        <Notice tone={seen.asDrawn && !stale ? 'plain' : 'grave'} className="mt-3">
          {stale
            ? `It was drilled, and since then ${stale}: once more.`
            : seen.asDrawn
              ? 'The board notices and acts as it is drawn.'
              : `The board does not do as it is drawn, within ${sec(DRILL_WITHIN_S)}: look whether the receiver falls silent at once (Radio silent), and drill once more.`}
        </Notice>
      )}
    </section>
  );
}

function words(now: DrillState, sec: (v: number) => string): string {
  switch (now.state) {
    case 'fine':
      return now.silentS > 0.4
        ? `Silent for ${sec(now.silentS)}.`
        : 'The link is fine. Switch the transmitter off, on the bench and disarmed.';
    case 'noticed':
    case 'guarding':
      return `Silent for ${sec(now.silentS)}: the board noticed, and guards.`;
    case 'acting':
      return now.steadyS === null
        ? `Silent for ${sec(now.silentS)}: in the air it would act now. Switch the transmitter on again.`
        : 'The link is back.';
    case 'recovering':
      return now.steadyS === null
        ? 'The link went again.'
        : `Steady for ${sec(now.steadyS)}. Now move a stick as far as you would in the air.`;
    default:
      return 'The board has not said how its link is yet.';
  }
}

function Time({
  name,
  drawn,
  measured,
  sec,
}: {
  readonly name: string;
  readonly drawn: string;
  readonly measured: number | null;
  readonly sec: (v: number) => string;
}) {
  return (
    <div>
      <dt>{name}</dt>
      <dd className="num text-[20px] leading-7">{measured === null ? '–' : sec(measured)}</dd>
      <dd className="text-[13px] text-faint leading-4">drawn: {drawn}</dd>
    </div>
  );
}
