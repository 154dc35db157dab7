import { when } from '../../history/words.ts';

interface Props {
  /** RFC 3339 */
  readonly at: string;
  /** What changed since; empty where nothing did. */
  readonly stale: string;
  /** How it ended. */
  readonly children: React.ReactNode;
}

/** What a rehearsal of an earlier visit showed: its verdict is kept with the craft, its track is not. */
export function LastFlown({ at, stale, children }: Props) {
  return (
    <p role="status" className="mt-2 text-soft">
      Last flown {when(at)}: <b className="font-medium text-ink">{children}</b>.
      {stale && <b className="font-medium text-red"> Since then {stale}.</b>}
    </p>
  );
}
