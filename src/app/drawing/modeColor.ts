/** The colour of a stretch of a track by the mode that it was flown in. */
export const modeColor = (mode: string): string =>
  mode === 'return' ? 'var(--forest)' : mode === 'level' ? 'var(--lake)' : 'var(--yaw)';
