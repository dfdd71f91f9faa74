import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css';
import { createRoot } from 'react-dom/client';
import { registerSW } from 'virtual:pwa-register';
import { App } from './shell/App.tsx';
import './kit/styles.css';

createRoot(document.getElementById('root')!).render(<App />);

if (import.meta.env.PROD) registerSW({ immediate: true });
