import { Button, Result } from 'antd';
import { useRouteError } from 'react-router';

/** Last resort when a view breaks: what is kept is safe, and the person gets out. */
export function ErrorScreen() {
  const error = useRouteError();
  return (
    <Result
      status="error"
      title="This view broke"
      subTitle={`${(error as Error)?.message ?? 'Unknown reason'}. Your threads are kept; reload the page, or go back to the shelf.`}
      extra={<Button href="/">To the shelf</Button>}
    />
  );
}
