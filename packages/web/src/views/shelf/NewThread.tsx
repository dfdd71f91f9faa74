import { CELL_LIBRARY, decodeThread, type ThreadDocument } from '@mile-thread/core/model';
import { parseQuantity } from '@mile-thread/core/units';
import { Alert, Form, Input, Modal, Select } from 'antd';
import { useState } from 'react';
import { useOwnCells } from '../../kit/useOwnCells.ts';
import { startThread } from './startThread.ts';
import css from './shelf.module.css';

interface Props {
  open: boolean;
  onCancel(): void;
  onCreate(doc: ThreadDocument): void;
}

interface Values {
  name: string;
  volts: string;
  amps: string;
  min: string;
  max: string;
  hours: string;
  cell: string;
}

const EMPTY: Values = {
  name: 'New thread',
  volts: '5',
  amps: '500m',
  min: '4.75',
  max: '5.25',
  hours: '4',
  cell: '18650-energy',
};

/** A field that reads quantities as engineers type them. */
const quantity = (unit: string) => ({
  validator: (_: unknown, text: string) => {
    const parsed = parseQuantity(text ?? '', unit);
    if (!parsed.ok) return Promise.reject(new Error(parsed.reason));
    return parsed.value > 0 ? Promise.resolve() : Promise.reject(new Error('Must be more than zero.'));
  },
});

/** The short start of a thread: what the load wants, for how long, from which cell. The rest is worked out. */
export function NewThread({ open, onCancel, onCreate }: Props) {
  const [form] = Form.useForm<Values>();
  const own = useOwnCells();
  const cells = [
    ...own.map((row) => ({ value: `own:${row.id}`, cell: row.record })),
    ...Object.entries(CELL_LIBRARY).map(([value, cell]) => ({ value, cell })),
  ];
  const [trouble, setTrouble] = useState<string | undefined>();
  const submit = (values: Values) => {
    const read = (text: string, unit: string) => {
      const parsed = parseQuantity(text, unit);
      return parsed.ok ? parsed.value : NaN;
    };
    const doc = startThread({
      name: values.name.trim(),
      volts: read(values.volts, 'V'),
      amps: read(values.amps, 'A'),
      range: { min: read(values.min, 'V'), max: read(values.max, 'V') },
      hours: read(values.hours, 'h'),
      cell: cells.find((c) => c.value === values.cell)!.cell,
    });
    const checked = decodeThread(doc);
    if (!checked.ok) {
      setTrouble(checked.issues.map((i) => `${i.path}: ${i.allowed}`).join('; '));
      return;
    }
    setTrouble(undefined);
    onCreate(doc);
    form.resetFields();
  };
  return (
    <Modal
      open={open}
      title="New thread"
      okText="Start"
      onCancel={onCancel}
      onOk={form.submit}
      width={520}
      forceRender
    >
      <Form form={form} layout="vertical" initialValues={EMPTY} onFinish={submit} requiredMark={false}>
        <Form.Item
          name="name"
          label="Name"
          rules={[{ required: true, max: 120, message: 'A name of 1 to 120 characters.' }]}
        >
          <Input />
        </Form.Item>
        <div className={css.formGrid}>
          <Form.Item name="volts" label="Load volts" rules={[quantity('V')]}>
            <Input suffix="V" />
          </Form.Item>
          <Form.Item name="amps" label="Load current" rules={[quantity('A')]}>
            <Input suffix="A" />
          </Form.Item>
          <Form.Item name="min" label="Works from" rules={[quantity('V')]}>
            <Input suffix="V" />
          </Form.Item>
          <Form.Item name="max" label="Works up to" dependencies={['min']} rules={[quantity('V')]}>
            <Input suffix="V" />
          </Form.Item>
          <Form.Item name="hours" label="Must last" rules={[quantity('h')]}>
            <Input suffix="h" />
          </Form.Item>
          <Form.Item name="cell" label="Cell">
            <Select
              options={cells.map(({ value, cell }) => ({ value, label: cell.name }))}
              popupMatchSelectWidth={false}
            />
          </Form.Item>
        </div>
        <p className="quiet">
          Reads 4.7, 4,7, 4k7, 550m, 1.2 A, 4 h 30 min. Series, parallel and the stage are chosen to fit;
          change them on the path.
        </p>
        {trouble && <Alert type="error" title={trouble} />}
      </Form>
    </Modal>
  );
}
