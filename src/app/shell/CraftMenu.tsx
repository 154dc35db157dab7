import { DropdownMenu } from 'radix-ui';
import { lazy, Suspense, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { openCraftFile } from '../beginning/OpenFile.tsx';
import { saveText, slug } from '../files.ts';
import { notify } from '../notify.tsx';
import { craftTextNow, selectCatalogue, selectValues } from '../store/selectors.ts';
import { store, useApp, useAppDispatch } from '../store/store.ts';
import { themeNames, themes, uiChanged } from '../store/uiSlice.ts';
import { Button } from '../ui/Button.tsx';
import { FileInput, JSON_FILES } from '../ui/FileInput.tsx';
import { Panel } from '../ui/Panel.tsx';

const SettingsText = lazy(() => import('./SettingsText.tsx'));

export function saveCraft(): void {
  const text = craftTextNow(store.getState());
  const name = store.getState().craft.file?.name ?? 'craft';
  if (text !== null) saveText(`${slug(name)}.wanderweg.json`, 'application/json', text);
}

export async function copySettings(): Promise<void> {
  const { settingsToToml } = await import('#core/settings/text.ts');
  const s = store.getState();
  const text = settingsToToml(selectCatalogue(s), selectValues(s), s.craft.file?.name ?? 'craft');
  try {
    await navigator.clipboard.writeText(text);
    void notify('Settings copied as TOML, waiting edits included.');
  } catch {
    saveText(`${slug(s.craft.file?.name ?? 'craft')}.toml`, 'application/toml', text);
    void notify('The browser did not allow copying, so the settings were saved as a file.');
  }
}

/** The craft's name, and what can be done with its file and settings as a whole. */
export default function CraftMenu() {
  const name = useApp((s) => s.craft.file?.name ?? '');
  const { theme, units } = useApp((s) => s.ui);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [pasting, setPasting] = useState(false);
  const open = async (file: File) => {
    try {
      const opened = await openCraftFile(file);
      void notify(`${opened} is open. ${name} is kept beside it, at All craft.`);
    } catch (error) {
      setFault(error instanceof Error ? error.message : String(error));
    }
  };
  const item =
    'flex cursor-pointer justify-between gap-6 rounded-[3px] px-3 py-1.5 outline-none data-[highlighted]:bg-lake-wash';
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="flex max-w-[260px] items-baseline gap-2 border-line border-l pl-[18px] hover:text-forest">
          <b className="truncate font-semibold">{name || 'No craft'}</b>
          <span className="text-soft" aria-hidden="true">
            ▾
          </span>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            sideOffset={6}
            className="z-50 min-w-64 rounded-[4px] border border-line bg-sheet p-1 text-ink shadow-xl"
          >
            <DropdownMenu.Item className={item} onSelect={() => navigate('/craft')}>
              All craft, and how to begin one
            </DropdownMenu.Item>
            <DropdownMenu.Separator className="my-1 h-px bg-line" />
            <DropdownMenu.Item className={item} onSelect={saveCraft}>
              Save craft to a file
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => input.current?.click()}>
              Open a craft file…
            </DropdownMenu.Item>
            <DropdownMenu.Separator className="my-1 h-px bg-line" />
            <DropdownMenu.Item className={item} onSelect={() => void copySettings()}>
              Copy settings as TOML
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => setPasting(true)}>
              Take settings from TOML…
            </DropdownMenu.Item>
            <DropdownMenu.Separator className="my-1 h-px bg-line" />
            {themes.map((t) => (
              <DropdownMenu.Item key={t} className={item} onSelect={() => dispatch(uiChanged({ theme: t }))}>
                {themeNames[t]} {theme === t && <span>✓</span>}
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Separator className="my-1 h-px bg-line" />
            {(['metric', 'imperial', 'aviation'] as const).map((u) => (
              <DropdownMenu.Item key={u} className={item} onSelect={() => dispatch(uiChanged({ units: u }))}>
                Units: {u} {units === u && <span>✓</span>}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <FileInput ref={input} label="Craft file" accept={JSON_FILES} onFile={(file) => void open(file)} />
      <Panel open={fault !== null} onClose={() => setFault(null)} title="The file was not opened">
        <p role="alert">{fault}</p>
        <p className="mt-2 text-soft">The craft you were working on is open as before.</p>
        <Button className="mt-4" onClick={() => setFault(null)}>
          Go on
        </Button>
      </Panel>
      {pasting && (
        <Suspense>
          <SettingsText onClose={() => setPasting(false)} />
        </Suspense>
      )}
    </>
  );
}
