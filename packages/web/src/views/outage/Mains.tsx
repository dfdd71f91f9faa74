import { MOST_OUTAGES, type Backup } from '@mile-thread/core/model';
import { formatDuration } from '@mile-thread/core/units';
import { useMemo, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { MARGIN } from '../../charts/RunPlot.tsx';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { useWidth } from '../../kit/useWidth.ts';
import { dragged, labelled } from './model.ts';
import css from './mains.module.css';

/** [px] a label takes, and how many lie above each other. */
const LABEL = 84;
const LABEL_ROWS = 2;

/** Outages as blocks that are moved, stretched, added, typed and taken away. */
export function Mains({ backup, commit }: { backup: Backup; commit: Commit }) {
  const [lane, width] = useWidth<HTMLDivElement>(800);
  const { span, outages } = backup;
  const [moved, setMoved] = useState<{ k: number; from: number; hours: number } | undefined>();
  const [fresh, setFresh] = useState<{ begun: number; from: number; hours: number } | undefined>();
  const put = (label: string, next: Backup['outages']) =>
    commit(label, [
      { op: 'replace', path: ['backup', 'outages'], value: [...next].sort((a, b) => a.from - b.from) },
    ]);
  const grip = (k: number, what: 'whole' | 'begin' | 'end') => ({
    onPointerDown: (e: PointerEvent<HTMLElement>) => {
      e.stopPropagation();
      e.currentTarget.setPointerCapture(e.pointerId);
      e.currentTarget.dataset.x = String(e.clientX);
    },
    onPointerMove: (e: PointerEvent<HTMLElement>) => {
      if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
      const lane = e.currentTarget.closest<HTMLElement>(`[data-lane]`)!;
      const by = ((e.clientX - Number(e.currentTarget.dataset.x)) / lane.clientWidth) * span;
      setMoved({ k, ...dragged(outages[k]!, what, by, span) });
    },
    onPointerUp: () => {
      if (moved && (moved.from !== outages[k]!.from || moved.hours !== outages[k]!.hours)) {
        const { from, hours } = moved;
        put(
          what === 'whole' ? 'Move an outage' : 'Stretch an outage',
          outages.map((o, n) => (n === k ? { from, hours } : o)),
        );
      }
      setMoved(undefined);
    },
  });
  const onKey = (k: number) => (e: KeyboardEvent) => {
    if (e.target !== e.currentTarget) return;
    const by = { ArrowLeft: -0.25, ArrowRight: 0.25 }[e.key];
    if (e.key === 'Delete') {
      put(
        'Take an outage away',
        outages.filter((_, n) => n !== k),
      );
    } else if (by !== undefined) {
      const to = dragged(outages[k]!, e.shiftKey ? 'end' : 'whole', by, span);
      put(
        e.shiftKey ? 'Stretch an outage' : 'Move an outage',
        outages.map((o, n) => (n === k ? to : o)),
      );
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  /** [h] of a place on the lane, to a quarter of an hour. */
  const hourAt = (e: { clientX: number; currentTarget: HTMLElement }) => {
    const box = e.currentTarget.getBoundingClientRect();
    const share = Math.min(1, Math.max(0, (e.clientX - box.left) / box.width));
    return Math.round(4 * span * share) / 4;
  };
  const drawn = (from: number, to: number) => ({ from: Math.min(from, to), hours: Math.abs(to - from) });
  /** A new one is drawn out on the bare lane. */
  const draw = {
    onPointerDown: (e: PointerEvent<HTMLElement>) => {
      if (e.target !== e.currentTarget || outages.length >= MOST_OUTAGES) return;
      e.currentTarget.setPointerCapture(e.pointerId);
      setFresh({ begun: hourAt(e), from: hourAt(e), hours: 0 });
    },
    onPointerMove: (e: PointerEvent<HTMLElement>) => {
      if (fresh) setFresh({ begun: fresh.begun, ...drawn(fresh.begun, hourAt(e)) });
    },
    onPointerUp: () => {
      if (fresh && fresh.hours > 0) {
        const { from, hours } = fresh;
        put('Draw an outage', [...outages, { from, hours }]);
      }
      setFresh(undefined);
    },
  };
  const add = (e: { clientX: number; currentTarget: HTMLElement }) => {
    if (outages.length >= MOST_OUTAGES) return;
    const from = hourAt(e);
    put('Add an outage', [...outages, { from: Math.min(from, span - 0.25), hours: Math.min(2, span / 10) }]);
  };
  const rows = useMemo(
    () =>
      labelled(
        outages.map((o) => ({ at: (width * o.from) / span, wide: LABEL })),
        LABEL_ROWS,
      ),
    [outages, width, span],
  );
  return (
    <div className={css.mainsRow}>
      <div
        className={css.mains}
        ref={lane}
        data-lane
        style={{ marginLeft: MARGIN.l, marginRight: MARGIN.r }}
        onDoubleClick={add}
        {...draw}
        role="group"
        aria-label="Mains"
      >
        <Recurs {...{ backup }} />
        {fresh && fresh.hours > 0 && (
          <i
            className={css.fresh}
            style={{ left: `${(100 * fresh.from) / span}%`, width: `${(100 * fresh.hours) / span}%` }}
          />
        )}
        {outages.map((o, k) => {
          const { from, hours } = moved?.k === k ? moved : o;
          return (
            <div
              key={k}
              className={css.gone}
              role="group"
              tabIndex={0}
              aria-label={`Outage ${k + 1}, ${formatDuration(hours)} from ${formatDuration(from)} on`}
              style={{
                left: `${(100 * from) / span}%`,
                width: `${(100 * Math.min(hours, span - from)) / span}%`,
              }}
              onKeyDown={onKey(k)}
              {...grip(k, 'whole')}
            >
              <i {...grip(k, 'begin')} />
              <i {...grip(k, 'end')} />
              <span
                data-row={rows[k] ?? 'aside'}
                onPointerDown={(e) => e.stopPropagation()}
                onDoubleClick={(e) => e.stopPropagation()}
              >
                <EditableQuantity
                  label={`Outage ${k + 1}, length`}
                  value={o.hours}
                  unit="h"
                  shown={formatDuration(hours)}
                  onCommit={(v) =>
                    commit('Change an outage', [
                      { op: 'replace', path: ['backup', 'outages', k, 'hours'], value: v },
                    ])
                  }
                />
              </span>
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** Outages that recur: behind those that are drawn, and not to be dragged. */
function Recurs({ backup: { recurring, span } }: { backup: Backup }) {
  if (!recurring) return null;
  const { from, hours, every } = recurring;
  const count = Math.max(0, Math.ceil((span - from) / every));
  return Array.from({ length: count }, (_, k) => (
    <i
      key={k}
      className={css.recurs}
      style={{
        left: `${(100 * (from + k * every)) / span}%`,
        width: `${(100 * Math.min(hours, span - from - k * every)) / span}%`,
      }}
    />
  ));
}

/** What recurs, as a sentence of figures. */
export function Recurring({ backup, commit }: { backup: Backup; commit: Commit }) {
  const { recurring } = backup;
  if (!recurring) {
    return (
      <button
        type="button"
        className="link"
        onClick={() =>
          commit('An outage that recurs', [
            { op: 'add', path: ['backup', 'recurring'], value: { from: 12, hours: 2, every: 24 } },
          ])
        }
      >
        + one that recurs
      </button>
    );
  }
  const set = (field: keyof typeof recurring) => (value: number | undefined) =>
    commit('Change what recurs', [{ op: 'replace', path: ['backup', 'recurring', field], value }]);
  return (
    <span>
      and every{' '}
      <EditableQuantity
        label="Recurs every"
        value={recurring.every}
        unit="h"
        shown={formatDuration(recurring.every)}
        onCommit={set('every')}
      />{' '}
      for{' '}
      <EditableQuantity
        label="Recurring, lasts"
        value={recurring.hours}
        unit="h"
        shown={formatDuration(recurring.hours)}
        onCommit={set('hours')}
      />{' '}
      from{' '}
      <EditableQuantity
        label="Recurring, first at"
        value={recurring.from}
        unit="h"
        shown={formatDuration(recurring.from)}
        onCommit={set('from')}
      />{' '}
      on{' '}
      <button
        type="button"
        className="link"
        aria-label="Nothing recurs"
        onClick={() => commit('Nothing recurs any more', [{ op: 'remove', path: ['backup', 'recurring'] }])}
      >
        ×
      </button>
    </span>
  );
}
