import type { ThreadDocument } from '@mile-thread/core/model';
import { readingOf, ROW, type RunResult } from '@mile-thread/core/solve';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { useEffect, useMemo, useState } from 'react';
import clsx from 'clsx';
import { AtNeedle } from '../../charts/AtNeedle.tsx';
import { LanesPlot } from '../../charts/LanesPlot.tsx';
import { NeedleOverlay } from '../../charts/NeedleOverlay.tsx';
import { MARGIN } from '../../charts/RunPlot.tsx';
import { plotEnd, timeTicks } from '../../charts/timeAxis.ts';
import { modeAt } from '../../document/programme.ts';
import { KEY_STEP, useNeedle } from '../../document/view.ts';
import type { Instant } from '../../drawing/sample.ts';
import { COLOURS } from '../../tokens/tokens.ts';
import { useNeedleKeys } from '../../kit/useNeedleKeys.ts';
import { useWorstKey } from '../../kit/useWorstKey.ts';
import { lanesOf, loadColour, stageBands, type Along } from './lanesModel.ts';
import css from './run.module.css';
import valuesCss from '../../kit/values.module.css';
import chartsCss from '../../charts/charts.module.css';

/** Ticks of the axis of charge drawn: what is left. */
const CHARGE_TICKS = {
  tickmode: 'array',
  tickvals: [0, 0.25, 0.5, 0.75, 1],
  ticktext: ['100 % left', '75 %', '50 %', '25 %', '0 %'],
};

/** The run in lanes above each other, with the needle. */
export function RunLanes({ doc, run }: { doc: ThreadDocument; run: RunResult }) {
  const [along, setAlong] = useState<Along>('time');
  const end = plotEnd(run);
  const { setEnd, moveTo } = useNeedle.getState();
  useEffect(() => setEnd(end), [end, setEnd]);
  useNeedleKeys();
  useWorstKey(doc);
  const plot = useMemo(() => lanesOf(doc, run, along), [doc, run, along]);
  const ticks = useMemo(
    () => (along === 'time' ? timeTicks(end / SECONDS_PER_HOUR) : CHARGE_TICKS),
    [along, end],
  );
  const marks = useMemo(() => {
    const reading = readingOf(run);
    const place = (time: number) =>
      along === 'time' ? time / SECONDS_PER_HOUR : 1 - reading.at(reading.rowAt(time), ROW.soc);
    const need = doc.goals.hours * SECONDS_PER_HOUR;
    return [
      ...(need < end ? [{ x: place(need), colour: COLOURS.ink }] : []),
      { x: place(run.usefulEnd.time), colour: COLOURS.madder },
    ];
  }, [doc, run, along, end]);
  return (
    <section className={css.lanes} aria-label="Run-down over time">
      <header>
        <h4>Run-down</h4>
        <span className={valuesCss.along} role="group" aria-label="Along what">
          {(['time', 'charge'] as const).map((by) => (
            <button key={by} type="button" aria-pressed={along === by} onClick={() => setAlong(by)}>
              over {by}
            </button>
          ))}
        </span>
        <span>dotted: need and useful end; drag the needle, ← →, or w for the worst instants</span>
      </header>
      <div className={clsx(chartsCss.runArea, css.lanesArea)}>
        <LanesPlot
          {...plot}
          ticks={ticks}
          marks={marks}
          label={`Pack volts, rails and power over ${formatDuration(end / SECONDS_PER_HOUR)}`}
          file={`${doc.name} run-down`}
        />
        <AtNeedle doc={doc} run={run}>
          {(instant) => {
            const onCharge = along === 'charge';
            return (
              <NeedleOverlay
                time={onCharge ? 1 - instant.soc : instant.time}
                end={onCharge ? plot.end : end}
                keyStep={KEY_STEP}
                reading={words(doc, instant)}
                onMove={onCharge ? (used) => moveTo(timeAt(run, 1 - used)) : moveTo}
              />
            );
          }}
        </AtNeedle>
      </div>
      {along === 'time' && <StageRows {...{ doc, run }} banded={plot.banded} />}
      {doc.loads.length > 0 && (
        <p className={css.laneKey}>
          {doc.loads.map((l, k) => (
            <span key={l.id}>
              <i style={{ background: loadColour(k) }} /> {l.name}
            </span>
          ))}
          <span>
            <i style={{ background: COLOURS.ember }} /> leaves the pack
          </span>
        </p>
      )}
    </section>
  );
}

/** How each stage works, as worded bands on the same axis. */
function StageRows({ doc, run, banded }: { doc: ThreadDocument; run: RunResult; banded: boolean }) {
  const stages = useMemo(() => stageBands(doc, run, banded), [doc, run, banded]);
  return (
    <div style={{ paddingRight: MARGIN.r }}>
      {stages.map(({ name, bands }) => (
        <div key={name} className={css.stageRow}>
          <b title={name} style={{ width: MARGIN.l }}>
            {name}
          </b>
          <div>
            {bands.map((b) => (
              <span
                key={b.from}
                className={clsx(b.trouble && css.trouble)}
                title={b.words}
                style={{ left: `${100 * b.from}%`, width: `${100 * (b.to - b.from)}%` }}
              >
                {b.words}
              </span>
            ))}
          </div>
        </div>
      ))}
    </div>
  );
}

/** [s] when so much charge is left, straight between rows. */
function timeAt(run: RunResult, soc: number): number {
  const reading = readingOf(run);
  let [low, high] = [0, reading.count - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (reading.at(middle, ROW.soc) > soc) low = middle;
    else high = middle;
  }
  const [a, b] = [reading.at(low, ROW.soc), reading.at(high, ROW.soc)];
  const share = a > b ? Math.min(1, Math.max(0, (a - soc) / (a - b))) : 0;
  return reading.time(low) + share * (reading.time(high) - reading.time(low));
}

function words(doc: ThreadDocument, instant: Instant): [string, string] {
  const mode = modeAt(doc, instant.time);
  return [
    `${formatDuration(instant.time / SECONDS_PER_HOUR)} · ${Math.round(instant.soc * 100)} % left`,
    `${mode ? `${mode.name} · ` : ''}${formatQuantity(instant.packVolts, 'V', 3)} · ${formatQuantity(instant.packVolts * instant.packAmps, 'W', 3)}`,
  ];
}
