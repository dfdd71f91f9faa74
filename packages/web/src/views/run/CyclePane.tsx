import { modeName, unfold, type ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { formatQuantity } from '@mile-thread/core/units';
import { useEffect, useMemo, useState } from 'react';
import { LinesPlot } from '../../charts/LinesPlot.tsx';
import { stretchShares } from '../../document/programme.ts';
import { useNeedle } from '../../document/view.ts';
import { sampleRun } from '../../drawing/sample.ts';
import { useAnswer } from '../../jobs/client.ts';
import { COLOURS } from '../../tokens/tokens.ts';
import css from './run.module.css';

/** [ms] the needle rests before the cycle under it is opened. */
const RESTS = 250;
/** Slices up to which each gets a width by its own time. */
const MANY_SLICES = 40;
/** Share of the width below which a slice has no words. */
const NARROW = 0.09;

/** State of charge under the needle, once it rests. */
function useRestingCharge(doc: ThreadDocument, run: RunResult): number {
  const time = useNeedle((s) => Math.min(s.time, s.end));
  const [soc, setSoc] = useState(() => sampleRun(doc, run, time).soc);
  useEffect(() => {
    const timer = setTimeout(() => setSoc(Number(sampleRun(doc, run, time).soc.toPrecision(4))), RESTS);
    return () => clearTimeout(timer);
  }, [doc, run, time]);
  return Math.min(1, Math.max(0.001, soc));
}

/** One cycle at the charge under the needle: milliseconds and hours side by side. */
export function CyclePane({ doc, run }: { doc: ThreadDocument; run: RunResult }) {
  const soc = useRestingCharge(doc, run);
  const { data } = useAnswer('cycle', [doc, soc]);
  const scale = useMemo(() => slicesOf(doc), [doc]);
  const x = useMemo(() => data?.seconds.map(scale.place) ?? [], [data, scale]);
  const lines = useMemo(
    () => ({
      volts: [{ name: 'pack', y: data?.volts ?? [], colour: COLOURS.pine }],
      watts: [
        {
          name: 'into the path',
          y: (data?.watts ?? []).map((w) => Math.max(w, 1e-6)),
          colour: COLOURS.ember,
        },
      ],
    }),
    [data],
  );
  if (!data) return null;
  const lowest = Math.min(...data.volts);
  return (
    <section className={css.cycle} aria-label="One cycle at the needle">
      <header>
        <h4>One cycle at the needle</h4>
        <span>
          {Math.round(100 * data.soc)} % left; lowest {formatQuantity(lowest, 'V', 3)}
          {data.through ? '' : '; it is not carried to its end'}
        </span>
      </header>
      <LinesPlot
        x={x}
        xUnit=""
        yUnit=" V"
        lines={lines.volts}
        fromZero={false}
        ticks={scale.ticks}
        label="Pack volts over one cycle"
        file={`${doc.name} one cycle, volts`}
      >
        {scale.bands.map((b) => (
          <span
            key={b.at}
            className={css.cycleBand}
            style={{ left: `${100 * b.at}%`, width: `${100 * b.share}%` }}
          >
            {b.share > NARROW ? b.name : ''}
          </span>
        ))}
      </LinesPlot>
      <LinesPlot
        x={x}
        xUnit=""
        yUnit="W"
        lines={lines.watts}
        logY
        fromZero={false}
        ticks={scale.ticks}
        label="Power over one cycle, each step of the scale ten times the last"
        file={`${doc.name} one cycle, power`}
      />
    </section>
  );
}

/** Where the times of a cycle stand on its axis, 0…1, and what its slices are called. */
function slicesOf(doc: ThreadDocument) {
  const slices = unfold(doc);
  const period = slices.reduce((sum, s) => sum + s.seconds, 0);
  const shares =
    slices.length > MANY_SLICES
      ? slices.map((s) => s.seconds / period)
      : stretchShares(slices.map((s) => s.seconds));
  const ends: { time: number; x: number }[] = [{ time: 0, x: 0 }];
  slices.forEach((s, k) => {
    const last = ends.at(-1)!;
    ends.push({ time: last.time + s.seconds, x: last.x + shares[k]! });
  });
  const place = (time: number) => {
    const k = Math.max(
      1,
      ends.findIndex((e, n) => n > 0 && time <= e.time),
    );
    const [a, b] = [ends[k - 1]!, ends[k]!];
    return a.x + Math.min(1, (time - a.time) / (b.time - a.time)) * (b.x - a.x);
  };
  const bands = slices.map((s, k) => {
    const names = s.peaks.map(([l]) => `${doc.loads[l]!.name}, peak`);
    const mode = s.mode === undefined ? 'on' : modeName(doc, s.mode);
    return { at: ends[k]!.x, share: shares[k]!, name: names.length > 0 ? names.join(', ') : mode };
  });
  const shown = ends.filter((_, k) => k === 0 || k === ends.length - 1 || shares[k - 1]! > NARROW);
  const ticks = { at: shown.map((e) => e.x), words: shown.map((e) => seconds(e.time)) };
  return { place, bands, ticks };
}

function seconds(time: number): string {
  if (time < 120) return formatQuantity(time, 's', 3);
  return time < 7200
    ? `${Number((time / 60).toPrecision(3))} min`
    : `${Number((time / 3600).toPrecision(3))} h`;
}
