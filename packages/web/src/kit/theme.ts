import type { ThemeConfig } from 'antd';
import { COLOURS, SANS, TYPE } from '../tokens/tokens.ts';

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
    colorBorder: COLOURS.edge,
    colorBorderSecondary: COLOURS.line,
    colorTextPlaceholder: COLOURS.inkFaint,
    fontFamily: SANS,
    fontSize: TYPE.body,
    borderRadius: 4,
    controlHeight: 30,
    motion: !still,
    motionDurationMid: '0.12s',
    motionDurationSlow: '0.16s',
  },
};
