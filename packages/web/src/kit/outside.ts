/** Places outside a thread. */
export const OUTSIDE = {
  shelf: { name: 'Shelf', to: '/' },
  cells: { name: 'Cells', to: '/cells' },
} as const;
