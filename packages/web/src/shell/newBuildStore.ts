import { registerSW } from 'virtual:pwa-register';
import { create } from 'zustand';

/** What takes the newer build, once there is one. */
export const useNewBuild = create<{ take: (() => void) | undefined }>()(() => ({ take: undefined }));

/** [ms] between two looks for a newer build. */
const LOOK = 10 * 60_000;

/** Serve offline, and watch for a newer build. */
export function watchBuilds(): void {
  const update = registerSW({
    immediate: true,
    onNeedRefresh: () => useNewBuild.setState({ take: () => void update(true) }),
    onRegisteredSW: (_, registration) => {
      if (registration) setInterval(() => void registration.update().catch(() => {}), LOOK);
    },
  });
}
