import { useEffect } from 'react';
import { partVerdict } from '#core/formats/releases.ts';
import { imageInHand } from '../../flashing/index.ts';
import { useApp } from '../../store/store.ts';
import { Notice } from '../../ui/Notice.tsx';
import { Lead } from '../Lead.tsx';
import { BringBack } from './BringBack.tsx';
import { FlashWalk } from './FlashWalk.tsx';
import { Heard } from './Heard.tsx';
import { Releases } from './Releases.tsx';

/** From the release to the settings back on the board. */
export default function FirmwareStation() {
  const { fault } = useApp((s) => s.firmware);
  useEffect(() => {
    void imageInHand.loadReleases();
  }, []);
  return (
    <>
      <Lead />
      {fault && <Notice className="mt-3 max-w-[820px]">{fault}</Notice>}
      <div className="mt-4 grid gap-8 xl:grid-cols-[288px_minmax(0,1fr)]">
        <Releases />
        {/* In a narrow window the walk stands above what there is to take. */}
        <div className="min-w-0 max-xl:order-first">
          <FlashWalk />
          <BringBack />
          <HeardAfter />
          <Parts />
        </div>
      </div>
    </>
  );
}

/** Who answers once the new firmware runs. */
function HeardAfter() {
  const run = useApp((s) => s.firmware.run.kind);
  const selfTest = useApp((s) => s.board.selfTest);
  if (run !== 'runs' || !selfTest) return null;
  return (
    <section className="mt-5" aria-label="Who answers now">
      <p className="label">Who answers on its buses and ports</p>
      <Heard items={selfTest.items} />
    </section>
  );
}

const verdictWords = {
  fits: ['fits', 'text-forest'],
  'too-old': ['too old', 'text-red'],
  untested: ['newer than tested', 'text-amber'],
  unknown: ['not known', 'text-soft'],
} as const;

/** Parts of the craft that run a firmware of their own, and whether it goes with the board's. */
function Parts() {
  const { selfTest, identity } = useApp((s) => s.board);
  const { catalogue, inHand } = useApp((s) => s.firmware);
  const parts = selfTest?.items.filter((i) => i.product && i.version) ?? [];
  if (parts.length === 0) return null;
  const version = inHand?.info.version ?? identity?.version;
  const release = catalogue?.releases.find((r) => r.product === 'Pfad' && r.version === version);
  return (
    <section aria-label="Parts with firmware of their own" className="mt-6 max-w-[640px]">
      <h2 className="font-semibold text-[15px]">Parts with firmware of their own, under Pfad {version}</h2>
      <ul className="mt-1 text-[13px]">
        {parts.map((p) => {
          const { verdict, why } = partVerdict(release, p.product!, p.version!);
          const [word, color] = verdictWords[verdict];
          return (
            <li key={p.what} className="grid grid-cols-[1fr_auto] gap-x-3 border-line border-b py-1">
              <span>
                {p.what}, {p.product} <span className="num">{p.version}</span>
              </span>
              <span className={color}>{word}</span>
              {why && <span className="col-span-2 text-soft leading-[18px]">{why}</span>}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
