import { useState, type RefObject } from 'react';
import { fileName, saveFile } from '../kit/files.ts';
import css from './charts.module.css';

interface Props {
  of: RefObject<HTMLDivElement | null>;
  /** of the file, without its ending */
  name: string;
}

/** [px] width of an exported picture that its chart is scaled to, so that it prints well. */
const PRINTED = 1600;

/** The chart above as a picture. */
export function ChartExport({ of, name }: Props) {
  const [trouble, setTrouble] = useState<string | undefined>();
  const save = async (format: 'svg' | 'png') => {
    setTrouble(undefined);
    try {
      const { default: Plotly } = await import('./plotly.ts');
      const element = of.current!;
      const { clientWidth: width, clientHeight: height } = element;
      const url = await Plotly.toImage(element, { format, width, height, scale: PRINTED / width });
      const data = url.slice(url.indexOf(',') + 1);
      if (format === 'svg') saveFile(fileName(name, 'svg'), decodeURIComponent(data), 'image/svg+xml');
      else
        saveFile(
          fileName(name, 'png'),
          Uint8Array.from(atob(data), (c) => c.charCodeAt(0)),
          'image/png',
        );
    } catch (error) {
      setTrouble(`The picture could not be made: ${(error as Error).message}`);
    }
  };
  return (
    <span className={css.chartExport}>
      {trouble && <b role="alert">{trouble}</b>}
      {(['svg', 'png'] as const).map((format) => (
        <button
          key={format}
          type="button"
          aria-label={`${name} as ${format.toUpperCase()}`}
          onClick={() => void save(format)}
        >
          {format.toUpperCase()}
        </button>
      ))}
    </span>
  );
}
