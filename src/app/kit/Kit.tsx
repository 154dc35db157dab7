import { type ReactNode, useState } from 'react';
import { Bar } from '../ui/Bar.tsx';
import { BarChart } from '../ui/BarChart.tsx';
import { Button } from '../ui/Button.tsx';
import { Check } from '../ui/Check.tsx';
import { Decisions } from '../ui/Decisions.tsx';
import { DrawingTabs } from '../ui/DrawingTabs.tsx';
import { Facts } from '../ui/Facts.tsx';
import { FileWords } from '../ui/FileInput.tsx';
import { HoldButton } from '../ui/HoldButton.tsx';
import { LivePlot } from '../ui/LivePlot.tsx';
import { Named } from '../ui/Named.tsx';
import { Notice } from '../ui/Notice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { Panel } from '../ui/Panel.tsx';
import { PlayButton, PlaySpeed } from '../ui/PlayParts.tsx';
import { Quantity } from '../ui/Quantity.tsx';
import { RadioCards } from '../ui/RadioCards.tsx';
import { Select } from '../ui/Select.tsx';
import { Table } from '../ui/Table.tsx';
import { TextButton } from '../ui/TextButton.tsx';
import { TextField } from '../ui/TextField.tsx';
import { Toggle } from '../ui/Toggle.tsx';
import { VirtualList } from '../ui/VirtualList.tsx';
import { Waymark } from '../ui/Waymark.tsx';

/** Every part of the interface in every state, by day and by dusk: `npm run kit`. */
export function Kit() {
  return (
    <div className="grid grid-cols-2">
      {(['day', 'dusk'] as const).map((theme) => (
        <main key={theme} data-theme={theme} className="min-h-screen bg-sheet px-7 py-5 text-ink">
          <h1>Parts, by {theme}</h1>
          <Parts theme={theme} />
        </main>
      ))}
    </div>
  );
}

const thousand = Array.from({ length: 1000 }, (_, i) => i);

function wave(): readonly [number[], number[], number[]] {
  const now = performance.now() / 1000;
  const times = Array.from({ length: 900 }, (_, i) => (i - 899) / 300);
  return [times, times.map((t) => Math.sin(6 * (t + now))), times.map((t) => 0.4 * Math.cos(9 * (t + now)))];
}

function Shelf({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <section className="mt-4">
      <h2 className="label">{name}</h2>
      <div className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-2">{children}</div>
    </section>
  );
}

function Parts({ theme }: { readonly theme: string }) {
  const [number, setNumber] = useState(405);
  const [card, setCard] = useState<'go' | 'stay'>('go');
  const [tab, setTab] = useState<'map' | 'in the air'>('map');
  const [sheet, setSheet] = useState(false);
  const [words, setWords] = useState('Mossvik');
  const nothing = () => {};
  return (
    <>
      <Shelf name="Button">
        {(['plain', 'go', 'live', 'flat'] as const).map((kind) => (
          <Button key={kind} kind={kind}>
            {kind}
          </Button>
        ))}
        <Button disabled>not now</Button>
        <HoldButton disabled={false} onHold={nothing} onRelease={nothing}>
          hold
        </HoldButton>
      </Shelf>
      <Shelf name="TextButton, FileWords">
        {(['ink', 'soft', 'faint', 'lake', 'forest', 'amber', 'red'] as const).map((tone) => (
          <TextButton key={tone} tone={tone}>
            {tone}
          </TextButton>
        ))}
        <TextButton disabled>not now</TextButton>
        <FileWords label={`A file, ${theme}`} accept=".json" onFile={nothing}>
          a file…
        </FileWords>
      </Shelf>
      <Shelf name="Text field">
        <TextField
          label={`words, ${theme}`}
          value={words}
          most={20}
          fits={(text) => /^[a-z ]*$/i.test(text)}
          otherwise="Letters only."
          onChange={setWords}
        />
      </Shelf>
      <Shelf name="Playing a flight">
        <PlayButton playing={false} onToggle={nothing} />
        <PlayButton playing onToggle={nothing} />
        <PlaySpeed speed={4} speeds={[1, 4, 16]} onSpeed={nothing} />
      </Shelf>
      <Shelf name="What the board decided">
        <Decisions
          decisions={[
            { atS: 3, text: 'Armed; home is here, by 14 satellites.' },
            { atS: 180, text: 'The link stays lost: acts.' },
          ]}
          nowS={60}
          onGo={nothing}
        />
      </Shelf>
      <Shelf name="Select">
        {(['usual', 'small'] as const).map((look) => (
          <Select key={look} look={look} aria-label={`${look}, ${theme}`} defaultValue="b">
            <option value="a">the first</option>
            <option value="b">{look}</option>
          </Select>
        ))}
        <span className="bg-wood p-2 text-on-wood">
          <Select look="wood" aria-label={`wood, ${theme}`}>
            <option>on the bench</option>
          </Select>
        </span>
        <Select disabled aria-label={`none, ${theme}`}>
          <option>not now</option>
        </Select>
      </Shelf>
      <Shelf name="Check">
        <Check defaultChecked>so</Check>
        <Check>not so</Check>
        <Check disabled>not now</Check>
        <Check kind="radio" name={`r-${theme}`} defaultChecked>
          one
        </Check>
        <Check kind="radio" name={`r-${theme}`}>
          the other
        </Check>
      </Shelf>
      <Shelf name="RadioCards, DrawingTabs">
        <RadioCards
          label={`What it does, ${theme}`}
          className="flex gap-2"
          value={card}
          cards={[
            { id: 'go', name: 'Return home', after: 'it climbs and turns' },
            { id: 'stay', name: 'Circle', after: 'where it is' },
          ]}
          onChange={setCard}
        />
        <RadioCards
          label={`The same in short, ${theme}`}
          className="flex gap-2"
          value={card}
          cards={[
            { id: 'go', name: 'goes' },
            { id: 'stay', name: 'stays' },
          ]}
          onChange={setCard}
        />
        <DrawingTabs label={`View, ${theme}`} tabs={['map', 'in the air']} value={tab} onChange={setTab} />
      </Shelf>
      <Shelf name="NumberField, Quantity">
        <NumberField
          label={`Return height, ${theme}`}
          value={number}
          symbol="m"
          min={15}
          max={1000}
          step={5}
          hint="15 to 1000 m"
          onChange={setNumber}
        />
        <NumberField
          label={`Large, ${theme}`}
          value={number}
          symbol="m"
          min={15}
          max={1000}
          step={5}
          size="large"
          onChange={setNumber}
        />
        <Quantity name="Stalls at" value={8.7} unit="m/s" note="wings level" />
      </Shelf>
      <Shelf name="Notice">
        {(['red', 'amber', 'grave', 'plain'] as const).map((tone) => (
          <Notice key={tone} tone={tone} className="w-full">
            The {tone} one: what happened, what is safe, what to do.
          </Notice>
        ))}
        <Notice tone="plain" className="w-full" action={<Button>Do it</Button>}>
          One with something to be done beside it.
        </Notice>
      </Shelf>
      <Shelf name="Facts">
        <Facts>
          <dt>Settings read</dt>
          <dd className="num">380</dd>
          <dt>Was running for</dt>
          <dd>3 min when met</dd>
        </Facts>
      </Shelf>
      <Shelf name="Named">
        <dl className="grid grid-cols-2 gap-x-6">
          <Named name="Height">
            <NumberField
              label="Height"
              value={120}
              symbol="m"
              min={0}
              max={500}
              step={5}
              onChange={() => {}}
            />
          </Named>
          <Named name="Chemistry">LiPo</Named>
        </dl>
      </Shelf>
      <Shelf name="Bar">
        {[0, 0.4, 1].map((share) => (
          <Bar key={share} share={share} className="w-32" />
        ))}
      </Shelf>
      <Shelf name="Toggle, on the bench">
        <span className="flex gap-2 bg-wood p-2 text-on-wood">
          <Toggle name="Battery" on={false} words={['out', 'in']} onChange={nothing} />
          <Toggle name="USB cable" on words={['out', 'in']} onChange={nothing} />
        </span>
      </Shelf>
      <Shelf name="BarChart">
        <div className="w-full">
          <BarChart
            label={`Home by strength, ${theme}`}
            bars={[0, 12, 48].map((n) => ({ name: `${2 + n} m/s`, value: n / 48, words: `${n}/48` }))}
            most={1}
            heightPx={110}
            token="--forest"
          />
        </div>
      </Shelf>
      <Shelf name="LivePlot">
        <div className="w-full">
          <LivePlot
            label={`A wave, ${theme}`}
            lines={[
              { name: 'x', token: '--roll' },
              { name: 'y', token: '--pitch' },
            ]}
            unit="rad/s"
            heightPx={120}
            read={wave}
          />
        </div>
      </Shelf>
      <Shelf name="VirtualList">
        <VirtualList
          label={`A thousand rows, ${theme}`}
          className="h-24 w-full"
          items={thousand}
          keyOf={String}
          rowPx={22}
          row={(n) => <span className="num">row {n}</span>}
        />
      </Shelf>
      <Shelf name="Panel">
        <Button onClick={() => setSheet(true)}>open a sheet</Button>
        <Panel
          open={sheet}
          onClose={() => setSheet(false)}
          title="A sheet"
          lead="Over the work, closed with Escape."
        >
          <NumberField
            label={`In the sheet, ${theme}`}
            value={number}
            symbol="m"
            min={15}
            max={1000}
            step={5}
            onChange={setNumber}
          />
        </Panel>
      </Shelf>
      <Shelf name="Waymark">
        {(['open', 'set', 'proven', 'stale', 'blocked'] as const).map((progress) => (
          <span key={progress} className="flex items-center gap-1">
            <Waymark progress={progress} here={false} /> {progress}
          </span>
        ))}
      </Shelf>
      <Shelf name="Table">
        <Table>
          <thead>
            <tr>
              <th>what</th>
              <th>how much</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>Height</td>
              <td className="num">405 m</td>
            </tr>
            <tr>
              <td>A name that is longer than others are</td>
              <td className="num">12.4 m/s</td>
            </tr>
          </tbody>
        </Table>
      </Shelf>
    </>
  );
}
