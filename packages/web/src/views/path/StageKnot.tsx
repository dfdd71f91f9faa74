import { isTrouble, MODE_TABLE, type Mode, type Stage, type ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Fragment, type ReactNode } from 'react';
import clsx from 'clsx';
import { stageLetter } from '../../document/commands.ts';
import type { Layout } from '../../drawing/layout.ts';
import { partingX } from '../../drawing/ribbon.ts';
import { AddButton } from './AddButton.tsx';
import css from './drawing.module.css';

interface KnotProps {
  doc: ThreadDocument;
  layout: Layout;
  stage: Stage;
  half: number;
  point: { mode: Mode; outputVolts: number; outputAmps: number };
  selected: string | undefined;
  onSelect(id: string): void;
  onOpen(id: string): void;
  onAdd(from: string, what: string): void;
  /** renders the volts as an editable value, for stages that hold them */
  children: false | ((volts: string, className: string | undefined) => ReactNode);
}

/** A stage on the drawing: its knot, its name, what it gives. */
export function StageKnot(props: KnotProps) {
  const { doc, layout, stage, half, point, selected, onSelect, onOpen, onAdd, children } = props;
  const { x, y } = layout.nodes.get(stage.id)!;
  const { radius, density } = layout;
  const { word, glyph } = MODE_TABLE[point.mode];
  const trouble = isTrouble(point.mode);
  const above = Math.max(half, 6);
  const volts = formatQuantity(point.outputVolts, 'V');
  const voltsClass = clsx(css.voltsValue, trouble && css.trouble);
  const dense = density === 'dense';
  return (
    <Fragment>
      {!dense && (
        <div
          className={clsx(css.label, css.knotName)}
          style={{ left: x - radius - 30, top: y - radius - 20, width: 2 * radius + 60 }}
          title={`${stage.name}, ${stage.grade}`}
          data-grade={stage.grade}
        >
          {stage.name}
        </div>
      )}
      <button
        type="button"
        data-knot={stage.id}
        className={clsx(
          css.knot,
          css[density],
          trouble && css.trouble,
          selected === stage.id && css.selected,
        )}
        style={{ left: x - radius, top: y - radius, width: 2 * radius, height: 2 * radius }}
        aria-label={`${stage.name}, ${word}`}
        aria-pressed={selected === stage.id}
        title="Double-click: its parts"
        onClick={() => onSelect(stage.id)}
        onDoubleClick={() => onOpen(stage.id)}
      >
        <b>{stageLetter(doc, stage.id)}</b>
        {!dense && <small>{density === 'compact' ? glyph : knotWord(glyph, word)}</small>}
      </button>
      <div
        className={clsx(css.label, css.volts, css[density])}
        style={
          dense
            ? { left: x - radius, top: y - Math.max(radius, above) - 17 }
            : { left: x + radius + 30, top: y - above - 22 }
        }
      >
        {dense && (
          <span className={css.beside} title={stage.name}>
            {stage.name}
          </span>
        )}
        {children ? children(volts, voltsClass) : <span className={voltsClass}>{volts}</span>}
        {dense && trouble && <span className={css.troubleWord}>{word}</span>}
      </div>
      {density === 'normal' && (
        <div
          className={clsx(css.label, css.amps)}
          style={{ left: x + radius + 30, top: y + above + 2, width: 70 }}
        >
          {formatQuantity(point.outputAmps, 'A')}
        </div>
      )}
      <AddButton
        x={partingX(layout, stage.id)}
        y={y}
        label={`Add to ${stage.name}`}
        onAdd={(what) => onAdd(stage.id, what)}
      />
    </Fragment>
  );
}

/** A knot is narrow: a long word stands without its glyph. */
function knotWord(glyph: string, word: string): string {
  return word.length > 6 ? word : `${glyph} ${word}`;
}
