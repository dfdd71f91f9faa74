/** Parts of the way from the source to the pack whose figures can be opened. */
export type FigurePart = 'source' | 'cable' | 'charger';

/** What they are called over their figures. */
export const BoardNames: Readonly<Record<FigurePart, string>> = {
  source: 'Source',
  cable: 'Cable and loads',
  charger: 'Charger',
};
