/** Whether a Host header names this machine by itself: localhost or a loopback address, any port. */
export function isLocal(host: string | undefined): boolean {
  return (
    host !== undefined &&
    /^(localhost|([\w-]+\.)*localhost|127(\.\d{1,3}){3}|\[::1\])(:\d{1,5})?$/i.test(host)
  );
}
