import type { PartId } from '@mile-thread/core';
import { schottky, transistor } from '@mile-thread/core/design';
import {
  Capacitor,
  Diode,
  Inductor,
  isConverter,
  Switch,
  type Rectifier,
  switchingKind,
} from '@mile-thread/core/model';
import { SelectRow } from '../../../kit/SelectRow.tsx';
import { FieldRows } from '../../../kit/FieldRows.tsx';
import { PART_WORDS } from '../SchematicPanel.tsx';
import { GateEdges } from './GateEdges.tsx';
import type { ToolProps } from './props.ts';
import css from './tools.module.css';

/** Every figure of the part that is selected; the controller's while none is. */
export function PartTool({ stage, path, sized, part, commit }: ToolProps & { part: PartId }) {
  if (!isConverter(stage) || !stage.parts) return null;
  const owner = `${stage.name}, ${PART_WORDS[part].toLowerCase()}`;
  if (part === 'controller') {
    const model = switchingKind(stage.kind).partsModel;
    return (
      <div className={css.toolColumns}>
        <FieldRows
          model={model}
          value={stage.parts}
          path={[...path, 'parts']}
          owner={owner}
          commit={commit}
        />
      </div>
    );
  }
  const value = (stage.parts as unknown as Record<string, Inductor | Capacitor | Rectifier>)[part]!;
  const at = [...path, 'parts', part];
  const worst = (id: string) => sized.envelope.figures.find((f) => f.id === id)?.worst ?? 0;
  const type = 'type' in value ? value.type : undefined;
  const swappable = part === 'rectifier' || part === 'buckLow' || part === 'boostHigh';
  const model =
    type === 'diode' ? Diode : type === 'switch' ? Switch : 'inductance' in value ? Inductor : Capacitor;
  return (
    <div className={css.toolColumns}>
      <h5>{PART_WORDS[part]}</h5>
      {swappable && type && (
        <SelectRow
          name="Type"
          label={`${owner}, type`}
          value={type}
          options={[
            { value: 'switch', label: 'synchronous switch' },
            { value: 'diode', label: 'diode' },
          ]}
          onChange={(to) => {
            if (to === type) return;
            const old = value as Rectifier;
            const amps = (old.maxAmps ?? 2) / 2.5;
            const stands = (old.maxVolts ?? 28) / 1.4;
            const fresh = to === 'diode' ? schottky(0.4, amps, stands) : transistor(amps, stands);
            commit(`Change ${owner}`, [{ op: 'replace', path: at, value: fresh }]);
          }}
        />
      )}
      <FieldRows model={model} value={value} path={at} owner={owner} skip={['type']} commit={commit} />
      {type === 'switch' && (
        <GateEdges
          stage={stage}
          path={at}
          volts={worst(`${part}Volts`) || stage.outputVolts}
          amps={worst('inductorPeak') || 1}
          drive={stage.parts.driveVolts}
          commit={commit}
        />
      )}
    </div>
  );
}
