import type { ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import clsx from 'clsx';
import { useEffect, useMemo, useState } from 'react';
import { stageLetter } from '../../document/commands.ts';
import { layoutPath, type Layout } from '../../drawing/layout.ts';
import { PathSvg } from '../../drawing/PathSvg.tsx';
import { drawRibbons, pixelsPerWatt } from '../../drawing/ribbon.ts';
import { useWidth } from '../../kit/useWidth.ts';
import { keyIsTaken } from '../../kit/useNeedleKeys.ts';
import { elementName } from '../../kit/words.ts';
import { unrolled, type Astray } from './unrolled.ts';
import css from './ledger.module.css';

const wh = (joules: number) => formatQuantity(joules / SECONDS_PER_HOUR, 'Wh', 3);

/** px of a row with its fray and its words, and what is above and below all rows. */
const ROW = 118;
const AROUND = 54;
const LEAST_WIDTH = 760;
/** A ribbon takes at most so much of its row: below it hangs its loss. */
const OF_ROW = 0.34;
/** Smallest scale at which the whole is shown; beyond it the drawing scrolls. */
const SMALLEST = 0.72;

/** Names of what stands before the first rail. */
const BEFORE: Record<string, string> = { cells: 'in the cells', protection: 'board, leads' };

/** Where every watt-hour went: the thread with the whole run on it, and one loss opened to its mechanisms. */
export function LedgerThread({ doc, run }: { doc: ThreadDocument; run: RunResult }) {
  const { stored, left } = run.ledger;
  const all = useMemo(() => unrolled(doc, run.ledger), [doc, run]);
  const layout = useMemo(() => ledgerLayout(doc), [doc]);
  const drawn = useMemo(() => {
    const branch = Math.max(0, ...all.flows.loads.values());
    const scale = Math.min(
      pixelsPerWatt(layout, all.flows.pack.inside, branch),
      (OF_ROW * layout.pitch) / (branch || 1),
    );
    return drawRibbons(layout, all.flows, scale);
  }, [layout, all]);
  const [area, room] = useWidth<HTMLDivElement>(LEAST_WIDTH);
  const zoom = Math.max(SMALLEST, Math.min(1, room / layout.width));
  const [chosen, setChosen] = useState<string>();
  const open = all.astray.find((a) => a.id === chosen) ?? largest(all.astray);
  useNextLoss(all.astray, open?.id, setChosen);
  const percent = (joules: number) =>
    `${(100 * (joules / stored)).toFixed(joules < 0.01 * stored ? 2 : 1)} %`;
  const { cells, trunk, nodes, card, radius } = layout;
  const half = Math.max(12, drawn.half.get('pack') ?? 0);
  return (
    <div className={css.unrolled} ref={area}>
      <div className={css.drawing} style={{ width: layout.width, height: layout.height, zoom }}>
        <PathSvg layout={layout} drawn={drawn} soc={left / stored} charger={false} />
        <p className={css.words} style={{ left: cells.x - 8, top: cells.y - cells.height / 2 - 56 }}>
          <b>{wh(stored)}</b> stored
          <br />
          <b>{wh(left)}</b> left in the cells
        </p>
        <p className={clsx(css.words, css.end)} style={{ left: trunk.cut - 166, top: trunk.y - half - 23 }}>
          <b>{wh(all.flows.pack.path)}</b> to the rails
        </p>
        {drawn.frays.map((f) => {
          const at = all.astray.find((a) => a.id === f.id);
          return (
            at && (
              <button
                key={f.id}
                type="button"
                className={clsx(css.loss, open?.id === f.id && css.open)}
                style={{ left: f.x - (f.id === 'cells' ? 26 : 8), top: f.y + 1 }}
                aria-pressed={open?.id === f.id}
                aria-label={`Lost in ${lossName(doc, f.id)}: ${wh(at.joules)}, ${percent(at.joules)}`}
                onClick={() => setChosen(f.id)}
              >
                {BEFORE[f.id] && <span>{BEFORE[f.id]}</span>}
                {wh(at.joules)} <small>{percent(at.joules)}</small>
              </button>
            )
          );
        })}
        {doc.stages.map((stage) => {
          const { x, y } = nodes.get(stage.id)!;
          return (
            <div key={stage.id}>
              <span className={css.knot} style={{ left: x - radius, top: y - radius, width: 2 * radius }}>
                {stageLetter(doc, stage.id)}
              </span>
              {layout.density !== 'dense' && (
                <span className={css.name} style={{ left: x - radius - 34, top: y - radius - 20 }}>
                  {stage.name}
                </span>
              )}
            </div>
          );
        })}
        {doc.loads.map((load) => {
          const { y } = nodes.get(load.id)!;
          const joules = all.flows.loads.get(load.id)!;
          return (
            <div
              key={load.id}
              className={clsx(css.load, card.height < 40 && css.oneLine)}
              style={{ left: card.x, top: y - card.height / 2, width: card.width, height: card.height }}
            >
              <b title={load.name}>{load.name}</b>
              <span>
                {wh(joules)} · {percent(joules)}
              </span>
            </div>
          );
        })}
      </div>
      {open && <Opened {...{ doc, open, percent }} />}
    </div>
  );
}

interface OpenedProps {
  doc: ThreadDocument;
  open: Astray;
  percent(joules: number): string;
}

/** One loss by its mechanisms: a bar of its parts, and each in words. */
function Opened({ doc, open, percent }: OpenedProps) {
  return (
    <div className={css.opened} aria-live="polite">
      <b>{lossName(doc, open.id)}</b>
      <div className={css.parts} aria-hidden="true">
        {open.parts.map((p, k) => (
          <i key={k} data-shade={k % SHADES} style={{ flexGrow: p.joules / open.joules }} />
        ))}
      </div>
      <span>{wh(open.joules)}</span>
      <ul>
        {open.parts.map((p, k) => (
          <li key={k} data-shade={k % SHADES}>
            {p.element === open.id ? '' : `${elementName(doc, p.element)}, `}
            {p.mechanism} <b>{wh(p.joules)}</b> {percent(p.joules)}
          </li>
        ))}
      </ul>
      <small>Click another loss to open it; l goes on to the next.</small>
    </div>
  );
}

/** Tints that are told apart side by side. */
const SHADES = 4;

function lossName(doc: ThreadDocument, id: string): string {
  if (id === 'protection') return 'Board, leads, fuse';
  return elementName(doc, id);
}

function largest(astray: readonly Astray[]): Astray | undefined {
  return astray.reduce<Astray | undefined>(
    (most, a) => (most && most.joules >= a.joules ? most : a),
    undefined,
  );
}

function ledgerLayout(doc: ThreadDocument): Layout {
  return layoutPath(doc, LEAST_WIDTH, AROUND + ROW * Math.max(2, doc.loads.length));
}

/** l opens the next loss along the thread. */
function useNextLoss(astray: readonly Astray[], now: string | undefined, choose: (id: string) => void) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'l' || keyIsTaken(event) || astray.length === 0) return;
      event.preventDefault();
      choose(astray[(astray.findIndex((a) => a.id === now) + 1) % astray.length]!.id);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [astray, now, choose]);
}
