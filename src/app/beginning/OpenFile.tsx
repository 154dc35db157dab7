import { useRef } from 'react';
import { MAX_CRAFT_BYTES } from '#core/formats/craftFile.ts';
import { FileInput, JSON_FILES } from '../ui/FileInput.tsx';
import { TextButton } from '../ui/TextButton.tsx';
import { openCraftText } from './begin.ts';

/** @throws Error with a sentence where the file is none of a craft; nothing is changed then */
export async function openCraftFile(file: File): Promise<string> {
  if (file.size > MAX_CRAFT_BYTES)
    throw new Error(
      `${file.name} has ${(file.size / 1e6).toFixed(0)} MB; a craft has well under ${MAX_CRAFT_BYTES / 1e6} MB. It was not opened.`,
    );
  const result = await openCraftText(await file.text());
  if (!result.ok) throw new Error(`${file.name}: ${result.why.replace(' Nothing was changed.', '')}`);
  return result.name;
}

/** A craft from its file, beside those that are kept. */
export function OpenFile({
  busy,
  onOpen,
  onFault,
}: {
  readonly busy: boolean;
  readonly onOpen: (what: () => Promise<unknown>) => Promise<void>;
  readonly onFault: (why: string | null) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <TextButton
        tone="soft"
        disabled={busy}
        onClick={() => {
          onFault(null);
          input.current?.click();
        }}
      >
        or open its file
      </TextButton>
      <FileInput
        ref={input}
        label="Craft file"
        accept={JSON_FILES}
        onFile={(file) => void onOpen(() => openCraftFile(file))}
      />
    </>
  );
}
