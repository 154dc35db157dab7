import { useMemo, useState } from 'react';
import { readCraftFile } from '#core/formats/craftFile.ts';
import { type SetUpSide, setUpsBeside } from '#core/sheet/beside.ts';
import { history } from '../../../history/index.ts';
import { when } from '../../../history/words.ts';
import { selectCatalogue, selectValues } from '../../../store/selectors.ts';
import { useApp } from '../../../store/store.ts';
import { FileWords } from '../../../ui/FileInput.tsx';
import { Notice } from '../../../ui/Notice.tsx';
import { Select } from '../../../ui/Select.tsx';
import { Table } from '../../../ui/Table.tsx';

/** Snapshots that are offered, the newest. */
const MOST_OFFERED = 40;

/** This set-up beside another craft, a file, or what it was some time ago: only what is other. */
export function BesideSetUp() {
  const id = useApp((s) => s.crafts.id);
  const listed = useApp((s) => s.crafts.listed.crafts);
  const snapshots = useApp((s) => s.history.snapshots);
  const file = useApp((s) => s.craft.file!);
  const airframe = useApp((s) => s.craft.airframe!);
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const units = useApp((s) => s.ui.units);
  const [there, setThere] = useState<{ readonly name: string; readonly side: SetUpSide } | null>(null);
  const [chosen, setChosen] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const others = listed.filter((c) => c.record.id !== id);
  const own = snapshots
    .filter((s) => s.craft === file.name)
    .sort((a, b) => (a.lastAt < b.lastAt ? 1 : -1))
    .slice(0, MOST_OFFERED);
  const defaults = useMemo(() => catalogue.defaults(), [catalogue]);
  const parts = useMemo(
    () => (there ? setUpsBeside({ values, file: { ...file, airframe } }, there.side, catalogue, units) : []),
    [there, values, file, airframe, catalogue, units],
  );
  const take = (name: string, text: string) => {
    const read = readCraftFile(text);
    if (!read.ok) {
      setFault(`${name}: ${read.why}`);
      return;
    }
    setFault(null);
    const { craft } = read;
    setThere({
      name: craft.name,
      side: { values: { ...defaults, ...craft.settings, ...craft.edits }, file: craft },
    });
  };
  const choose = async (value: string) => {
    setChosen(value);
    setFault(null);
    setThere(null);
    const craft = others.find((c) => `craft ${c.record.id}` === value);
    if (craft) take(craft.craft.name, craft.record.craft);
    const snapshot = own.find((s) => `kept ${s.id}` === value);
    if (!snapshot) return;
    const content = await history.contentOf(snapshot.id);
    if (content)
      setThere({ name: when(snapshot.lastAt), side: { values: { ...defaults, ...content }, file: null } });
    else setFault('The settings of that day are not in this browser any more.');
  };
  const count = parts.reduce((n, p) => n + p.rows.length, 0);
  return (
    <section aria-label="Beside another set-up" className="mt-4 border-line border-t pt-3">
      <h2 className="font-semibold">Beside another</h2>
      <p className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1">
        <Select
          aria-label="Set-up to lay beside it"
          value={chosen}
          onChange={(e) => void choose(e.target.value)}
        >
          <option value="">none</option>
          {others.map((c) => (
            <option key={c.record.id} value={`craft ${c.record.id}`}>
              {c.craft.name}
            </option>
          ))}
          {own.map((s) => (
            <option key={s.id} value={`kept ${s.id}`}>
              as its board was on {when(s.lastAt)}
            </option>
          ))}
        </Select>
        <FileWords
          label="Craft file to lay beside it"
          accept=".json,application/json"
          onFile={(f) => {
            setChosen('');
            void f.text().then((text) => take(f.name, text));
          }}
        >
          Choose a file
        </FileWords>
        {there && (
          <span className="text-soft">
            {count === 0
              ? `Nothing is other than in ${there.name}.`
              : `${count} ${count === 1 ? 'thing is' : 'things are'} other than in ${there.name}.`}
          </span>
        )}
      </p>
      {fault && <Notice>{fault}</Notice>}
      <div className="max-h-[420px] overflow-y-auto">
        {there &&
          parts.map((p) => (
            <section key={p.title} aria-label={p.title} className="mt-2">
              <h3 className="label">{p.title}</h3>
              <Table>
                <thead>
                  <tr>
                    <th scope="col">what</th>
                    <th scope="col">here</th>
                    <th scope="col">there</th>
                  </tr>
                </thead>
                <tbody>
                  {p.rows.map((r) => (
                    <tr key={r.what}>
                      <th scope="row">{r.what}</th>
                      <td>{r.here}</td>
                      <td>{r.there}</td>
                    </tr>
                  ))}
                </tbody>
              </Table>
            </section>
          ))}
      </div>
    </section>
  );
}
