import { useState } from 'react';
import { settingsFromToml, type TextFault } from '#core/settings/text.ts';
import { notify } from '../notify.tsx';
import { selectCatalogue } from '../store/selectors.ts';
import { staged } from '../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';

/** Settings pasted as TOML. Either every line is right and all go to the tray, or none do. */
export default function SettingsText({ onClose }: { readonly onClose: () => void }) {
  const catalogue = useApp(selectCatalogue);
  const dispatch = useAppDispatch();
  const [text, setText] = useState('');
  const [faults, setFaults] = useState<readonly TextFault[]>([]);
  const take = () => {
    const parsed = settingsFromToml(catalogue, text);
    if (!parsed.ok) {
      setFaults(parsed.faults);
      return;
    }
    dispatch(staged(parsed.values));
    void notify(
      `${Object.keys(parsed.values).length} settings read. What differs from the board waits in the tray.`,
    );
    setText('');
    setFaults([]);
    onClose();
  };
  return (
    <Panel
      open
      onClose={onClose}
      title="Take settings from TOML"
      lead="Paste settings as copied here or kept in a file. They wait in the tray like any edit."
    >
      <textarea
        aria-label="Settings as TOML"
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setFaults([]);
        }}
        rows={10}
        spellCheck={false}
        className="num w-full rounded-[4px] border border-line bg-paper p-2 text-[13px]"
      />
      {faults.length > 0 && (
        <div
          role="alert"
          className="mt-2 max-h-40 overflow-y-auto rounded-[4px] bg-red-wash px-3 py-2 text-red"
        >
          <p className="font-medium">Nothing was taken.</p>
          <ul>
            {faults.slice(0, 30).map((f) => (
              <li key={`${f.line}${f.why}`}>
                Line {f.line}: {f.why}
              </li>
            ))}
          </ul>
        </div>
      )}
      <Button kind="go" className="mt-3" disabled={text.trim() === ''} onClick={take}>
        Put into the tray
      </Button>
    </Panel>
  );
}
