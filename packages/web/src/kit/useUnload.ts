import { useEffect } from 'react';

/** While something is not kept, or is on, the browser asks before the page goes. */
export function useUnload(unkept: boolean): void {
  useEffect(() => {
    if (!unkept) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [unkept]);
}
