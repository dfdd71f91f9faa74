import type { ReadRecords } from '@mile-thread/core';
import { issueSentence } from '@mile-thread/core/model';
import { App as AntApp, Button, type NotificationArgsProps } from 'antd';

/** What keeps records of one kind. */
interface Store<R> {
  keep(records: readonly R[]): Promise<void>;
  remove(id: string): Promise<() => Promise<void>>;
}

/** Records taken in, those that cannot be read named, and removed with a way back. @param noun one of them, in lower case */
export function useRecords<R>(store: Store<R>, noun: string, trouble: (error: unknown) => void) {
  const { message, modal, notification } = AntApp.useApp();

  /** Keep what a file was read as. @param file its name */
  const takeIn = async ({ records, refused }: ReadRecords<R>, file: string): Promise<void> => {
    const some = records.length > 0;
    if (some) {
      await store.keep(records);
      void message.success(`${records.length} ${noun}${records.length === 1 ? '' : 's'} kept`);
    }
    if (refused.length === 0) return;
    modal.error({
      title: some ? `Some ${noun}s could not be read` : `${file} could not be read`,
      width: 560,
      content: (
        <ul>
          {refused.slice(0, 5).map((r) => (
            <li key={r.name}>
              {r.name}: {issueSentence(r.issues[0]!)}
            </li>
          ))}
        </ul>
      ),
    });
  };

  const remove = async (
    id: string,
    name: string,
    more: Pick<NotificationArgsProps, 'placement'> = {},
  ): Promise<void> => {
    const restore = await store.remove(id);
    const undo = () => {
      restore().catch(trouble);
      notification.destroy(id);
    };
    const actions = (
      <Button size="small" type="primary" onClick={undo}>
        Undo
      </Button>
    );
    notification.info({ key: id, title: `${name} removed`, actions, ...more });
  };

  return { takeIn, remove };
}
