import { Button, notification } from 'antd';
import { useEffect } from 'react';
import { useNewBuild } from './newBuildStore.ts';

/** A newer version is there: say so; it takes over on a click, or with the next start. */
export function NewBuild() {
  const take = useNewBuild((s) => s.take);
  const [api, holder] = notification.useNotification();
  useEffect(() => {
    if (!take) return;
    api.info({
      key: 'new-build',
      title: 'A newer Mile Thread is ready',
      description: 'What is open here is kept; the page reloads.',
      actions: (
        <Button size="small" type="primary" onClick={take}>
          Use it now
        </Button>
      ),
      duration: 0,
      placement: 'bottomLeft',
    });
  }, [take, api]);
  return holder;
}
