import { App as AntApp } from 'antd';
import { useCallback, useEffect } from 'react';
import { addThreads, storageTrouble } from '../storage/threads.ts';
import { fewSentences, readThreadFiles } from './files.ts';
import { withProgress } from './progress.tsx';

/** Takes files onto the shelf: from a dialog, or dropped anywhere on the page. @returns what takes them */
export function useImport(): (files: File[]) => void {
  const { message, modal } = AntApp.useApp();
  const take = useCallback(
    async (files: File[]) => {
      const read = await withProgress(message, 'Reading', (options) => readThreadFiles(files, options));
      if (!read) return;
      const { threads: good, refused } = read;
      if (good.length > 0) {
        await addThreads(good);
        void message.success(`${good.length === 1 ? good[0]!.name : `${good.length} threads`} on the shelf`);
      }
      if (refused.length === 0) return;
      modal.error({
        title:
          refused.length === 1
            ? `${refused[0]!.name} could not be read`
            : `${refused.length} threads could not be read`,
        width: 560,
        content: (
          <div className="file-trouble">
            {refused.map(({ name, issues }, k) => (
              <div key={k}>
                {refused.length > 1 && <b>{name}</b>}
                <ul>
                  {fewSentences(issues).map((s) => (
                    <li key={s}>{s}</li>
                  ))}
                </ul>
              </div>
            ))}
            <p>
              {good.length === 0
                ? 'Nothing on the shelf has changed.'
                : good.length === 1
                  ? `${good[0]!.name} is on the shelf.`
                  : `The other ${good.length} threads are on the shelf.`}
            </p>
          </div>
        ),
      });
    },
    [message, modal],
  );
  const takeAll = useCallback(
    (files: File[]) => void take(files).catch((e: unknown) => message.error(storageTrouble(e), 8)),
    [take, message],
  );
  useEffect(() => {
    const over = (event: DragEvent) => event.preventDefault();
    const drop = (event: DragEvent) => {
      event.preventDefault();
      const files = [...(event.dataTransfer?.files ?? [])];
      if (files.length > 0) takeAll(files);
    };
    window.addEventListener('dragover', over);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', over);
      window.removeEventListener('drop', drop);
    };
  }, [takeAll]);
  return takeAll;
}
