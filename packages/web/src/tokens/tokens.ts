/**
 * Colours, sizes and type of the product, written once: the theme, the charts and, as custom properties of the page, the
 * style sheets read them here. A colour is never the only carrier of a meaning: a word, hatch or glyph goes with each.
 */
export const COLOURS = {
  paper: '#F7F4EC',
  sheet: '#FBF9F4',
  white: '#FFFFFF',
  tray: '#EFEADD',
  line: '#DCD5C3',
  lineSoft: '#E7E1D3',
  edge: '#C9C1AE',
  ink: '#1E2530',
  inkSoft: '#4B5362',
  inkFaint: '#5F6673',
  ghost: '#8A8F98',
  deep: '#1F3B3A',
  deepEdge: '#6B948D',
  deepLine: '#7FA39B',
  deepOff: '#3F5E5B',
  deepOffInk: '#8FA9A4',
  deepSoft: '#B4CDC7',
  cream: '#F3EFE3',
  pine: '#1F6F5C',
  pineWash: '#EEF5F1',
  pineTint: '#D7E6DF',
  ribbon: '#4A8F7E',
  ribbonSoft: '#9CC5BA',
  ember: '#D98A3D',
  emberInk: '#8F4E12',
  saffron: '#C9A227',
  saffronInk: '#76590A',
  saffronWash: '#F4ECD2',
  saffronEdge: '#D9C98F',
  madder: '#B4472F',
  madderInk: '#9D3A24',
  madderWash: '#FBEEE9',
  slate: '#6F8FA8',
  slateInk: '#3F5F79',
  violet: '#6A4C93',
  stone: '#555555',
  stoneSoft: '#777777',
} as const;

/** Efficiency from low to high: light to dark, told apart by everyone. */
export const SCALE = ['#EDE7D8', '#E9D6AE', '#CFCFA0', '#86AE95', '#48897A', '#1F6556'] as const;

/** Tones of losses, in the order of their bar. */
export const EMBERS = [
  '#D98A3D',
  '#C47626',
  '#A85E16',
  '#E2A765',
  '#EBC08E',
  '#F0D3AE',
  '#CFC19C',
  '#B98A4E',
] as const;

export const SANS = "'Atkinson Hyperlegible Next Variable', 'Atkinson Hyperlegible Next', sans-serif";
export const MONO = "'Atkinson Hyperlegible Mono Variable', 'Atkinson Hyperlegible Mono', monospace";

/** [px] of type */
export const TYPE = {
  tiny: 11,
  small: 11.5,
  note: 12,
  list: 12.5,
  body: 13,
  lead: 14,
  title: 15,
  answer: 17,
  display: 22,
} as const;

/** [px] up to which the application is laid out for a telephone */
export const NARROW = 820;

/** All of it as custom properties: `--ink-soft`, `--type-small`, `--sans`. */
export function customProperties(): string {
  const kebab = (name: string) => name.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`);
  const colours = Object.entries(COLOURS).map(([name, value]) => `--${kebab(name)}:${value}`);
  const sizes = Object.entries(TYPE).map(([name, px]) => `--type-${name}:${px}px`);
  return `:root{${[...colours, ...sizes, `--sans:${SANS}`, `--mono:${MONO}`].join(';')}}`;
}
