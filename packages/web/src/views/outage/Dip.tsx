import { handOverCourse, type BackupAnswers } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { LinesPlot } from '../../charts/LinesPlot.tsx';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { COLOURS } from '../../tokens/tokens.ts';
import { useTransfer } from './useTransfer.ts';
import css from './outage.module.css';

const V = (v: number) => formatQuantity(v, 'V', 4);
const percent = (share: number) => `${Number((100 * share).toPrecision(2))} %`;

interface Props {
  doc: ThreadDocument;
  found: BackupAnswers;
  commit: Commit;
}

/** The rail as it is, with the capacitor that would do, and the least that is wanted. */
function dipLines({ task, wanted, least, lowest }: NonNullable<BackupAnswers['dip']>) {
  const course = (of: typeof task) => {
    const { seconds, volts } = handOverCourse(of);
    return { x: seconds.map((s) => 1000 * s), y: volts };
  };
  const own = course(task);
  const cured =
    lowest < wanted && Number.isFinite(least) ? course({ ...task, farads: 1.2 * least }) : undefined;
  const ends = [own.x[0]!, own.x.at(-1)!];
  return [
    { name: 'rail', ...own, colour: COLOURS.pine },
    ...(cured ? [{ name: 'with 1.2 × the least', ...cured, colour: COLOURS.saffronInk, dash: true }] : []),
    ...(wanted > 0
      ? [{ name: 'wanted', x: ends, y: [wanted, wanted], colour: COLOURS.madder, dash: true }]
      : []),
  ];
}

/** The transfer in milliseconds, as figures that are typed. */
export function Dip({ doc, found, commit }: Props) {
  const at = useTransfer(found);
  const { dip } = found;
  const { join } = doc.charging!;
  if (!dip || !join) {
    return (
      <section className={css.tool} aria-label="The dip at a transfer">
        <header>
          <h4>The dip</h4>
        </header>
        <p className="quiet">
          {doc.charging!.meanwhile === 'path'
            ? 'Say how long the battery’s side takes and what stands on the rail.'
            : 'On the battery bus nothing is handed over: no dip.'}
        </p>
      </section>
    );
  }
  const lines = dipLines(dip);
  const set = (field: 'wake' | 'capacitance' | 'esr') => (v: number | undefined) =>
    commit('Change the transfer', [{ op: 'replace', path: ['charging', 'join', field], value: v }]);
  const fine = dip.lowest >= dip.wanted;
  return (
    <section className={css.tool} aria-label="The dip at a transfer">
      <header>
        <h4>The dip, in milliseconds</h4>
        <span>
          {at === undefined ? '' : `as mains goes at ${formatDuration(at / SECONDS_PER_HOUR)}, `}under{' '}
          {formatQuantity(dip.task.watts, 'W', 3)}
        </span>
      </header>
      <LinesPlot
        x={[]}
        xUnit=" ms"
        yUnit=" V"
        lines={lines}
        fromZero={false}
        legend={false}
        label="The rail through a transfer"
      />
      <p className={css.figures}>
        from {V(dip.task.rail)} to{' '}
        <b data-short={!fine || undefined}>
          {V(dip.lowest)} {fine ? '✓' : '✕'}
        </b>
        , then {V(dip.settles)}; wanted {V(dip.wanted)}
      </p>
      <p className={css.figures}>
        fitted{' '}
        <EditableQuantity
          label="Capacitance"
          value={join.capacitance}
          unit="F"
          onCommit={set('capacitance')}
        />
        , <EditableQuantity label="Its resistance" value={join.esr ?? 0} unit="Ω" onCommit={set('esr')} />;
        the battery takes over in{' '}
        <EditableQuantity label="Takes over in" value={join.wake} unit="s" onCommit={set('wake')} />
      </p>
      <p className={css.figures}>
        To ride through:{' '}
        {Number.isFinite(dip.least) ? formatQuantity(dip.least, 'F', 3) : 'no capacitor does'};{' '}
        {formatQuantity(dip.inrush, 'A', 3)} surge as it takes over.
        {dip.chance > 0 && ` The rail asks for too much ${percent(dip.chance)} of the time.`}
      </p>
    </section>
  );
}
