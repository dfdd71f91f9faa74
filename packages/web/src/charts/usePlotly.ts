import { useEffect, useRef, type RefObject } from 'react';
import { COLOURS, SANS, TYPE } from '../tokens/tokens.ts';
import type { Layout } from 'plotly.js';
import { changesOf, type Plain, type Shown } from './changes.ts';

/** What every chart looks like; a chart says only what is its own. */
const THEME = {
  showlegend: false,
  dragmode: false,
  paper_bgcolor: 'rgba(0,0,0,0)',
  plot_bgcolor: 'rgba(0,0,0,0)',
  font: { family: SANS, size: TYPE.small, color: COLOURS.inkFaint },
  hoverlabel: { font: { family: SANS, size: TYPE.note } },
};
const CONFIG = { displayModeBar: false, responsive: true };

/**
 * A chart in an element of the page. Plotly is loaded when the first one is there; a chart is drawn after the answers
 * around it have been painted, and later only what changed of it.
 * @param data traces; the same object while nothing changes
 * @param layout likewise, without what the theme says
 */
export function usePlotly(
  data: readonly Plain[],
  layout: Plain,
  still = false,
): RefObject<HTMLDivElement | null> {
  const holder = useRef<HTMLDivElement>(null);
  const shown = useRef<Shown | undefined>(undefined);
  useEffect(() => {
    const element = holder.current!;
    const gone = { yes: false };
    void afterPaint()
      .then(() => import('./plotly.ts'))
      .then(({ default: Plotly }) => {
        if (gone.yes) return;
        const last = shown.current;
        shown.current = { data, layout };
        const changes = last && changesOf(last, shown.current);
        if (!changes) {
          const config = { ...CONFIG, staticPlot: still };
          return void Plotly.react(
            element,
            data as object[],
            { ...THEME, ...layout } as Partial<Layout>,
            config,
          );
        }
        if (changes.data || changes.layout) {
          void Plotly.update(element, changes.data ?? {}, (changes.layout ?? {}) as Partial<Layout>);
        }
      });
    return () => {
      gone.yes = true;
    };
  }, [data, layout, still]);
  useEffect(() => {
    const element = holder.current!;
    return () => {
      shown.current = undefined;
      void import('./plotly.ts').then(({ default: Plotly }) => Plotly.purge(element));
    };
  }, []);
  return holder;
}

/** When the browser has painted what stands there now. */
function afterPaint(): Promise<void> {
  return new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
}
