/** How far something is. @param share 0 to 1 */
export function Bar({ share, className = '' }: { readonly share: number; readonly className?: string }) {
  return (
    <span className={`block h-1 bg-sunk ${className}`} aria-hidden="true">
      <i className="block h-1 bg-lake" style={{ width: `${100 * Math.min(1, Math.max(0, share))}%` }} />
    </span>
  );
}
