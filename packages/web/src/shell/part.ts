import { lazy, type ComponentType } from 'react';

/**
 * A part of the application that is fetched when it is needed. Once it is there it is drawn at once: what React has to
 * wait for, even for no time, it shows no sooner than 0.3 s after its stand-in.
 * @param fetch fetches it; asked again after it failed
 */
export function part(fetch: () => Promise<ComponentType>) {
  let there: ComponentType | undefined;
  const load = async () => (there ??= await fetch());
  const View = lazy(() => {
    const found = there && { default: there };
    // A thenable that answers in the call itself.
    if (found) return { then: (take: (m: typeof found) => void) => take(found) } as Promise<typeof found>;
    return load().then((View) => ({ default: View }));
  });
  return { load, View };
}
