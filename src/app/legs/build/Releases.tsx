import { boardOf } from '#core/board/boards.ts';
import { type Offer, offersFor, type Release } from '#core/formats/releases.ts';
import { formatBytes } from '#core/units/units.ts';
import { imageInHand } from '../../flashing/index.ts';
import { selectDescription } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { FileWords } from '../../ui/FileInput.tsx';
import { TextButton } from '../../ui/TextButton.tsx';

/** The board on the cable, or the one that the craft was last seen on. */
function useTarget(): string {
  const identity = useApp((s) => s.board.identity);
  const description = useApp(selectDescription);
  return identity?.target ?? description?.target ?? '';
}

/** What there is for this board, and an image from a file. */
export function Releases() {
  const { catalogue, cached, fetching, inHand, run } = useApp((s) => s.firmware);
  const running = useApp((s) => (s.board.link === 'ready' ? (s.board.identity?.version ?? '') : ''));
  const target = useTarget();
  const model = boardOf(target);
  const busy = !['idle', 'runs', 'failed', 'interrupted'].includes(run.kind);
  return (
    <section aria-label="Releases">
      <p className="label">
        For {model ? `${model.name}, revision ${model.revision}` : target || 'your board'}
        {cached && ', as fetched before: the service does not answer'}
      </p>
      <ul className="mt-1">
        {catalogue &&
          offersFor(catalogue, 'Pfad', target).map((offer) => (
            <ReleaseRow
              key={offer.release.version}
              offer={offer}
              target={target}
              running={running === offer.release.version}
              chosen={inHand?.name === nameOf(offer.release)}
              busy={busy || fetching !== null}
            />
          ))}
      </ul>
      <p className="mt-2">
        <FileWords
          label="Firmware image"
          accept=".hex,text/plain"
          disabled={busy}
          onFile={(f) => void imageInHand.chooseFile(f)}
        >
          an image from a file…
        </FileWords>
      </p>
      {fetching && (
        <p role="status" className="mt-1 text-lake">
          Fetching {fetching} and looking through it
        </p>
      )}
    </section>
  );
}

const nameOf = (r: Release) => `${r.product} ${r.version}`;

function ReleaseRow({
  offer: { release: r, image },
  target,
  running,
  chosen,
  busy,
}: {
  readonly offer: Offer;
  readonly target: string;
  readonly running: boolean;
  readonly chosen: boolean;
  readonly busy: boolean;
}) {
  return (
    <li className={`border-line border-b py-2 ${chosen ? 'bg-paper' : ''}`}>
      <div className="flex items-baseline gap-2">
        <span className={`font-semibold text-[17px] ${image ? '' : 'text-soft'}`}>{nameOf(r)}</span>
        <span className={r.channel === 'candidate' ? 'text-amber' : 'text-soft'}>{r.channel}</span>
        {running && <span className="text-forest">on the board</span>}
        <span className="flex-1" />
        {image &&
          (chosen ? (
            <TextButton tone="soft" disabled={busy} onClick={() => imageInHand.letGo()}>
              let go
            </TextButton>
          ) : (
            <Button
              className="py-0!"
              disabled={busy}
              aria-label={`Take ${nameOf(r)}`}
              onClick={() => void imageInHand.chooseRelease(r, image)}
            >
              Take
            </Button>
          ))}
      </div>
      <p className="text-[12.5px] text-soft">
        <span className="num">{r.date}</span>
        {image && (
          <>
            , <span className="num">{formatBytes(image.size)}</span>, SHA-256{' '}
            <span className="num" title={image.sha256}>
              {image.sha256.slice(0, 12)}…
            </span>
          </>
        )}
      </p>
      {r.notes.map((n) => (
        <p key={n} className="text-[13px]">
          {n}
        </p>
      ))}
      {!image && (
        <p className="text-[13px] text-amber">There is no build of it for {target}; it cannot be taken.</p>
      )}
      {r.limits.map((l) => (
        <p key={l} className="text-[13px] text-amber">
          {l}
        </p>
      ))}
    </li>
  );
}
