import type { App } from 'antd';
import type { AskOptions } from '../jobs/pool.ts';

type Message = ReturnType<typeof App.useApp>['message'];

/** [ms] Work that is done by then is not worth a word. */
const SOON = 400;

/**
 * Long work, with how far it is and the way to stop it.
 * @param deed “Reading”
 * @returns what it gives; undefined where it was stopped
 */
export async function withProgress<T>(
  message: Message,
  deed: string,
  work: (options: AskOptions) => Promise<T>,
): Promise<T | undefined> {
  const stop = new AbortController();
  const began = performance.now();
  const onProgress = (share: number) => {
    if (performance.now() - began < SOON || stop.signal.aborted) return;
    const content = (
      <>
        {deed}, {Math.round(100 * share)} %{' '}
        <button type="button" className="link" onClick={() => stop.abort()}>
          Cancel
        </button>
      </>
    );
    void message.open({ key: deed, type: 'loading', content, duration: 0 });
  };
  try {
    return await work({ signal: stop.signal, onProgress });
  } catch (error) {
    if (stop.signal.aborted) return undefined;
    throw error;
  } finally {
    message.destroy(deed);
  }
}
