// Serves the built app. Bound to this machine unless HOST says otherwise and a passphrase guards it.
import { readFileSync } from 'node:fs';
import compression from 'compression';
import { createServer } from 'node:http';
import { createServer as createSecure } from 'node:https';
import { createSecureContext } from 'node:tls';
import { root } from './setup.mjs';

const LOCAL = new Set(['127.0.0.1', 'localhost', '::1']);

/** The certificate and its key, where both are given: then the app is served over HTTPS alone. */
function keys() {
	const { DRAWER_TLS_CERT: cert, DRAWER_TLS_KEY: key } = process.env;
	if (!cert && !key) return null;
	if (!cert || !key) {
		console.error('DRAWER_TLS_CERT and DRAWER_TLS_KEY belong together: give both, or none.');
		process.exit(1);
	}
	try {
		const pair = { cert: readFileSync(cert), key: readFileSync(key), minVersion: 'TLSv1.2' };
		createSecureContext(pair);
		return pair;
	} catch (error) {
		console.error(`The certificate or its key cannot be read: ${error.message}`);
		process.exit(1);
	}
}

/** Starts the server; `data` is the folder of the studio, `demo` tells the app which world it shows. */
export async function serve({ data, demo = false }) {
	const host = process.env.HOST || '127.0.0.1';
	const port = Number(process.env.PORT || 5317);
	if (!LOCAL.has(host) && !process.env.DRAWER_PASSPHRASE) {
		console.error(
			`HOST=${host} would let others on the network in. Set DRAWER_PASSPHRASE first, then every page asks for it.`
		);
		process.exit(1);
	}
	const tls = keys();
	const protocol = tls ? 'https' : 'http';
	if (data) process.env.DRAWER_DATA = data;
	process.env.DRAWER_HOME = root;
	process.env.DRAWER_LISTEN = `${host}:${port}`;
	const address = `${protocol}://${host.includes(':') ? `[${host}]` : host}:${port}`;
	process.env.DRAWER_ADDRESS = address;
	if (demo) process.env.DRAWER_DEMO = '1';
	// The app itself says how large what may be: bundles as large as they are, all else 64 MiB.
	process.env.BODY_SIZE_LIMIT = 'Infinity';
	process.env.PROTOCOL_HEADER = 'x-drawer-protocol';
	const { handler } = await import('../build/handler.js');
	const squeeze = compression({
		// What tells how far it is has to arrive as it is told.
		filter: (request, response) => !request.url.endsWith('/stream') && compression.filter(request, response)
	});
	const answer = (request, response) => {
		request.headers['x-drawer-protocol'] = protocol;
		squeeze(request, response, () => handler(request, response));
	};
	// A connection that ends just as its browser takes it up again is a request that fails: it is kept while somebody looks around.
	const keepAliveTimeout = 120_000;
	const server = tls
		? createSecure({ ...tls, keepAliveTimeout }, answer)
		: createServer({ keepAliveTimeout }, answer);
	server.on('error', (error) => {
		console.error(
			error.code === 'EADDRINUSE'
				? `Port ${port} is taken: another Silent Drawer may be running. Set PORT to another number.`
				: error.message
		);
		process.exit(1);
	});
	server.listen(port, host, () => console.log(`Silent Drawer${demo ? ' (demo studio)' : ''}: ${address}`));
	for (const signal of ['SIGINT', 'SIGTERM'])
		process.on(signal, () => {
			server.closeAllConnections();
			server.close(() => process.exit(0));
		});
}
