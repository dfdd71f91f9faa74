import type { BackupAnswers } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { useMemo, useState } from 'react';
import { FieldPlot } from '../../charts/FieldPlot.tsx';
import { LinesPlot } from '../../charts/LinesPlot.tsx';
import { useAnswer } from '../../jobs/client.ts';
import { COLOURS } from '../../tokens/tokens.ts';
import { neededFor } from './model.ts';
import css from './outage.module.css';

const LOOK = {
  new: { colour: COLOURS.pine, dash: false, word: 'new' },
  aged: { colour: COLOURS.emberInk, dash: true, word: '80 %' },
  cold: { colour: COLOURS.slateInk, dash: true, word: 'cold' },
} as const;

interface Props {
  doc: ThreadDocument;
  found: BackupAnswers;
}

const TICKS = { at: [0, 25, 50, 75, 100], words: ['0', '25', '50', '75', '100 %'] };

/** Hold time over the charge left when mains goes: new, aged and cold as lines, or over all ages as a field. */
export function Hold({ doc, found }: Props) {
  const [field, setField] = useState(false);
  const wanted = doc.backup!.hold;
  const needed = wanted === undefined ? undefined : neededFor(found.holds[0]!, wanted * SECONDS_PER_HOUR);
  return (
    <section className={css.tool} aria-label="Hold time by charge">
      <header>
        <h4>Hold time</h4>
        <span role="radiogroup" aria-label="Hold time shown" className={css.choice}>
          {[false, true].map((of) => (
            <button
              key={String(of)}
              type="button"
              role="radio"
              aria-checked={of === field}
              onClick={() => setField(of)}
            >
              {of ? 'by age' : 'as lines'}
            </button>
          ))}
        </span>
      </header>
      {field ? <Field {...{ doc }} /> : <Lines {...{ doc, found }} />}
      {wanted !== undefined && (
        <p className={css.figures}>
          {needed === undefined
            ? `✕ New and full is too short for ${formatDuration(wanted)}.`
            : `New, ${formatDuration(wanted)} needs ${Math.ceil(100 * needed)} % or more.`}
        </p>
      )}
    </section>
  );
}

function Lines({ doc, found }: Props) {
  const wanted = doc.backup!.hold;
  const lines = useMemo(
    () => [
      ...found.holds.map(({ name, soc, seconds }) => ({
        name: LOOK[name].word,
        x: soc.map((s) => 100 * s),
        y: seconds.map((s) => s / SECONDS_PER_HOUR),
        colour: LOOK[name].colour,
        dash: LOOK[name].dash,
      })),
      ...(wanted === undefined
        ? []
        : [{ name: 'wanted', x: [0, 100], y: [wanted, wanted], colour: COLOURS.madder, dash: true }]),
    ],
    [found, wanted],
  );
  return (
    <>
      <p className={css.legend}>
        {found.holds.map(({ name, seconds }) => (
          <span key={name} data-of={name}>
            <i /> {LOOK[name].word} <b>{formatDuration(seconds[0]! / SECONDS_PER_HOUR)}</b>
          </span>
        ))}
      </p>
      <LinesPlot
        x={[]}
        legend={false}
        ticks={TICKS}
        xUnit=" %"
        yUnit=" h"
        lines={lines}
        label="Hold time over charge"
        file={`${doc.name} hold`}
      />
    </>
  );
}

const UNITS = { x: ' %', y: ' %', z: ' h' };
const TITLES = { x: 'charge as mains goes', y: 'left of the rated' };

/** The same for every age: what is left of the rated charge upwards, the wanted time as a line. */
function Field({ doc }: { doc: ThreadDocument }) {
  const { data } = useAnswer('holdField', [doc]);
  const wanted = doc.backup!.hold;
  const picture = useMemo(() => {
    if (!data) return undefined;
    const { soc, left, seconds } = data;
    const edge = left.flatMap((l, a) => {
      const s =
        wanted === undefined
          ? undefined
          : neededFor({ soc, seconds: seconds[a]! }, wanted * SECONDS_PER_HOUR);
      return s === undefined ? [] : [{ x: 100 * s, y: 100 * l }];
    });
    return {
      x: soc.map((s) => 100 * s),
      y: left.map((l) => 100 * l),
      z: seconds.map((row) => row.map((s) => s / SECONDS_PER_HOUR)),
      line: edge,
    };
  }, [data, wanted]);
  if (!picture) return <p className="quiet">Working it out.</p>;
  return (
    <FieldPlot
      {...picture}
      units={UNITS}
      titles={TITLES}
      label="Hold time over charge and age"
      file={`${doc.name} hold by age`}
    />
  );
}
