import { lackingOf } from '../../board/lacking.ts';
import { useSampled } from '../../live/hooks.ts';
import { otherTelemetry } from '../../live/telemetry.ts';
import { useApp } from '../../store/store.ts';

/** What a board does not have of all that is asked here, and what it tells besides. */
export function OfItsOwn() {
  const { identity, unreadable } = useApp((s) => s.board);
  const others = useSampled(otherTelemetry, 500);
  if (!identity) return null;
  const lacking = lackingOf(identity.can);
  if (lacking.length === 0 && others.length === 0 && unreadable === 0) return null;
  return (
    <section className="mt-4 max-w-[640px]" aria-label="What is its own way">
      <p className="label">What is its own way</p>
      {lacking.length > 0 && (
        <p className="mt-1 text-[13px]">
          Its firmware cannot {lacking.slice(0, -1).join(', ')}
          {lacking.length > 1 ? ' or ' : ''}
          {lacking.at(-1)}. What needs that says so.
        </p>
      )}
      {unreadable > 0 && (
        <p className="mt-1 text-[13px] text-amber">
          {unreadable === 1 ? '1 of its settings' : `${unreadable} of its settings`} could not be read and{' '}
          {unreadable === 1 ? 'is' : 'are'} not shown; nothing here changes {unreadable === 1 ? 'it' : 'them'}
          .
        </p>
      )}
      {others.length > 0 && (
        <dl className="mt-1 grid grid-cols-[86px_minmax(0,1fr)] gap-x-3 text-[13px]">
          {others.map(([group, text]) => (
            <div key={group} className="contents">
              <dt className="text-soft">{group}</dt>
              <dd className="num truncate" title={text}>
                {text}
              </dd>
            </div>
          ))}
        </dl>
      )}
    </section>
  );
}
