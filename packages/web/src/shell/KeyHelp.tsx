import { Modal } from 'antd';
import css from './frame.module.css';

const KEYS: [string, string][] = [
  ['← →', 'move the needle; with Shift ten steps'],
  ['w', 'needle to the worst instant: of the cells, then of each load'],
  ['l', 'on the run-down: open the next loss'],
  ['Home End', 'needle to the start or the end, when it has the focus'],
  ['1 … 9, 0', 'the steps of the work: 2 path, 3 sizing'],
  ['[ ]', 'previous and next knot, or stage'],
  ['Enter', 'type over the value that has the focus; again to take it'],
  ['Esc', 'restore the value; close the inspector'],
  ['double-click', 'on a knot: its parts, heat and limits'],
  ['Ctrl+K', 'find anything: a knot, a load, a finding, another thread'],
  ['Ctrl+Z', 'undo'],
  ['Ctrl+Shift+Z', 'redo'],
  ['?', 'this list'],
];

/** All keys. */
export function KeyHelp({ open, onClose }: { open: boolean; onClose(): void }) {
  return (
    <Modal open={open} onCancel={onClose} footer={null} title="Keyboard" width={440}>
      <dl className={css.keys}>
        {KEYS.map(([keys, does]) => (
          <div key={keys}>
            <dt>
              <kbd>{keys}</kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
      <p className="quiet">Values read 4.7, 4,7, 4k7, 2R2, 550m, 1.2 A, 4 h 30 min.</p>
    </Modal>
  );
}
