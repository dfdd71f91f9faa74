import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import { secureHeaders } from 'hono/secure-headers';
import { isLocal } from './local.ts';
import { standIns, type StandInOptions } from './standins/sockets.ts';

/** Nothing leaves the machine: every source is the page's own. Ant Design needs inline styles, Plotly data images. */
const POLICY = {
  defaultSrc: ["'self'"],
  scriptSrc: ["'self'"],
  workerSrc: ["'self'"],
  connectSrc: ["'self'"],
  styleSrc: ["'self'", "'unsafe-inline'"],
  imgSrc: ["'self'", 'data:', 'blob:'],
  fontSrc: ["'self'", 'data:'],
  objectSrc: ["'none'"],
  baseUri: ["'none'"],
  formAction: ["'none'"],
  frameAncestors: ["'none'"],
};

/** What says nothing here: of other hosts, of old browsers, of a connection that is not encrypted. */
const NEEDLESS = {
  originAgentCluster: false,
  strictTransportSecurity: false,
  xDnsPrefetchControl: false,
  xDownloadOptions: false,
  xPermittedCrossDomainPolicies: false,
  xXssProtection: false,
};

/** For pages, workers and all else that a policy is read from. */
const DOCUMENT = secureHeaders({
  ...NEEDLESS,
  contentSecurityPolicy: POLICY,
  referrerPolicy: 'no-referrer',
  crossOriginOpenerPolicy: 'same-origin',
  permissionsPolicy: { camera: [], microphone: [], geolocation: [] },
});

/** For the parts of a page, some thirty of which come before the first picture: theirs is the policy of the page. */
const PART = secureHeaders({
  ...NEEDLESS,
  referrerPolicy: false,
  crossOriginOpenerPolicy: false,
  xFrameOptions: false,
});

/** Whether a path is one of them; a worker has a policy of its own. */
function isPart(path: string): boolean {
  return /^\/assets\/(?!worker-)/.test(path);
}

/**
 * The server: the built application, a health answer, and stand-ins for instruments. It keeps nothing.
 * @param root folder of the built application, relative to the working directory
 */
export function createApp(root: string, options: StandInOptions = {}): Hono {
  const app = new Hono();
  // A page elsewhere whose name is made to lead here must not read what this machine serves.
  app.use(async (c, next) => (isLocal(c.req.header('host')) ? next() : c.text('Not for this host', 421)));
  app.use(async (c, next) => (isPart(c.req.path) ? PART : DOCUMENT)(c, next));
  app.route('/standins', standIns(options));
  app.get('/health', (c) => c.json({ status: 'ok' }));
  app.use('/assets/*', async (c, next) => {
    await next();
    // Names carry a hash of the content: they never change.
    if (c.res.ok) c.header('Cache-Control', 'public, max-age=31536000, immutable');
  });
  app.use('*', serveStatic({ root, precompressed: true }));
  // Any other address is a view of the application; a missing file with an ending is missing.
  app.get('*', async (c, next) => {
    if (/\.\w+$/.test(c.req.path)) return c.text('Not here', 404);
    return serveStatic({ root, path: 'index.html', precompressed: true })(c, next);
  });
  return app;
}
