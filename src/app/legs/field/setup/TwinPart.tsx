import { useState } from 'react';
import { taughtHere, toTeach, twinOf } from '#core/sheet/twin.ts';
import { desk } from '../../../crafts/index.ts';
import { notify } from '../../../notify.tsx';
import { selectCatalogue, selectValues } from '../../../store/selectors.ts';
import { useApp } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { TextField } from '../../../ui/TextField.tsx';

const MOST_NAME = 80;

/** A second craft of the same kind, made from this one. */
export function TwinPart() {
  const file = useApp((s) => s.craft.file!);
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const [name, setName] = useState(`${file.name.slice(0, MOST_NAME - 7)}, twin`);
  const taught = taughtHere(values, catalogue);
  const make = async () => {
    const called = name.trim().slice(0, MOST_NAME) || `${file.name}, twin`;
    await desk.add(twinOf(file, values, catalogue, called));
    void notify(`${called} is open. What is of the one board and frame is to be taught again.`);
  };
  return (
    <section aria-label="A twin" className="mt-4 border-line border-t pt-3">
      <h2 className="font-semibold">A twin</h2>
      <p className="max-w-[660px] text-soft">
        A second craft of the same kind, beside this one: shape, wiring, modes, gains, route and layouts go
        over to it. What was taught, proven and flown does not.
      </p>
      <ul
        aria-label="To be taught again"
        className="mt-1.5 grid grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-x-6 gap-y-1 text-[13px]"
      >
        {toTeach.map((t) => {
          const here = taught.find((x) => x.name === t.name);
          return (
            <li key={t.name}>
              <b className="font-semibold">{t.name}</b>{' '}
              <span className="text-soft">
                {t.anew ? 'is taught anew.' : 'is looked at again.'} {t.why}
                {here ? ` Here ${here.settings} ${here.settings === 1 ? 'setting' : 'settings'}.` : ''}
              </span>
            </li>
          );
        })}
      </ul>
      <p className="mt-2 flex flex-wrap items-center gap-3">
        <TextField
          label="Name of the twin"
          value={name}
          most={MOST_NAME}
          fits={(text) => text.trim() !== ''}
          otherwise="A craft has a name."
          onChange={setName}
        />
        <Button onClick={() => void make()}>Make it</Button>
      </p>
    </section>
  );
}
