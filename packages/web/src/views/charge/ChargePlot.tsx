import { Reading, setVolts, type ChargeResult } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import clsx from 'clsx';
import { useMemo } from 'react';
import { LanesPlot, type LaneOfPlot } from '../../charts/LanesPlot.tsx';
import { NeedleOverlay } from '../../charts/NeedleOverlay.tsx';
import { MARGIN } from '../../charts/RunPlot.tsx';
import { timeTicks } from '../../charts/timeAxis.ts';
import { KEY_STEP, useChargeNeedle } from '../../document/view.ts';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { COLOURS } from '../../tokens/tokens.ts';
import { bandsOf, instantAt } from './model.ts';
import css from './chargePlot.module.css';
import chargeCss from './charge.module.css';
import chartsCss from '../../charts/charts.module.css';

interface Props {
  doc: ThreadDocument;
  charge: ChargeResult;
  /** [s] right end */
  end: number;
  commit: Commit;
}

/** Volts of a cell and current over the charge, phases worded, with the needle. */
export function ChargePlot({ doc, charge, end, commit }: Props) {
  const rows = useMemo(() => new Reading(charge.series), [charge]);
  const plot = useMemo(() => lanes(doc, rows, end), [doc, rows, end]);
  const bands = useMemo(() => bandsOf(charge, end), [charge, end]);
  const ticks = useMemo(() => timeTicks(end / SECONDS_PER_HOUR), [end]);
  const marks = useMemo(
    () =>
      charge.to80 === undefined || charge.to80 > end
        ? []
        : [{ x: charge.to80 / SECONDS_PER_HOUR, colour: COLOURS.ink }],
    [charge, end],
  );
  return (
    <section className={css.plot} aria-label="The charge over time">
      <header>
        <h4>Cell volts and current over the charge</h4>
        <span>
          from{' '}
          <EditableQuantity
            label="Charge begins at, per cent"
            value={100 * doc.charging!.from}
            unit="%"
            shown={
              doc.charging!.restVolts === undefined
                ? `${Math.round(100 * doc.charging!.from)} %`
                : `${formatQuantity(doc.charging!.restVolts, 'V', 3)} a cell`
            }
            other={{
              units: ['V'],
              hint: 'or volts of a cell at rest, such as 2.4 V',
              onCommit: (volts) =>
                commit('Change where the charge begins', [
                  {
                    op: doc.charging!.restVolts === undefined ? 'add' : 'replace',
                    path: ['charging', 'restVolts'],
                    value: volts,
                  },
                ]),
            }}
            onCommit={(v) =>
              commit('Change where the charge begins', [
                { op: 'replace', path: ['charging', 'from'], value: v! / 100 },
                ...(doc.charging!.restVolts === undefined
                  ? []
                  : [{ op: 'remove' as const, path: ['charging', 'restVolts'] }]),
              ])
            }
          />
          {charge.to80 !== undefined && ' · dotted: 80 %'}
        </span>
        <span className={chargeCss.space} />
        <span>drag the needle, or ← → with Shift for ten steps; p: next phase</span>
      </header>
      <div className={clsx(chartsCss.runArea, css.plotArea)}>
        <div
          className={css.bands}
          style={{ left: MARGIN.l, right: MARGIN.r, top: MARGIN.t }}
          aria-hidden="true"
        >
          {bands.map((b) => (
            <span
              key={b.from}
              data-kind={b.kind}
              style={{ left: `${(100 * b.from) / end}%`, width: `${(100 * (b.to - b.from)) / end}%` }}
              title={b.word}
            >
              {b.word}
            </span>
          ))}
        </div>
        <LanesPlot
          {...plot}
          ticks={ticks}
          marks={marks}
          label={`Cell volts and charge current over ${formatDuration(end / SECONDS_PER_HOUR)}`}
          file={`${doc.name} charge`}
        />
        <Needle {...{ doc, rows, end }} />
      </div>
    </section>
  );
}

function Needle({ doc, rows, end }: { doc: ThreadDocument; rows: Reading; end: number }) {
  const time = useChargeNeedle((s) => Math.min(s.time, end));
  const { moveTo } = useChargeNeedle.getState();
  const now = useMemo(() => instantAt(doc, rows, time), [doc, rows, time]);
  return (
    <NeedleOverlay
      time={time}
      end={end}
      keyStep={KEY_STEP}
      reading={[
        `${formatDuration(time / SECONDS_PER_HOUR)} · ${Math.round(100 * now.soc)} % full`,
        `${formatQuantity(now.cellVolts, 'V', 3)} a cell · ${formatQuantity(now.outAmps, 'A', 3)}`,
      ]}
      onMove={moveTo}
    />
  );
}

/** [V] room below the volts drawn, and share of them above for words. */
const ROOM = 0.08;
const WORDS = 0.2;

function lanes(doc: ThreadDocument, rows: Reading, until: number) {
  const count = rows.rowAt(until) + 1;
  const every = Array.from({ length: count }, (_, k) => k);
  const x = every.map((r) => rows.at(r, 'time') / SECONDS_PER_HOUR);
  const volts = every.map((r) => rows.at(r, 'cellVolts'));
  const rest = every.map((r) => rows.at(r, 'restVolts'));
  const amps = every.map((r) => rows.of(r, 'outAmps'));
  const { cell } = doc.pack;
  const full = cell.fullVolts;
  const low = Math.min(...rest, ...volts) - ROOM;
  // The phases' words stand above the volts.
  const top = Math.max(full, ...volts) + WORDS * (full - low);
  const end = until / SECONDS_PER_HOUR;
  const asked = doc.charging!.control?.sense === 'output' ? doc.charging!.control.current : undefined;
  const most = 1.12 * Math.max(1e-3, ...amps, asked ?? 0);
  const held = setVolts(doc.charging!);
  const set = held === undefined ? undefined : held / doc.pack.series;
  const flat = (y: number, colour: string, dash = true) => ({
    x: [0, end],
    y: [y, y],
    colour,
    width: 1.2,
    dash,
  });
  const made: LaneOfPlot[] = [
    {
      title: `volts a cell: with current, dashed at rest; madder: full ${formatQuantity(full, 'V', 3)}`,
      unit: ' V',
      share: 0.6,
      range: [low, top],
      lines: [
        { y: rest, colour: COLOURS.ghost, width: 1.3, dash: true },
        flat(full, COLOURS.madder),
        ...(set === undefined ? [] : [flat(set, COLOURS.saffron, false)]),
        { y: volts, colour: COLOURS.pine, width: 2.4 },
      ],
    },
    {
      title:
        asked === undefined
          ? 'current out of the charger'
          : 'current out of the charger; dashed: what is asked',
      unit: ' A',
      share: 0.4,
      range: [0, most],
      lines: [
        ...(asked === undefined ? [] : [flat(asked, COLOURS.saffronInk)]),
        { y: amps, colour: COLOURS.saffronInk, fill: 'floor' as const },
      ],
    },
  ];
  return { x, end, lanes: made };
}
