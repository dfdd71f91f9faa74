import type { BackupAnswers, Who } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import clsx from 'clsx';
import { useEffect, useMemo, useRef } from 'react';
import { LanesPlot } from '../../charts/LanesPlot.tsx';
import { NeedleOverlay } from '../../charts/NeedleOverlay.tsx';
import { MARGIN } from '../../charts/RunPlot.tsx';
import { timeTicks } from '../../charts/timeAxis.ts';
import { KEY_STEP, useOutageNeedle } from '../../document/view.ts';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { useWidth } from '../../kit/useWidth.ts';
import { useNeedleKeys } from '../../kit/useNeedleKeys.ts';
import { COLOURS } from '../../tokens/tokens.ts';
import { Mains, Recurring } from './Mains.tsx';
import { lanesOf, strikes } from './model.ts';
import { useTransfer } from './useTransfer.ts';
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
    const path = doc.charging!.meanwhile === 'path';
    const heavy = path
      ? strikes(columns.hours, columns.amps, { ...found.asked, volts: found.rail.adapter }, backup.span)
      : { x: [], y: [] };
    const most = 1.15 * Math.max(found.adapter.limit, ...columns.amps, ...heavy.y.filter((v) => v > 0));
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
          title: path
            ? 'adapter current, strokes: heaviest; madder: all'
            : 'adapter current; madder: all it gives',
          unit: ' A',
          share: 0.3,
          range: [0, most] as [number, number],
          lines: [
            flat(found.adapter.limit, COLOURS.madder),
            { ...heavy, colour: COLOURS.ribbon, width: 1 },
            { y: columns.amps, colour: COLOURS.saffronInk, fill: 'floor' as const },
          ],
        },
        {
          title: 'volts of the loads; madder: least',
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
        <span>
          draw an outage out, move it, pull its ends; Delete takes it away; [ ] from one to the next
        </span>
        <Recurring {...{ backup, commit }} />
      </header>
      <Mains {...{ backup, commit }} />
      <Carries {...{ found, end }} />
      <div className={clsx(chartsCss.runArea, css.area)}>
        <LanesPlot
          {...plot}
          ticks={ticks}
          marks={[]}
          label={`Charge, adapter and volts over ${formatDuration(backup.span)}`}
          file={`${doc.name} outages`}
        />
        <Lens {...{ found, end }} />
        <Needle {...{ doc, found, end, columns }} />
      </div>
    </section>
  );
}

/** Who carries when; a stretch too short for its word has it on hover alone. */
function Carries({ found, end }: { found: BackupAnswers; end: number }) {
  const [lane, width] = useWidth<HTMLDivElement>(800);
  return (
    <div ref={lane} className={css.who} style={{ marginLeft: MARGIN.l, marginRight: MARGIN.r }}>
      {found.result.who.map((w) => {
        const share = (w.to - w.from) / end;
        return (
          <span
            key={w.from}
            data-who={w.what}
            style={{ left: `${(100 * w.from) / end}%`, width: `${100 * share}%` }}
            title={`${WHO[w.what]}, ${formatDuration((w.to - w.from) / SECONDS_PER_HOUR)}`}
          >
            {share * width > LETTER * WHO[w.what].length ? WHO[w.what] : ''}
          </span>
        );
      })}
    </div>
  );
}

/** [px] a letter of those words takes. */
const LETTER = 7;

/** A frame around the transfer that is opened below. */
function Lens({ found, end }: { found: BackupAnswers; end: number }) {
  const at = useTransfer(found);
  if (at === undefined || !found.dip) return null;
  const share = at / end;
  return (
    <i
      className={css.lens}
      style={{
        left: `calc(${MARGIN.l}px + ${share} * (100% - ${MARGIN.l + MARGIN.r}px))`,
        bottom: MARGIN.b,
      }}
    />
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
