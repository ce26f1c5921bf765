import type { Server } from 'node:http';
import { writeForOneself } from './lib/server/db/own-files.ts';
import { securityHeaders } from './lib/server/web/headers.ts';

/**
 * How the built application starts: on this machine alone unless HOST says otherwise, with files that nobody but its user reads, and with the
 * same headers on every answer, whoever gives it: a page, a refusal, a static file.
 */
process.env.HOST ??= '127.0.0.1';
// The largest import, and a little for its envelope; each route takes what it needs of that.
process.env.BODY_SIZE_LIMIT ??= '21M';
// Whatever hangs then, a stop is over within four seconds.
process.env.SHUTDOWN_TIMEOUT ??= '1';
writeForOneself();

// The web server that SvelteKit's adapter has made: it listens once it is loaded, and no request has come by then.
const built = '../index.js';
const { server } = (await import(/* @vite-ignore */ built)) as { server: { server: Server } };
const headers = Object.entries(securityHeaders(process.env.ORIGIN));
server.server.prependListener('request', (_, response) => {
  for (const [name, value] of headers) response.setHeader(name, value);
});
