import { Button } from 'antd';
import { useRouteError } from 'react-router';
import { Notice } from '../kit/Notice.tsx';

/** What browsers say of a part of the page that is not there any more. */
const GONE = /dynamically imported module|module script|preload CSS/i;

/** Last resort when a view breaks, or belongs to a build that is gone: what is kept is safe, and the person gets out. */
export function ErrorScreen() {
  const error = useRouteError();
  const message = (error as Error)?.message ?? 'Unknown reason';
  const gone = GONE.test(message);
  return (
    <Notice
      title={gone ? 'This view is not there any more' : 'This view broke'}
      text={
        gone
          ? 'A newer Mile Thread was built since this page was opened, or the server has stopped. Reload; what you typed is kept.'
          : `${message}. Your threads are kept; reload the page, or go back to the shelf.`
      }
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
