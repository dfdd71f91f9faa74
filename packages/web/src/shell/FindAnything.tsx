import { isSizable } from '@mile-thread/core/model';
import { formatDuration, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { AutoComplete, Modal } from 'antd';
import { useLiveQuery } from 'dexie-react-hooks';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { SessionStore } from '../document/session.ts';
import { useNeedle, useSelection } from '../document/view.ts';
import { listThreads } from '../storage/threads.ts';
import { useComputed, useFindings } from '../jobs/client.ts';
import { OUTSIDE } from '../kit/outside.ts';
import { STEPS } from './places.ts';
import css from './frame.module.css';

interface Place {
  value: string;
  label: string;
  go(): void;
}

/** Ctrl+K: type a few letters of a knot, a load, a finding or another thread, Enter goes there. */
export function FindAnything({ store, onClose }: { store: SessionStore; onClose(): void }) {
  const doc = store((s) => s.doc);
  const id = store((s) => s.id);
  const { data } = useComputed(doc);
  const findings = useFindings(doc);
  const threads = useLiveQuery(listThreads, []);
  const navigate = useNavigate();
  const [text, setText] = useState('');
  /** Knots are on the path: go there first. */
  const select = (knot: string) => {
    void navigate(`/thread/${id}/path`);
    useSelection.getState().select(knot);
  };
  const { moveTo } = useNeedle.getState();

  const steps = STEPS.flatMap((step) => {
    const to = step.to(doc);
    if (to === undefined) return [];
    return [{ value: `step:${step.id}`, label: step.name, go: () => void navigate(`/thread/${id}/${to}`) }];
  });
  const places: Place[] = [
    ...steps,
    { value: 'pack', label: 'Cells and pack', go: () => select('pack') },
    { value: 'protection', label: 'Protection, fuse, leads, connectors', go: () => select('protection') },
    ...doc.stages.map((s) => ({ value: s.id, label: `Stage: ${s.name}`, go: () => select(s.id) })),
    ...doc.stages.filter(isSizable).map((s) => ({
      value: `size:${s.id}`,
      label: `Parts of ${s.name}`,
      go: () => void navigate(`/thread/${id}/sizing/${s.id}`),
    })),
    ...doc.loads.map((l) => ({ value: l.id, label: `Load: ${l.name}`, go: () => select(l.id) })),
    ...(findings ?? []).map((f) => ({
      value: f.id,
      label: `Finding: ${f.title}`,
      go: () => {
        if (f.from !== undefined) moveTo(f.from);
        if ([...doc.stages, ...doc.loads].some((x) => x.id === f.element)) select(f.element);
      },
    })),
    ...(data
      ? [
          {
            value: 'useful-end',
            label: `Needle to the useful end, ${formatDuration(data.run.usefulEnd.time / SECONDS_PER_HOUR)}`,
            go: () => moveTo(data.run.usefulEnd.time),
          },
        ]
      : []),
    ...(threads ?? [])
      .filter((t) => t.id !== id)
      .map((t) => ({
        value: t.id,
        label: `Thread: ${t.name}`,
        go: () => void navigate(`/thread/${t.id}/path`),
      })),
    ...Object.values(OUTSIDE).map(({ name, to }) => ({
      value: `outside:${name}`,
      label: name,
      go: () => void navigate(to),
    })),
  ];
  const wanted = text.trim().toLowerCase();
  const found = places.filter((p) => p.label.toLowerCase().includes(wanted)).slice(0, 12);

  return (
    <Modal
      open
      footer={null}
      closable={false}
      onCancel={onClose}
      className={css.find}
      width={520}
      title="Find anything"
    >
      <AutoComplete
        autoFocus
        defaultOpen
        defaultActiveFirstOption
        aria-label="Find anything"
        placeholder="A knot, a load, a finding, another thread"
        value={text}
        options={found.map(({ value, label }) => ({ value, label }))}
        onSearch={setText}
        onKeyDown={(e) => e.key === 'Escape' && onClose()}
        onSelect={(value: string) => {
          onClose();
          places.find((p) => p.value === value)?.go();
        }}
        notFoundContent="Nothing of that name"
      />
    </Modal>
  );
}
