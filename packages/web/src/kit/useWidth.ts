import { useEffect, useRef, useState, type RefObject } from 'react';

/**
 * The width an element has, as it changes.
 * @param first px, until it is known
 */
export function useWidth<E extends HTMLElement>(first: number): [RefObject<E | null>, number] {
  const ref = useRef<E>(null);
  const [width, setWidth] = useState(first);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)));
    watch.observe(ref.current!);
    return () => watch.disconnect();
  }, []);
  return [ref, width];
}
