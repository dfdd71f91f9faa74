import { Button } from 'antd';
import { useRouteError } from 'react-router';
import { Notice } from '../kit/Notice.tsx';

/** Last resort when a view breaks: what is kept is safe, and the person gets out. */
export function ErrorScreen() {
  const error = useRouteError();
  return (
    <Notice
      title="This view broke"
      text={`${(error as Error)?.message ?? 'Unknown reason'}. Your threads are kept; reload the page, or go back to the shelf.`}
      actions={
        <>
          <Button type="primary" onClick={() => location.reload()}>
            Reload
          </Button>
          <Button href="/">To the shelf</Button>
        </>
      }
    />
  );
}
