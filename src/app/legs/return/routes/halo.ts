/** Letters on a map are told apart from what lies under them. */
export const halo = {
  paintOrder: 'stroke',
  stroke: 'var(--sheet)',
  strokeWidth: 0.6,
  strokeLinejoin: 'round',
} as const;
