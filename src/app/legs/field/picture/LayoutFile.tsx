import { useState } from 'react';
import type { OverlayConfig } from '#core/overlay/config.ts';
import { itemIds, type LayoutId, placeKey } from '#core/overlay/items.ts';
import { carried, type Placing } from '#core/overlay/place.ts';
import type { VideoSystem } from '#core/overlay/videoSystems.ts';
import type { Edits } from '#core/settings/draft.ts';
import { saveText, slug } from '../../../files.ts';
import { FileWords } from '../../../ui/FileInput.tsx';
import { Notice } from '../../../ui/Notice.tsx';
import { TextButton } from '../../../ui/TextButton.tsx';

/** Reading of files comes with the first of them. */
const files = () => import('#core/overlay/layoutText.ts');
const MOST_BYTES = 20_000;

interface Props {
  readonly craft: string;
  readonly layout: LayoutId;
  readonly placing: Placing;
  readonly config: OverlayConfig;
  readonly system: VideoSystem;
  /** @param says what became of it, for a person */
  readonly onTake: (edits: Edits, says: string) => void;
}

/** A layout into a file of text and out of one, from whatever grid that was. */
export function LayoutFile({ craft, layout, placing, config, system, onTake }: Props) {
  const [fault, setFault] = useState<string | null>(null);
  const open = async (file: File) => {
    setFault(null);
    if (file.size > MOST_BYTES) {
      setFault(`${file.name} is much longer than any layout. Nothing was changed.`);
      return;
    }
    const { layoutFromToml } = await files();
    const read = layoutFromToml(await file.text());
    if (!read.ok) {
      setFault(`${file.name}: ${read.why}`);
      return;
    }
    const { layout: found } = read;
    const there = found.system.id === system.id ? null : carried(found.placing, found.system, system, config);
    const next = there?.placing ?? found.placing;
    const words = Object.fromEntries(Object.entries(found.words).map(([n, w]) => [`overlay.words.${n}`, w]));
    const notes = [
      there ? `It was made for ${found.system.name}, and was carried over by what it means.` : '',
      there && there.left.length > 0 ? `Left out: ${there.left.map((l) => l.item).join(', ')}.` : '',
      found.unknown.length > 0 ? `Not known here: ${found.unknown.slice(0, 5).join(', ')}.` : '',
    ].filter(Boolean);
    onTake(
      { ...Object.fromEntries(itemIds.map((id) => [placeKey(layout, id), next[id]])), ...words },
      `${file.name} is layout ${layout.toUpperCase()} now. ${notes.join(' ')}`,
    );
  };
  return (
    <>
      <span className="flex flex-col items-start gap-1 text-[13px]">
        <TextButton
          tone="soft"
          onClick={async () => {
            const { layoutToToml } = await files();
            const title = `Layout ${layout.toUpperCase()} of ${craft}`;
            saveText(
              `${slug(craft)}-${system.id}.toml`,
              'application/toml',
              layoutToToml(placing, system.id, config.words, title),
            );
          }}
        >
          Save it as text
        </TextButton>
        <FileWords label="Layout as text" accept=".toml,.txt,text/plain" onFile={(f) => void open(f)}>
          Open another
        </FileWords>
      </span>
      {fault && <Notice>{fault}</Notice>}
    </>
  );
}
