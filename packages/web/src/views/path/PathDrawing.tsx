import {
  isRegulated,
  PACK,
  type Edit,
  type Load,
  type Stage,
  type ThreadDocument,
  MODE_TABLE,
  type Mode,
  isTrouble,
} from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Fragment, type ReactNode } from 'react';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { DRAW_UNIT, stageLetter } from '../../document/commands.ts';
import type { Layout } from '../../drawing/layout.ts';
import { drawRibbons, partingX } from '../../drawing/ribbon.ts';
import { PathSvg } from '../../drawing/PathSvg.tsx';
import { AddButton } from './AddButton.tsx';
import type { Commit } from '../../document/session.ts';
import type { Instant } from '../../drawing/sample.ts';
import './drawing.css';

interface Props {
  doc: ThreadDocument;
  layout: Layout;
  scale: number;
  instant: Instant;
  selected: string | undefined;
  onSelect(id: string): void;
  /** Look into a stage. */
  onOpen(id: string): void;
  onAdd(from: string, what: string): void;
  commit: Commit;
}

const V = (v: number) => formatQuantity(v, 'V');
const A = (a: number) => formatQuantity(a, 'A');
const W = (w: number) => formatQuantity(w, 'W', 2);

/** The thread: ribbon, knots and what they read at the needle, with every value editable where it stands. */
export function PathDrawing(props: Props) {
  const { doc, layout, scale, instant, selected, onSelect, onOpen, onAdd, commit } = props;
  const drawn = drawRibbons(layout, instant.flows, scale);
  const { cells, trunk } = layout;
  const set = (label: string, path: Edit['path']) => (value: number | undefined) =>
    commit(label, [{ op: 'replace', path, value }]);
  const trunkHalf = Math.max(14, drawn.half.get(PACK) ?? 0);
  const cellBottom = cells.y + cells.height / 2;
  // Where rows are dense, losses too small to see, and those right above another knot, stay without their
  // number; the inspector has it.
  const legible = (f: { id: string; watts: number }) => {
    const node = layout.nodes.get(f.id);
    if (layout.density !== 'dense' || !node) return true;
    const crowded = [...layout.nodes.values()].some(
      (n) => n.kind === 'stage' && n.x === node.x && n.y > node.y && n.y - node.y < 66,
    );
    return !crowded && f.watts * scale > 1.2;
  };
  return (
    <div className="drawing" style={{ width: layout.width, height: layout.height }}>
      <PathSvg layout={layout} drawn={drawn} soc={instant.soc} charger={doc.pack.charger !== undefined} />

      <Label x={22} y={cells.y - cells.height / 2 - 66} className="pack-label" width={190}>
        <b>
          <EditableQuantity
            label="Cells in series"
            value={doc.pack.series}
            unit=""
            shown={`${doc.pack.series}S`}
            onCommit={set('Change cells in series', ['pack', 'series'])}
          />
          <EditableQuantity
            label="Cells in parallel"
            value={doc.pack.parallel}
            unit=""
            shown={`${doc.pack.parallel}P`}
            onCommit={set('Change cells in parallel', ['pack', 'parallel'])}
          />
          {' · '}
          {formatQuantity(doc.pack.cell.capacityAh * doc.pack.parallel, 'Ah')}
        </b>
        <span>
          cells at {V(instant.cellVolts)} · {Math.round(instant.soc * 100)} % left
        </span>
      </Label>
      <button
        type="button"
        className={`cells-button ${selected === 'pack' ? 'selected' : ''}`}
        style={{
          left: cells.x - 6,
          top: cells.y - cells.height / 2 - 10,
          width: cells.width + 12,
          height: cells.height + 16,
        }}
        aria-label={`Pack: ${doc.pack.series} cells in series, ${doc.pack.parallel} in parallel`}
        aria-pressed={selected === 'pack'}
        onClick={() => onSelect('pack')}
      />
      {doc.pack.charger && (
        <Label x={14} y={cellBottom + 62} className="charger-label" width={150}>
          <span>{doc.pack.charger.name}, unplugged</span>
        </Label>
      )}
      <button
        type="button"
        className={`cut-button ${selected === 'protection' ? 'selected' : ''}`}
        style={{ left: trunk.cut - 58, top: trunk.y - trunkHalf - 52 }}
        aria-pressed={selected === 'protection'}
        onClick={() => onSelect('protection')}
      >
        {doc.pack.protection ? 'protection + leads' : 'leads, no protection'}
      </button>
      <Label x={trunk.cut - 64} y={trunk.y - trunkHalf - 29} className="volts" width={58} end>
        {V(instant.cellVolts * doc.pack.series)}
      </Label>
      <Label x={trunk.cut + 8} y={trunk.y - trunkHalf - 29} className="volts" width={70}>
        {V(instant.packVolts)}
      </Label>
      <Label x={trunk.cut - 72} y={trunk.y + trunkHalf + 2} className="amps" width={66} end>
        {A(instant.packAmps)}
      </Label>
      <AddButton
        x={trunk.to + 2}
        y={trunk.y}
        label="Add to the pack's rail"
        onAdd={(what) => onAdd(PACK, what)}
      />

      {drawn.frays.filter(legible).map((f) => (
        <Label key={f.id} x={f.x - (f.id === 'cells' ? 26 : 8)} y={f.y + 1} className="heat" width={90}>
          {W(f.watts)}
          {f.id === 'cells' && ' in cells'}
        </Label>
      ))}

      {doc.stages.map((stage) => (
        <StageKnot
          key={stage.id}
          {...{ doc, layout, stage, selected, onSelect, onOpen, onAdd }}
          half={drawn.half.get(stage.id) ?? 0}
          point={instant.stages.get(stage.id)!}
        >
          {isRegulated(stage) &&
            ((volts: string, className: string) => (
              <EditableQuantity
                label={`${stage.name}, output volts`}
                value={stage.outputVolts}
                unit="V"
                shown={volts}
                className={className}
                onCommit={set(`Change ${stage.name}`, ['stages', stage.id, 'outputVolts'])}
              />
            ))}
        </StageKnot>
      ))}

      {doc.loads.map((load) => {
        const { x, y } = layout.nodes.get(load.id)!;
        const now = instant.loads.get(load.id)!;
        return (
          <LoadCard
            key={load.id}
            {...{ load, now, selected, onSelect }}
            x={x}
            y={y}
            height={layout.card.height}
            width={layout.card.width}
          >
            <EditableQuantity
              label={`${load.name}, ${load.draw}`}
              value={load[load.draw]}
              unit={DRAW_UNIT[load.draw]}
              onCommit={set(`Change ${load.name}`, ['loads', load.id, load.draw])}
            />
          </LoadCard>
        );
      })}
    </div>
  );
}

interface LabelProps {
  x: number;
  y: number;
  width: number;
  className: string;
  /** text ends at x + width */
  end?: boolean;
  children: ReactNode;
}

function Label({ x, y, width, className, end, children }: LabelProps) {
  return (
    <div className={`label ${className} ${end ? 'end' : ''}`} style={{ left: x, top: y, width }}>
      {children}
    </div>
  );
}

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
  children: false | ((volts: string, className: string) => ReactNode);
}

function StageKnot(props: KnotProps) {
  const { doc, layout, stage, half, point, selected, onSelect, onOpen, onAdd, children } = props;
  const { x, y } = layout.nodes.get(stage.id)!;
  const { radius, density } = layout;
  const { word, glyph } = MODE_TABLE[point.mode];
  const trouble = isTrouble(point.mode);
  const above = Math.max(half, 6);
  const volts = V(point.outputVolts);
  const voltsClass = trouble ? 'volts-value trouble' : 'volts-value';
  const dense = density === 'dense';
  return (
    <Fragment>
      {!dense && (
        <div
          className="label knot-name"
          style={{ left: x - radius - 30, top: y - radius - 20, width: 2 * radius + 60 }}
          title={stage.name}
        >
          {stage.name}
        </div>
      )}
      <button
        type="button"
        data-knot={stage.id}
        className={`knot ${density} ${trouble ? 'trouble' : ''} ${selected === stage.id ? 'selected' : ''}`}
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
        className={`label volts ${density}`}
        style={
          dense
            ? { left: x - radius, top: y - Math.max(radius, above) - 17 }
            : { left: x + radius + 30, top: y - above - 22 }
        }
      >
        {dense && (
          <span className="beside" title={stage.name}>
            {stage.name}
          </span>
        )}
        {children ? children(volts, voltsClass) : <span className={voltsClass}>{volts}</span>}
        {dense && trouble && <span className="trouble-word">{word}</span>}
      </div>
      {density === 'normal' && (
        <div className="label amps" style={{ left: x + radius + 30, top: y + above + 2, width: 70 }}>
          {A(point.outputAmps)}
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

interface CardProps {
  load: Load;
  now: { volts: number; amps: number; state: 'in' | 'low' | 'high' };
  x: number;
  y: number;
  width: number;
  height: number;
  selected: string | undefined;
  onSelect(id: string): void;
  children: ReactNode;
}

function LoadCard({ load, now, x, y, width, height, selected, onSelect, children }: CardProps) {
  const out = now.state !== 'in';
  const words = now.state === 'low' ? 'too low' : 'too high';
  return (
    <div
      className={`load ${height < 40 ? 'one-line' : ''} ${out ? 'trouble' : ''} ${selected === load.id ? 'selected' : ''}`}
      style={{ left: x, top: y - height / 2, width, height }}
      data-load={load.id}
    >
      <button
        type="button"
        className="load-name"
        aria-pressed={selected === load.id}
        onClick={() => onSelect(load.id)}
      >
        {load.name}
      </button>
      <span className="load-values">
        {out ? (
          <>
            <i aria-hidden="true">✕</i>{' '}
            {height < 40 ? `${V(now.volts)}, ${words}` : `${words} for ${range(load)}`}
          </>
        ) : (
          <>
            {V(now.volts)} · {children}
          </>
        )}
      </span>
    </div>
  );
}

/** A knot is narrow: a long word stands without its glyph. */
function knotWord(glyph: string, word: string): string {
  return word.length > 6 ? word : `${glyph} ${word}`;
}

/** The range in few characters: `4.9–5.3 V`. */
function range({ range: { min, max } }: Load): string {
  return `${Number(min.toPrecision(3))}–${Number(max.toPrecision(3))} V`;
}
