import {
  cableOhms,
  Reading,
  contractOf,
  sourceLaw,
  sourceVolts,
  type ChargeResult,
  type SourceLaw,
} from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import clsx from 'clsx';
import { useMemo } from 'react';
import { LinesPlot } from '../../charts/LinesPlot.tsx';
import type { Commit } from '../../document/session.ts';
import { useChargeNeedle } from '../../document/view.ts';
import { COLOURS } from '../../tokens/tokens.ts';
import { instantAt } from './model.ts';
import css from './curve.module.css';
import chargeCss from './charge.module.css';

interface Props {
  doc: ThreadDocument;
  charge: ChargeResult;
  commit: Commit;
}

/** The source's volts over its amps past the cable, its other contracts, and where the charge works on it. */
export function SourceCurvePlot({ doc, charge, commit }: Props) {
  const { charging } = doc;
  const { source } = charging!;
  const plot = useMemo(() => curvesOf(doc, charge), [doc, charge]);
  const contract = source.kind === 'contracts' ? contractOf(source) : undefined;
  return (
    <section className={chargeCss.tool} aria-label="The source: volts over amps">
      <header>
        <h4>The source: volts over amps</h4>
        <span>
          past the cable; thick: this charge{source.kind === 'contracts' && '; dashed: other contracts'}
        </span>
      </header>
      <div className={css.curve}>
        <LinesPlot
          {...plot}
          xUnit=" A"
          yUnit=" V"
          label="Volts of the source over its current"
          file={`${doc.name} source`}
        >
          <Ring {...{ doc, charge }} most={plot.range} />
        </LinesPlot>
      </div>
      {source.kind === 'contracts' && (
        <p className={css.contracts} role="radiogroup" aria-label="Contract asked for">
          {source.offers.map((o) => (
            <button
              key={`${o.volts} ${o.least ?? ''}`}
              type="button"
              role="radio"
              aria-checked={o.volts === contract!.volts}
              onClick={() =>
                commit(`Ask for ${formatQuantity(o.volts, 'V', 3)}`, [
                  { op: 'replace', path: ['charging', 'source', 'asks'], value: o.volts },
                  ...(source.name === named(source.asks, source.name)
                    ? [
                        {
                          op: 'replace' as const,
                          path: ['charging', 'source', 'name'],
                          value: source.name.replace(`${source.asks} V`, `${o.volts} V`),
                        },
                      ]
                    : []),
                ])
              }
            >
              {formatQuantity(o.volts, 'V', 3)} <small>{formatQuantity(o.amps, 'A', 3)}</small>
            </button>
          ))}
        </p>
      )}
    </section>
  );
}

/** A name that says the volts asked for is changed with them. */
function named(asks: number, name: string): string | undefined {
  return name.includes(`${asks} V`) ? name : undefined;
}

/** Where it works at the needle. */
function Ring({ doc, charge, most }: Pick<Props, 'doc' | 'charge'> & { most: { x: number; y: number } }) {
  const time = useChargeNeedle((s) => Math.min(s.time, s.end));
  const rows = useMemo(() => new Reading(charge.series), [charge]);
  const now = useMemo(() => instantAt(doc, rows, time), [doc, rows, time]);
  if (!(now.sourceAmps > 0)) return null;
  return (
    <span
      className={clsx(css.ring, now.sourceAmps < most.x / 2 && css.toRight)}
      style={{ left: `${(100 * now.sourceAmps) / most.x}%`, bottom: `${(100 * now.nodeVolts) / most.y}%` }}
    >
      <b>
        {formatQuantity(now.nodeVolts, 'V', 3)} · {formatQuantity(now.sourceAmps, 'A', 3)} ·{' '}
        {formatQuantity(now.nodeVolts * now.sourceAmps, 'W', 3)}
      </b>
    </span>
  );
}

function curvesOf(doc: ThreadDocument, charge: ChargeResult) {
  const { charging } = doc;
  const { source } = charging!;
  const own = sourceLaw(source);
  const wire = cableOhms(charging!);
  const rows = new Reading(charge.series);
  const been = Array.from(
    { length: rows.count },
    (_, r) => [rows.of(r, 'sourceAmps'), rows.of(r, 'nodeVolts')] as const,
  )
    .filter(([a]) => a > 0)
    .sort((a, b) => a[0] - b[0]);
  const others =
    source.kind === 'contracts'
      ? source.offers
          .filter((o) => o.volts !== own.open)
          .map((o) => sourceLaw({ ...source, asks: o.volts, offers: [{ volts: o.volts, amps: o.amps }] }))
      : [];
  const most =
    1.25 * Math.max(own.limit, ...others.filter((o) => o.open <= 1.3 * own.open).map((o) => o.limit));
  const top = 1.2 * own.open;
  const seen = others.filter((o) => o.open < top);
  return {
    x: [0],
    range: { x: most, y: top },
    lines: [
      ...seen.map((o) => ({
        name: '',
        ...shape(o, wire),
        colour: COLOURS.edge,
        dash: true,
      })),
      { name: '', ...shape(own, wire), colour: COLOURS.inkSoft },
      {
        name: '',
        x: been.map((b) => b[0]),
        y: been.map((b) => b[1]),
        colour: COLOURS.saffron,
        width: 6,
      },
    ],
  };
}

/** Points of a curve that is not straight. */
const BENT = 40;

/** A source's curve up to its limit, and how it lets go. */
function shape(law: SourceLaw, wire: number): { x: number[]; y: number[] } {
  const last = law.beyond === 'soft' ? Math.min(law.most, 1.25 * law.limit) : law.limit;
  const bent = law.straight ? [] : Array.from({ length: BENT }, (_, k) => ((k + 1) / BENT) * law.limit);
  const x = [0, ...bent, law.limit, ...(last > law.limit ? [last] : [])];
  const y = x.map((i) => Math.max(0, sourceVolts(law, i) - wire * i));
  return law.beyond === 'soft' ? { x, y } : { x: [...x, law.limit], y: [...y, 0] };
}
