import { homeArrow, turnWords } from '#core/navigation/homeArrow.ts';
import { staleWords } from '#core/proofs/proofs.ts';
import { formatQuantity } from '#core/units/units.ts';
import { useSampled, useStatus } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { recordProof } from '../../session.ts';
import { selectProofWorld } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Named } from '../../ui/Named.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Lead } from '../Lead.tsx';
import { HomeRose } from './home/HomeRose.tsx';

/** So far one has to have walked that the receiver's wandering does not turn the arrow, m. */
const WALKED_M = 25;

/** When home is set, and the arrow that points to it, walked with. */
export default function HomeStation() {
  const units = useApp((s) => s.ui.units);
  const world = useApp(selectProofWorld)!;
  const proof = useApp((s) => s.craft.proofs.find((p) => p.id === 'home-arrow'));
  const ready = useApp((s) => s.board.link === 'ready');
  const stale = staleWords(proof, world);
  const status = useStatus();
  const { home, fix } = useSampled(() => ({ home: live('home'), fix: live('navigation') }), 200);
  const m = (v: number) => formatQuantity(v, 'm', units, 0);
  const arrow =
    home?.set === true
      ? homeArrow(home.north, home.east, home.headingFrom === 'nothing' ? null : home.heading)
      : null;
  const walked = arrow !== null && arrow.distanceM >= WALKED_M;
  const seen = proof?.seen.kind === 'home-arrow' ? proof.seen : null;
  const keep = (good: boolean) =>
    home &&
    arrow &&
    recordProof({
      kind: 'home-arrow',
      distanceM: Math.round(arrow.distanceM),
      headingFrom: home.headingFrom,
      satellites: home.satellites,
      good,
    });
  return (
    <>
      <Lead />
      <div className="mt-3 grid gap-x-6 gap-y-3 min-[900px]:grid-cols-[minmax(0,400px)_1fr]">
        <HomeRose
          north={arrow && home ? home.north : null}
          east={arrow && home ? home.east : null}
          accuracyM={home?.set ? Math.max(1, home.accuracy) : 0}
          heading={home && home.headingFrom !== 'nothing' ? home.heading : null}
        />
        <div>
          <p role="status" aria-label="Where home is">
            {!ready || !home
              ? 'With a board on the cable the arrow is live.'
              : !home.set
                ? 'The board has no home yet.'
                : `Home is ${m(arrow!.distanceM)} away on bearing ${Math.round(arrow!.bearingDeg)}°${
                    arrow!.turnDeg === null || arrow!.distanceM < 5 ? '' : `, ${turnWords(arrow!.turnDeg)}`
                  }.`}
          </p>
          {home?.set && (
            <p className="mt-1 text-soft">
              It was set by {home.satellites} satellites, within{' '}
              {formatQuantity(home.accuracy, 'm', units, 1)}: somewhere in the circle.{' '}
              {home.headingFrom === 'compass'
                ? 'The nose is known by the compass.'
                : home.headingFrom === 'course'
                  ? 'The nose is known by the course, as long as it flies.'
                  : 'Where the nose points is known in flight only: on foot go by bearing and distance.'}
            </p>
          )}
          <ol className="mt-3 list-decimal space-y-1 pl-5">
            <li className={fix && fix.satellites > 0 && fix.hasFix ? 'text-soft' : ''}>
              Carry it outdoors and wait for the fix{fix ? `: ${fix.satellites} satellites now` : ''}.
            </li>
            <li className={home?.set ? 'text-soft' : ''}>
              Propellers off, arm it: that sets home
              {status && !status.armed && status.blockers.length > 0
                ? `. In the way: ${status.blockers[0]!.why}`
                : '.'}
            </li>
            <li className={walked ? 'text-soft' : ''}>Walk at least {m(WALKED_M)} away, the nose ahead.</li>
            <li>Does the arrow point back to where you came from, and is it as far as you went?</li>
          </ol>
          <div className="mt-3 flex flex-wrap gap-3">
            <Button kind="go" disabled={!walked} onClick={() => keep(true)}>
              It points back
            </Button>
            <Button disabled={!walked} onClick={() => keep(false)}>
              It does not
            </Button>
          </div>
          {seen && (
            <Notice tone={seen.good && !stale ? 'plain' : 'grave'} className="mt-3">
              {stale
                ? `It was walked, and since then ${stale}: once more.`
                : seen.good
                  ? `Walked ${m(seen.distanceM)} away: the arrow points home.`
                  : seen.headingFrom === 'compass'
                    ? 'The arrow does not point home. Distance right and direction wrong is a compass that was not taught, or a board that is mounted otherwise: go back to Sense.'
                    : 'The arrow does not point home. Wait for more satellites, arm anew, and walk farther.'}
            </Notice>
          )}
          <dl className="mt-4 grid grid-cols-2 gap-x-6 gap-y-3 border-line border-t pt-3 [&_dt]:text-soft">
            {(
              [
                ['home.rule', 'Home is set'],
                ['arm.satellites', 'Satellites to arm'],
                ['arm.needFix', 'Without a fix'],
              ] as const
            ).map(([key, name]) => (
              <Named key={key} name={name}>
                <SettingField name={key} />
              </Named>
            ))}
          </dl>
          <p className="mt-3 text-soft">
            Armed anew, home moves to where it is then, unless it is set at the first arming only. A restart
            of the board forgets it.
          </p>
        </div>
      </div>
    </>
  );
}
