import {
  isConverter,
  isRegulated,
  usesParts,
  type Converter,
  type Stage,
  MODE_TABLE,
} from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import type { SizedThreadStage } from '../../jobs/client.ts';
import { Answers, type AnswerCell } from '../../kit/Answers.tsx';
import { shares, worthWords } from './model.ts';

interface Props {
  stage: Stage;
  sized: SizedThreadStage;
  stale: boolean;
}

/** The strip above the Stage view: where it works, how well, how hot, how much it could give, what would help. */
export function StageAnswers({ stage, sized, stale }: Props) {
  const { envelope, limits, worth } = sized;
  const { inputs, modes, efficiency, heat } = envelope;
  const usual = heat.find((h) => h.air === 'usual');
  const least = limits.length > 0 ? limits.reduce((a, b) => (b.amps < a.amps ? b : a)) : undefined;
  const short = least !== undefined && least.amps < envelope.mostAmps * 0.999;
  const hot = usual?.limit !== undefined && usual.celsius > usual.limit - 15;
  const works = inputs.most > 0 && inputs.least < Infinity;
  const hours = sized.lasts / SECONDS_PER_HOUR;
  const need = sized.doc.goals.hours;
  const met = hours >= need;
  const soft = isConverter(stage) && usesParts(stage) && ['claimed', 'assumed'].includes(stage.parts!.grade);
  const cells: AnswerCell[] = [
    {
      id: 'lasts',
      label: 'The thread lasts',
      value: formatDuration(hours),
      tone: met ? 'met' : 'short',
      note: (
        <>
          {met ? '✓' : '✕'} need {formatDuration(need)}
          {worth && worth.seconds > 1 && (
            <span data-answer="worth" title={worthWords(worth)}>
              ; +{formatDuration(worth.seconds / SECONDS_PER_HOUR)} {worthWords(worth)}
            </span>
          )}
        </>
      ),
    },
    {
      id: 'works',
      label: 'Works from',
      value: works ? `${volts(inputs.first)} – ${formatQuantity(inputs.last, 'V')}` : '–',
      note: shares(modes.map((m) => ({ word: MODE_TABLE[m.mode].word, share: m.share }))) || 'nothing',
    },
    {
      id: 'efficiency',
      label: 'Mean efficiency',
      value: efficiency > 0 ? `${(100 * efficiency).toFixed(1)} %` : '–',
      note: compare(stage),
      soft,
    },
    {
      id: 'hottest',
      label: 'Hottest part',
      value: usual ? `${Math.round(usual.celsius)} °C` : '–',
      note: usual
        ? `${usual.name}, at ${formatDuration(usual.time / SECONDS_PER_HOUR)}`
        : 'no thermal resistance stated',
      ...(hot ? { tone: 'short' as const } : {}),
    },
    {
      id: 'most',
      label: 'Most it can give',
      title: 'While what hangs on it gets enough, over the whole run',
      value: least ? formatQuantity(least.amps, 'A') : mostStated(stage),
      note: least
        ? `at ${formatQuantity(least.vin, 'V')}, by ${least.by}; asked ${formatQuantity(envelope.mostAmps, 'A')}`
        : `asked ${formatQuantity(envelope.mostAmps, 'A')}`,
      ...(short ? { tone: 'short' as const } : {}),
    },
  ];
  return <Answers label="Answers on this stage" cells={cells} stale={stale} />;
}

const volts = (v: number) => formatQuantity(v, 'V').replace(/\s*V$/, '');

function mostStated(stage: Stage): string {
  return isRegulated(stage) && stage.outputLimit !== undefined ? formatQuantity(stage.outputLimit, 'A') : '–';
}

/** “from its parts”, and how sure those are. */
function partWords(stage: Converter): string {
  const { grade } = stage.parts!;
  return grade === 'measured' || grade === 'published' ? 'from its parts' : `from ${grade} parts`;
}

/** What else is known of its efficiency. */
function compare(stage: Stage): string {
  if (!isConverter(stage)) return '';
  const { loss } = stage;
  if (loss.basis === 'efficiency') {
    const stated = `${Number((100 * loss.efficiency).toFixed(1))} %`;
    return usesParts(stage) ? `${partWords(stage)}; stated ${stated}` : `from the ${stated} stated`;
  }
  const other = loss.basis === 'points' ? 'readings' : 'loss polynomial';
  return usesParts(stage) ? `${partWords(stage)}, not the ${other}` : `from the ${other}`;
}
