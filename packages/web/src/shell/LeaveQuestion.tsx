import { Button, Modal } from 'antd';

interface Props {
  title: string;
  /** why it is asked */
  message: string;
  /** ways to leave */
  leave: { words: string; act(): void }[];
  stay: string;
  onStay(): void;
}

/** Before what is not kept, or still on, is left. */
export function LeaveQuestion({ title, message, leave, stay, onStay }: Props) {
  return (
    <Modal
      open
      closable={false}
      title={title}
      footer={[
        ...leave.map(({ words, act }) => (
          <Button key={words} danger onClick={act}>
            {words}
          </Button>
        )),
        <Button key="stay" type="primary" onClick={onStay}>
          {stay}
        </Button>,
      ]}
    >
      {message}
    </Modal>
  );
}
