import { useEffect, useRef, useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { launchOf } from '#core/airframe/launch.ts';
import { lookedAt } from '#core/field/looks.ts';
import { beforeFlight, placeNames, type WalkLine, walkPlaces, wanting } from '#core/field/walk.ts';
import { makeProof } from '#core/proofs/proofs.ts';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { useAwake } from '../../offline/useAwake.ts';
import { proofTaken } from '../../store/craftSlice.ts';
import { selectProgress, selectProofWorld } from '../../store/selectors.ts';
import { store, useApp, useAppDispatch } from '../../store/store.ts';
import { Table } from '../../ui/Table.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { Told } from '../../ui/Told.tsx';
import { Waymark } from '../../ui/Waymark.tsx';
import { Lead } from '../Lead.tsx';
import { FoldedWalk } from './walk/FoldedWalk.tsx';
import { LineCard } from './walk/LineCard.tsx';
import { linesOf } from './walk/linesOf.ts';
import { SignOffPart } from './walk/SignOffPart.tsx';
import { TiltPicture } from './walk/TiltPicture.tsx';
import { WalkSheet } from './walk/WalkSheet.tsx';
import { saidOf } from './walk/words.ts';

/** What was looked at grows old while one stands there: looked at again every minute. */
const AGES_MS = 60_000;

function useNow(): Date {
  const [now, setNow] = useState(() => new Date());
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date()), AGES_MS);
    return () => clearInterval(timer);
  }, []);
  return now;
}

/** The walk from the bench to the strip, folded open at the next thing to do. */
export default function BeforeThrowStation() {
  useAwake();
  const dispatch = useAppDispatch();
  const progress = useApp(selectProgress);
  const status = useSampled(() => live('status'));
  const [chosen, setChosen] = useState<string | null>(null);
  const now = useNow();
  const map = useRef<HTMLDivElement>(null);
  if (!progress) return <Lead />;
  const lines = linesOf(progress, now, launchOf(progress.world.airframe)?.speedMps);
  const left = wanting(lines);
  const open = lines.find((l) => l.id === chosen) ?? left[0] ?? lines.find((l) => l.place === 'landed')!;
  const say = (line: WalkLine, good: boolean, figure?: number) => {
    const world = selectProofWorld(store.getState());
    const id = lookedAt.find((x) => x === line.id);
    if (!world || !id) return;
    dispatch(
      proofTaken(
        makeProof(
          { kind: 'looked', line: id, good, ...(figure === undefined ? {} : { figure }) },
          world,
          new Date().toISOString(),
        ),
      ),
    );
    // On to the next that is wanting behind it.
    const at = lines.indexOf(line);
    const next = good ? lines.slice(at + 1).find((l) => l.state !== 'proven') : line;
    setChosen(next?.id ?? null);
  };
  const wing = !isRotorcraft(progress.world.airframe);
  const of = beforeFlight(lines).length;
  return (
    <>
      <Lead />
      <div ref={map} />
      <FoldedWalk lines={lines} open={open} onOpen={setChosen}>
        <LineCard
          line={open}
          place={`${open.id === left[0]?.id ? 'Next' : placeNames[open.place]}, ${lines.indexOf(open) + 1} of ${lines.length}`}
          picture={open.id === 'tilt' && wing ? <TiltPicture airframe={progress.world.airframe} /> : null}
          onSay={(good, figure) => say(open, good, figure)}
        />
      </FoldedWalk>
      <p role="status" className="mt-3">
        {left.length === 0 ? `All ${of} are proven.` : `${of - left.length} of ${of} are proven.`}{' '}
        {status?.blockers.length === 0 && 'The board would arm now.'}
        {status?.blockers[0] && (
          <>
            It would refuse to arm now: <Told>{status.blockers[0].why}</Told>
          </>
        )}
      </p>
      <SignOffPart lines={lines} now={now} blocker={status?.blockers[0]?.why ?? null} />
      <section aria-label="The whole walk" className="mt-4 border-line border-t pt-3">
        <div className="flex items-baseline justify-between gap-4">
          <h2 className="font-semibold">The whole walk</h2>
          <TextButton tone="soft" onClick={() => window.print()}>
            Print it on one page
          </TextButton>
        </div>
        {walkPlaces.map((place) => (
          <div key={place}>
            <h3 className="label mt-3">{placeNames[place]}</h3>
            <Table className="mt-1">
              <tbody>
                {lines
                  .filter((l) => l.place === place)
                  .map((line) => (
                    <tr key={line.id}>
                      <td className="w-6">
                        <Waymark progress={line.state} here={line.id === open.id} />
                      </td>
                      <td className="w-52">
                        <TextButton
                          onClick={() => {
                            setChosen(line.id);
                            map.current?.scrollIntoView({ block: 'start' });
                          }}
                        >
                          {line.title}
                        </TextButton>
                      </td>
                      <td
                        className={
                          line.state === 'stale' || line.state === 'blocked' ? 'text-red' : 'text-soft'
                        }
                      >
                        {saidOf(line)}
                      </td>
                    </tr>
                  ))}
              </tbody>
            </Table>
          </div>
        ))}
      </section>
      <WalkSheet lines={lines} now={now} />
    </>
  );
}
