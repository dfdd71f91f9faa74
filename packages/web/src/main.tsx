import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css';
import { createRoot } from 'react-dom/client';
import { startWorkers } from './jobs/client.ts';
import './kit/base.css';
import { App, preload } from './shell/App.tsx';
import { watchBuilds } from './shell/newBuildStore.ts';
import { seed } from './storage/threads.ts';

// Before anything is drawn: workers take longer to load than the page.
startWorkers();
const opening = Promise.all([seed(), preload(location.pathname)]).then(() => {});
opening.catch(() => {}); // told where it is awaited
createRoot(document.getElementById('root')!).render(<App opening={opening} />);
if (import.meta.env.PROD) watchBuilds();
