import type { BackupAnswers, Who } from '@mile-thread/core/charging';
import { MOST_OUTAGES, type Backup, type ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import clsx from 'clsx';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { LanesPlot } from '../../charts/LanesPlot.tsx';
import { NeedleOverlay } from '../../charts/NeedleOverlay.tsx';
import { MARGIN } from '../../charts/RunPlot.tsx';
import { timeTicks } from '../../charts/timeAxis.ts';
import { KEY_STEP, useOutageNeedle } from '../../document/view.ts';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { useNeedleKeys } from '../../kit/useNeedleKeys.ts';
import { COLOURS } from '../../tokens/tokens.ts';
import { dragged, lanesOf } from './model.ts';
import css from './outage.module.css';
import chartsCss from '../../charts/charts.module.css';

interface Props {
  doc: ThreadDocument;
  found: BackupAnswers;
  commit: Commit;
}

const WHO: Readonly<Record<Who, string>> = {
  adapter: 'adapter',
  both: 'both',
  battery: 'battery',
  nobody: '✕ nobody',
};

/** Mains, who carries, charge, adapter and rail over the timeline, on one axis. */
export function Lanes({ doc, found, commit }: Props) {
  const backup = doc.backup!;
  const end = backup.span * SECONDS_PER_HOUR;
  const { setEnd } = useOutageNeedle.getState();
  const { moveTo } = useOutageNeedle.getState();
  const placed = useRef(false);
  const first = found.rows.reduce((a, b) => (b.left < a.left ? b : a), found.rows[0]!);
  useEffect(() => {
    setEnd(end);
    // To begin with where the pack stands lowest.
    if (!placed.current && useOutageNeedle.getState().time === 0 && first) moveTo(first.to);
    placed.current = true;
  }, [end, setEnd, moveTo, first]);
  useNeedleKeys(useOutageNeedle);
  const columns = useMemo(() => lanesOf(doc, found), [doc, found]);
  const plot = useMemo(() => {
    const least = Math.max(0, ...doc.loads.filter((l) => l.essential).map((l) => l.range.min));
    const flat = (y: number, colour: string) => ({
      x: [0, backup.span],
      y: [y, y],
      colour,
      width: 1.2,
      dash: true,
    });
    const most = 1.15 * Math.max(found.adapter.limit, ...columns.amps);
    const top = 1.08 * Math.max(least, ...columns.volts);
    return {
      x: columns.hours,
      end: backup.span,
      lanes: [
        {
          title: 'state of charge',
          unit: '',
          share: 0.36,
          range: [0, 1.05] as [number, number],
          lines: [{ y: columns.soc, colour: COLOURS.pine, width: 2, fill: 'floor' as const }],
        },
        {
          title: 'adapter current; madder: all it gives',
          unit: ' A',
          share: 0.3,
          range: [0, most] as [number, number],
          lines: [
            flat(found.adapter.limit, COLOURS.madder),
            { y: columns.amps, colour: COLOURS.saffronInk, fill: 'floor' as const },
          ],
        },
        {
          title: 'volts of the loads; madder: least they work at',
          unit: ' V',
          share: 0.34,
          range: [0.75 * least, top] as [number, number],
          lines: [
            ...(least > 0 ? [flat(least, COLOURS.madder)] : []),
            { y: columns.volts, colour: COLOURS.pine, width: 2 },
          ],
        },
      ],
    };
  }, [doc, found, columns, backup.span]);
  const ticks = useMemo(() => timeTicks(backup.span), [backup.span]);
  return (
    <section className={css.lanes} aria-label="The timeline of mains">
      <header>
        <h4>
          <EditableQuantity
            label="Length of the timeline"
            value={backup.span}
            unit="h"
            shown={formatDuration(backup.span)}
            onCommit={(v) =>
              commit('Change the timeline', [
                { op: 'replace', path: ['backup', 'span'], value: v },
                {
                  op: 'replace',
                  path: ['backup', 'outages'],
                  value: backup.outages.filter((o) => o.from < v!),
                },
              ])
            }
          />{' '}
          of mains
        </h4>
        <span>drag an outage, pull its ends, double-click to add one; Delete takes it away</span>
        {found.result.byMean && <span>loads by the mean of their programme</span>}
      </header>
      <Mains {...{ backup, commit }} />
      <div className={css.who} style={{ marginLeft: MARGIN.l, marginRight: MARGIN.r }}>
        {found.result.who.map((w) => (
          <span
            key={w.from}
            data-who={w.what}
            style={{ left: `${(100 * w.from) / end}%`, width: `${(100 * (w.to - w.from)) / end}%` }}
            title={`${WHO[w.what]}, ${formatDuration((w.to - w.from) / SECONDS_PER_HOUR)}`}
          >
            {WHO[w.what]}
          </span>
        ))}
      </div>
      <div className={clsx(chartsCss.runArea, css.area)}>
        <LanesPlot
          {...plot}
          ticks={ticks}
          marks={[]}
          label={`Charge, adapter and volts over ${formatDuration(backup.span)}`}
          file={`${doc.name} outages`}
        />
        <Needle {...{ doc, found, end, columns }} />
      </div>
    </section>
  );
}

function Needle({
  end,
  found,
  columns,
}: Omit<Props, 'commit'> & { end: number; columns: ReturnType<typeof lanesOf> }) {
  const time = useOutageNeedle((s) => Math.min(s.time, end));
  const { moveTo } = useOutageNeedle.getState();
  let row = columns.hours.findIndex((h) => h * SECONDS_PER_HOUR > time) - 1;
  if (row < 0) row = row === -2 ? columns.hours.length - 1 : 0;
  const who = found.result.who.find((w) => time >= w.from && time <= w.to);
  return (
    <NeedleOverlay
      time={time}
      end={end}
      keyStep={KEY_STEP}
      reading={[
        `${formatDuration(time / SECONDS_PER_HOUR)} · ${Math.round(100 * columns.soc[row]!)} % left`,
        `${who ? WHO[who.what] : ''} · ${formatQuantity(columns.volts[row]!, 'V', 3)} · ${formatQuantity(columns.amps[row]!, 'A', 3)}`,
      ]}
      onMove={moveTo}
    />
  );
}

/** Outages as blocks that are moved, stretched, added, typed and taken away. */
function Mains({ backup, commit }: { backup: Backup; commit: Commit }) {
  const { span, outages } = backup;
  const [moved, setMoved] = useState<{ k: number; from: number; hours: number } | undefined>();
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
  const add = (e: { clientX: number; currentTarget: HTMLElement }) => {
    if (outages.length >= MOST_OUTAGES) return;
    const box = e.currentTarget.getBoundingClientRect();
    const from = Math.round((4 * span * (e.clientX - box.left)) / box.width) / 4;
    put('Add an outage', [...outages, { from: Math.min(from, span - 0.25), hours: Math.min(2, span / 10) }]);
  };
  return (
    <div className={css.mainsRow}>
      <div
        className={css.mains}
        data-lane
        style={{ marginLeft: MARGIN.l, marginRight: MARGIN.r }}
        onDoubleClick={add}
        role="group"
        aria-label="Mains"
      >
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
                data-high={k % 2 === 1 || undefined}
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
