import { Button, Modal } from 'antd';

interface Props {
  /** why it is not kept */
  message: string;
  onLeave(): void;
  onStay(): void;
}

/** Before what is not kept is left. */
export function LeaveQuestion({ message, onLeave, onStay }: Props) {
  return (
    <Modal
      open
      closable={false}
      title="Your last change is not kept"
      footer={[
        <Button key="leave" danger onClick={onLeave}>
          Leave without it
        </Button>,
        <Button key="stay" type="primary" onClick={onStay}>
          Stay and try again
        </Button>,
      ]}
    >
      {message}
    </Modal>
  );
}
