import type { Progress } from '../legs/station.ts';

interface Props {
  readonly progress: Progress;
  readonly here: boolean;
  readonly size?: number;
}

/** The mark of a leg or station: hollow when open, washed when set, filled when proven; stale is broken, blocked is barred. */
export function Waymark({ progress, here, size = 16 }: Props) {
  const color =
    progress === 'stale' || progress === 'blocked'
      ? 'var(--red)'
      : progress === 'proven' || progress === 'set' || here
        ? 'var(--forest)'
        : 'var(--contour)';
  return (
    <svg width={size} height={size} viewBox="0 0 16 16" aria-hidden="true" className="shrink-0">
      <path
        d="M8 1 15 8 8 15 1 8Z"
        fill={progress === 'proven' ? color : progress === 'set' ? 'var(--forest-wash)' : 'var(--paper)'}
        stroke={color}
        strokeWidth={here ? 2 : 1.6}
        strokeDasharray={progress === 'stale' ? '2.4 1.8' : undefined}
      />
      {progress === 'proven' && (
        <path d="M5 8.200 7.200 10.300 11 6" fill="none" stroke="var(--on-forest)" strokeWidth="1.600" />
      )}
      {progress === 'blocked' && <path d="M5 8h6" stroke={color} strokeWidth="2" />}
      {here && progress !== 'proven' && progress !== 'blocked' && (
        <path d="M8 5 11 8 8 11 5 8Z" fill={color} />
      )}
    </svg>
  );
}
