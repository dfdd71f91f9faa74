import type { ThemeConfig } from 'antd';

/** The colours of the product. Never the only carrier of a meaning: a word, hatch or glyph goes with each. */
export const COLOURS = {
  paper: '#F7F4EC',
  sheet: '#FBF9F4',
  tray: '#EFEADD',
  line: '#DCD5C3',
  ink: '#1E2530',
  inkSoft: '#4B5362',
  inkFaint: '#5F6673',
  deep: '#1F3B3A',
  pine: '#1F6F5C',
  ribbon: '#4A8F7E',
  ember: '#D98A3D',
  emberInk: '#8F4E12',
  saffron: '#C9A227',
  saffronInk: '#76590A',
  madder: '#B4472F',
  slate: '#6F8FA8',
  slateInk: '#3F5F79',
  violet: '#6A4C93',
} as const;

export const FONT = "'Atkinson Hyperlegible Next Variable', 'Atkinson Hyperlegible Next', sans-serif";
export const MONO = "'Atkinson Hyperlegible Mono Variable', 'Atkinson Hyperlegible Mono', monospace";

/** Whoever asks the system for less motion gets none. */
const still = typeof matchMedia === 'function' && matchMedia('(prefers-reduced-motion: reduce)').matches;

/** Ant Design in the product's colours. */
export const theme: ThemeConfig = {
  token: {
    colorPrimary: COLOURS.pine,
    colorInfo: COLOURS.slateInk,
    colorSuccess: COLOURS.pine,
    colorWarning: COLOURS.saffron,
    colorError: COLOURS.madder,
    colorLink: COLOURS.pine,
    colorTextBase: COLOURS.ink,
    colorBgBase: COLOURS.sheet,
    colorBgLayout: COLOURS.paper,
    colorBorder: '#C9C1AE',
    colorBorderSecondary: COLOURS.line,
    colorTextPlaceholder: '#6B7280',
    fontFamily: FONT,
    fontSize: 13,
    borderRadius: 4,
    controlHeight: 30,
    motion: !still,
    motionDurationMid: '0.12s',
    motionDurationSlow: '0.16s',
  },
};
