import { isConverter, type Divider } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { DividerChoice } from '../../../kit/DividerChoice.tsx';
import type { ToolProps } from './props.ts';
import css from './tools.module.css';

const FRESH: Divider = {
  reference: 0.6,
  referenceTolerance: 0.015,
  resistorTolerance: 0.01,
  top: 1e5,
  bottom: 1e4,
};

/** Feedback divider of a stage with parts: a pair taken sets its volts. */
export function DividerTool({ stage, path, commit }: ToolProps) {
  if (!isConverter(stage)) return null;
  const now = stage.parts?.divider;
  const at = [...path, 'parts', 'divider'];
  return (
    <div className={css.tool}>
      <DividerChoice
        now={now}
        fresh={FRESH}
        volts={stage.outputVolts}
        onField={(field, v) =>
          commit(`Change the divider of ${stage.name}`, [
            now
              ? { op: field in now ? 'replace' : 'add', path: [...at, field], value: v }
              : { op: 'add', path: at, value: { ...FRESH, [field]: v } },
          ])
        }
        onUse={(next, volts) =>
          commit(
            `Set ${stage.name} by ${formatQuantity(next.top, 'Ω')} over ${formatQuantity(next.bottom, 'Ω')}`,
            [
              { op: now ? 'replace' : 'add', path: at, value: next },
              { op: 'replace', path: [...path, 'outputVolts'], value: Number(volts.toPrecision(4)) },
            ],
          )
        }
      />
    </div>
  );
}
