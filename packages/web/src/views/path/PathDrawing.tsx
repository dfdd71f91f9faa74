import { isRegulated, PACK, type Edit, type ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import clsx from 'clsx';
import { Link } from 'react-router';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { DRAW_UNIT } from '../../document/commands.ts';
import { drawIn, MODE_UNIT, modeAt, setDraw } from '../../document/programme.ts';
import type { Layout } from '../../drawing/layout.ts';
import { drawRibbons } from '../../drawing/ribbon.ts';
import { PathSvg } from '../../drawing/PathSvg.tsx';
import { AddButton } from './AddButton.tsx';
import type { Commit } from '../../document/session.ts';
import type { Instant } from '../../drawing/sample.ts';
import { Label } from './Label.tsx';
import { LoadCard } from './LoadCard.tsx';
import { StageKnot } from './StageKnot.tsx';
import css from './drawing.module.css';

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
  const mode = modeAt(doc, instant.time);
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
    <div className={css.drawing} style={{ width: layout.width, height: layout.height }}>
      <PathSvg layout={layout} drawn={drawn} soc={instant.soc} charger={doc.charging !== undefined} />

      <Label x={22} y={cells.y - cells.height / 2 - 66} className={css.packLabel} width={190}>
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
        className={clsx(css.cellsButton, selected === 'pack' && css.selected)}
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
      {doc.charging && (
        <Label x={14} y={cellBottom + 62} className={css.chargerLabel} width={170}>
          <Link to="../charge">{doc.charging.source.name}, unplugged</Link>
        </Label>
      )}
      <button
        type="button"
        className={clsx(css.cutButton, selected === 'protection' && css.selected)}
        style={{ left: trunk.cut - 58, top: trunk.y - trunkHalf - 52 }}
        aria-pressed={selected === 'protection'}
        onClick={() => onSelect('protection')}
      >
        {doc.pack.protection ? 'protection + leads' : 'leads, no protection'}
      </button>
      <Label x={trunk.cut - 64} y={trunk.y - trunkHalf - 29} className={css.volts} width={58} end>
        {V(instant.cellVolts * doc.pack.series)}
      </Label>
      <Label x={trunk.cut + 8} y={trunk.y - trunkHalf - 29} className={css.volts} width={70}>
        {V(instant.packVolts)}
      </Label>
      <Label x={trunk.cut - 72} y={trunk.y + trunkHalf + 2} className={css.amps} width={66} end>
        {A(instant.packAmps)}
      </Label>
      <AddButton
        x={trunk.to + 2}
        y={trunk.y}
        label="Add to the pack's rail"
        onAdd={(what) => onAdd(PACK, what)}
      />

      {drawn.frays.filter(legible).map((f) => (
        <Label key={f.id} x={f.x - (f.id === 'cells' ? 26 : 8)} y={f.y + 1} className={css.heat} width={90}>
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
            ((volts: string, className: string | undefined) => (
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
        const { value, draw } = mode ? drawIn(load, mode.id) : { value: load[load.draw]!, draw: load.draw };
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
              label={`${load.name}, ${draw}`}
              value={value}
              unit={(mode ? MODE_UNIT : DRAW_UNIT)[draw]}
              {...(value === 0 && mode ? { shown: 'off' } : {})}
              onCommit={
                mode
                  ? (v) => commit(`Change ${load.name} in ${mode.name}`, setDraw(load, mode.id, v!))
                  : set(`Change ${load.name}`, ['loads', load.id, load.draw])
              }
            />
          </LoadCard>
        );
      })}
    </div>
  );
}
