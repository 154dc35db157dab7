import { kindNames } from '#core/airframe/actuators.ts';
import { boardTitle } from '#core/board/boardRef.ts';
import { desk } from '../crafts/index.ts';
import type { Aside, KeptCraft, Replaced } from '../crafts/records.ts';
import { CraftPlan } from '../drawing/CraftPlan.tsx';
import { saveText, slug } from '../files.ts';
import { notify } from '../notify.tsx';
import { bringSiteBack } from '../sites.ts';
import { useApp } from '../store/store.ts';
import { TextButton } from '../ui/TextButton.tsx';

interface Props {
  readonly busy: boolean;
  readonly onOpen: (what: () => Promise<unknown>) => Promise<void>;
}

const dayOf = (at: string) =>
  new Date(at).toLocaleString('en-GB', { day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' });

/** The craft that are kept here, those that were let go or replaced of late, and what could not be read. */
export function CraftList({ busy, onOpen }: Props) {
  const { crafts, replaced, aside } = useApp((s) => s.crafts.listed);
  const here = useApp((s) => s.crafts.id);
  return (
    <>
      {crafts.length > 0 && (
        <section aria-label="Craft kept here" className="mt-8">
          <h2 className="label">Kept in this browser</h2>
          <ul className="mt-2 grid gap-3 min-[700px]:grid-cols-2 min-[1000px]:grid-cols-3">
            {crafts.map((kept) => (
              <Card
                key={kept.record.id}
                kept={kept}
                here={kept.record.id === here}
                busy={busy}
                onOpen={onOpen}
              />
            ))}
          </ul>
        </section>
      )}
      {replaced.length > 0 && (
        <section aria-label="Recently replaced" className="mt-8 max-w-[760px]">
          <h2 className="label">Recently replaced or let go</h2>
          <ul className="mt-1">
            {replaced.map((r) => (
              <Gone key={r.id} gone={r} busy={busy} onOpen={onOpen} />
            ))}
          </ul>
        </section>
      )}
      {aside.length > 0 && (
        <section aria-label="Put aside" className="mt-8 max-w-[760px]">
          <h2 className="label">Could not be read, and was put aside as it is</h2>
          <ul className="mt-1">
            {aside.map((a) => (
              <PutAside key={a.id} aside={a} />
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function Card({
  kept: { record, craft },
  here,
  busy,
  onOpen,
}: Props & { readonly kept: KeptCraft; readonly here: boolean }) {
  const { done, of } = record.way;
  const open = () =>
    onOpen(async () => {
      if (here) return;
      if (!(await desk.open(record.id))) throw new Error(`${craft.name} is not kept here any more.`);
    });
  const letGo = async () => {
    await desk.letGo(record.id, 'let go');
    void notify(`${craft.name} was let go.`, {
      label: 'Bring it back',
      onClick: () => void bringCraftBack(record.id),
    });
  };
  return (
    <li className="flex flex-col rounded-[4px] border border-line bg-sheet">
      <button
        type="button"
        disabled={busy}
        onClick={() => void open()}
        className="flex min-w-0 flex-1 flex-col px-[16px] pt-3 text-left hover:bg-lake-wash"
      >
        <CraftPlan airframe={craft.airframe} className="h-[96px] w-full" />
        <b className="mt-1 w-full truncate font-semibold text-[16px]" title={craft.name}>
          {craft.name}
        </b>
        <span className="w-full truncate text-[13px] text-soft">
          {kindNames[craft.airframe.kind]}, {boardTitle(craft.board)}
        </span>
        <span className="text-[13px] text-faint">
          {here ? 'open here; ' : ''}
          {of > 0 ? `${done} of ${of} stations done` : 'just begun'}; {dayOf(record.savedAt)}
          {record.demo ? '; the demo, with honest mistakes' : ''}
        </span>
      </button>
      <span className="flex gap-4 px-[16px] pt-1 pb-2.5 text-[13px]">
        <TextButton
          tone="soft"
          onClick={() => saveText(`${slug(craft.name)}.wanderweg.json`, 'application/json', record.craft)}
        >
          Save as a file
        </TextButton>
        <TextButton tone="soft" disabled={busy} onClick={() => void letGo()}>
          Let go
        </TextButton>
      </span>
    </li>
  );
}

/** Brings back the craft of that row that was let go last. */
async function bringCraftBack(id: string): Promise<void> {
  await desk.list();
  const { replaced } = (await import('../store/store.ts')).store.getState().crafts.listed;
  const gone = replaced.find((r) => typeof r.what !== 'string' && r.what.id === id);
  if (gone) await desk.bringBack(gone.id);
}

function Gone({ gone, busy, onOpen }: Props & { readonly gone: Replaced }) {
  const bring = async () => {
    if (gone.kind === 'craft') await onOpen(() => desk.bringBack(gone.id));
    else {
      await bringSiteBack(gone);
      void notify(`The site ${gone.name} is as it was.`);
    }
  };
  return (
    <li className="flex items-baseline gap-3 border-line border-b py-1.5">
      <b className="min-w-0 truncate font-medium" title={gone.name}>
        {gone.name}
      </b>
      <span className="text-soft">
        {gone.kind}, {gone.why} {dayOf(gone.at)}
      </span>
      <span className="ml-auto flex shrink-0 gap-4">
        <TextButton disabled={busy} onClick={() => void bring()}>
          Bring back
        </TextButton>
        <TextButton tone="soft" disabled={busy} onClick={() => void desk.forget('replaced', gone.id)}>
          For good
        </TextButton>
      </span>
    </li>
  );
}

function PutAside({ aside }: { readonly aside: Aside }) {
  return (
    <li className="border-line border-b py-1.5">
      <p>
        <span className="text-soft">{dayOf(aside.at)}:</span> {aside.why}
      </p>
      <span className="flex gap-4">
        <TextButton
          onClick={() =>
            saveText(
              `put-aside-${aside.id}.json`,
              'application/json',
              `${JSON.stringify(aside.raw, null, 2)}\n`,
            )
          }
        >
          Save it as a file
        </TextButton>
        <TextButton tone="soft" onClick={() => void desk.forget('aside', aside.id)}>
          Let it go for good
        </TextButton>
      </span>
    </li>
  );
}
