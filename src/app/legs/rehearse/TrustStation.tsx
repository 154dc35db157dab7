import { Link } from 'react-router';
import { auditSchema } from '#core/formats/audit.ts';
import auditText from '#demo/audit.json?raw';
import { Table } from '../../ui/Table.tsx';
import { textLook } from '../../ui/TextButton.tsx';
import { useTold } from '../../ui/Told.tsx';
import { Lead } from '../Lead.tsx';

const audit = auditSchema.parse(JSON.parse(auditText));

/** What a verdict rests on and what it does not know, in a pilot's words. */
const known: readonly (readonly [string, string])[] = [
  [
    'Home',
    'The whole return was flown: two full circles at the last height with room over the ground and battery for ten minutes more, or down, upright, motors stopped and disarmed.',
  ],
  [
    'The reason',
    'Worked out from what failed first in the flight, with the moment it failed and the settings that would have changed the end.',
  ],
  [
    'Luck',
    'Each flight is flown again with four other seeds of gusts and noise. Where they end otherwise, that is said. Trust such a flight as you would a coin.',
  ],
  [
    'An edge',
    'How near it came to the ground, the end of the battery, the limit of the wind. A verdict near an edge is one gust away from another.',
  ],
];

const unknown: readonly string[] = [
  'Your craft as it really is. It flies the numbers you gave: mass, balance, propellers, cells. Weigh it, and measure what you can.',
  'Ridge lift, thermals, rotors behind hills, rain, ice. Wind over ground is that of open country.',
  'A wing that bends or flutters, a hinge that works loose, glue that lets go. A wing breaks here by its load alone.',
  'A cold battery, a tired one, a bad connector, unless you enter the resistance you measured.',
  'Wakes of rotors on each other, swirl of a propeller on a fin.',
  'Radio that fades. The link is there or it is not.',
  'People, trees, houses and power lines. Only the ground is known, in steps of thirty metres.',
];

/** How far a rehearsal can be trusted: what it was held against, and what it leaves out. */
export default function TrustStation() {
  const told = useTold();
  const off = audit.checks.filter((c) => !c.holds);
  const sets = [audit.cases, audit.flights, ...audit.returns];
  const flownOn = {
    flights: sets.reduce((sum, x) => sum + x.flownOn, 0),
    lost: sets.reduce((sum, x) => sum + x.lost, 0),
  };
  return (
    <>
      <Lead />
      <div className="mt-4 grid max-w-[980px] gap-x-10 gap-y-5 xl:grid-cols-2">
        <section>
          <h2 className="label">What a verdict means</h2>
          <dl className="mt-1">
            {known.map(([word, what]) => (
              <div key={word} className="grid grid-cols-[92px_1fr] gap-3 border-line border-b py-1.5">
                <dt className="font-medium">{word}</dt>
                <dd className="text-soft">{what}</dd>
              </div>
            ))}
          </dl>
        </section>
        <section>
          <h2 className="label">What it does not know</h2>
          <ul className="mt-1">
            {unknown.map((what) => (
              <li key={what} className="border-line border-b py-1.5 text-soft">
                {what}
              </li>
            ))}
          </ul>
        </section>
      </div>
      <section className="mt-5 max-w-[980px]">
        <h2 className="label">How often it was right</h2>
        <p className="mt-1 max-w-[760px] text-soft">
          Expectations were written down first, from closed forms, the terrain and what such a mistake must
          lead to; then the flights were flown.
        </p>
        <ul className="mt-2 grid gap-3 grid-cols-2 xl:grid-cols-4">
          <Figure value={`${audit.flights.verdictRight} %`}>
            verdicts right in {audit.flights.flights} flights;{' '}
            {audit.flights.falseHome === 0 ? 'none' : audit.flights.falseHome} called home falsely
          </Figure>
          <Figure value={`${audit.flights.reasonRight} %`}>verdict and reason right</Figure>
          <Figure value={`${flownOn.lost} of ${flownOn.flights}`}>
            lost within ten minutes after they were called home
          </Figure>
          <Figure value={`${audit.random.invalid} of ${audit.random.flights}`}>
            flights of anything at all that ended in a number that is none
          </Figure>
        </ul>
        <ul className="mt-3 text-soft">
          {audit.returns.map((r) => (
            <li key={r.name}>
              <b className="num font-medium text-ink">{r.home} %</b> of {r.flights} came home with {r.name}.
            </li>
          ))}
        </ul>
      </section>
      <section className="mt-5 max-w-[980px]">
        <h2 className="label">Held against others</h2>
        <p className="mt-1 text-soft">
          {off.length === 0
            ? `All ${audit.checks.length} figures lie within their bounds.`
            : `${off.length} of ${audit.checks.length} figures lie outside their bounds.`}
        </p>
        <div className="overflow-x-auto">
          <Table className="mt-2">
            <thead>
              <tr>
                <th>figure</th>
                <th className="!text-right">theirs</th>
                <th className="!text-right">ours</th>
                <th className="!text-right">off by</th>
                <th className="!text-right">allowed</th>
              </tr>
            </thead>
            <tbody>
              {audit.checks.map((c) => {
                // A figure with nothing beside it is bounded itself.
                const alone = c.independent === 0;
                return (
                  <tr key={c.name} className={c.holds ? '' : 'text-red'}>
                    <td>
                      {told(c.name)}
                      <span className="block text-faint">{told(c.source)}</span>
                    </td>
                    <td className="num text-right">{alone ? '' : told(`${c.independent} ${c.unit}`)}</td>
                    <td className="num text-right">{told(`${c.ours} ${c.unit}`)}</td>
                    <td className="num text-right">{alone ? '' : `${c.error} %`}</td>
                    <td className="num text-right">
                      {alone ? told(`${c.bound} ${c.unit}`) : `${c.bound} %`}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </Table>
        </div>
      </section>
      <p className="mt-5 text-soft">
        <Link to="/rehearse/one-flight" className={textLook('lake')}>
          Back to the flight
        </Link>
      </p>
    </>
  );
}

function Figure({ value, children }: { readonly value: string; readonly children: React.ReactNode }) {
  return (
    <li className="rounded-[4px] border border-line bg-paper px-3 py-2">
      <b className="num block font-semibold text-[20px] leading-[26px]">{value}</b>
      <span className="text-[13px] text-soft">{children}</span>
    </li>
  );
}
