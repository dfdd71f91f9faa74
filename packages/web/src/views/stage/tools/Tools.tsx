import type { PartId } from '@mile-thread/core';
import { isConverter } from '@mile-thread/core/model';
import { Tabs } from 'antd';
import { memo } from 'react';
import { CapacitorTool } from './CapacitorTool.tsx';
import { CopperTool } from './CopperTool.tsx';
import { DividerTool } from './DividerTool.tsx';
import { FilterTool } from './FilterTool.tsx';
import { HeatTool } from './HeatTool.tsx';
import { InductorTool } from './InductorTool.tsx';
import { LimitsTool } from './LimitsTool.tsx';
import type { ToolProps } from './props.ts';
import { PartTool } from './PartTool.tsx';
import { ReadingsTool } from './ReadingsTool.tsx';
import { RecordsTool } from './RecordsTool.tsx';
import { ResistorsTool } from './ResistorsTool.tsx';
import css from './tools.module.css';

interface Props extends ToolProps {
  part: PartId | undefined;
  /** which panel; the first one where it is not there for this stage */
  open: string | undefined;
  onOpen(tool: string): void;
}

/** Panels that write back to the design; one at a time. Not drawn again while the needle moves. */
export const Tools = memo(function Tools({ part, open, onOpen, ...props }: Props) {
  const { stage } = props;
  const parts = isConverter(stage) && stage.parts !== undefined;
  const converter = isConverter(stage);
  const items = [
    ...(parts
      ? [
          { key: 'divider', label: 'Volts', children: <DividerTool {...props} /> },
          { key: 'part', label: 'Part', children: <PartTool {...props} part={part ?? 'controller'} /> },
          { key: 'inductor', label: 'Inductor', children: <InductorTool {...props} /> },
          { key: 'capacitors', label: 'Capacitors', children: <CapacitorTool {...props} /> },
          { key: 'filter', label: 'Filter', children: <FilterTool {...props} /> },
        ]
      : []),
    { key: 'limits', label: 'Limits', children: <LimitsTool {...props} /> },
    { key: 'heat', label: 'Heat', children: <HeatTool {...props} /> },
    { key: 'resistors', label: 'Resistors', children: <ResistorsTool {...props} /> },
    { key: 'copper', label: 'Copper', children: <CopperTool {...props} /> },
    ...(converter ? [{ key: 'readings', label: 'Readings', children: <ReadingsTool {...props} /> }] : []),
    { key: 'records', label: 'Records', children: <RecordsTool {...props} /> },
  ];
  const active = items.some((i) => i.key === open) ? open : parts || !converter ? items[0]!.key : 'records';
  return (
    <Tabs
      className={css.tools}
      size="small"
      items={items}
      activeKey={active!}
      onChange={onOpen}
      destroyOnHidden
    />
  );
});
