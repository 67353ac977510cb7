// Serves the built app. Bound to this machine unless HOST says otherwise and a passphrase guards it.
import { createServer } from 'node:http';
import { root } from './setup.mjs';

const LOCAL = new Set(['127.0.0.1', 'localhost', '::1']);

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
	if (data) process.env.DRAWER_DATA = data;
	process.env.DRAWER_HOME = root;
	process.env.DRAWER_LISTEN = `${host}:${port}`;
	if (demo) process.env.DRAWER_DEMO = '1';
	// The app itself says how large what may be: bundles as large as they are, all else 64 MiB.
	process.env.BODY_SIZE_LIMIT = 'Infinity';
	process.env.PROTOCOL_HEADER = 'x-drawer-protocol';
	const { handler } = await import('../build/handler.js');
	const server = createServer((request, response) => {
		request.headers['x-drawer-protocol'] = 'http';
		handler(request, response);
	});
	server.on('error', (error) => {
		console.error(
			error.code === 'EADDRINUSE'
				? `Port ${port} is taken: another Silent Drawer may be running. Set PORT to another number.`
				: error.message
		);
		process.exit(1);
	});
	server.listen(port, host, () =>
		console.log(
			`Silent Drawer${demo ? ' (demo studio)' : ''}: http://${host.includes(':') ? `[${host}]` : host}:${port}`
		)
	);
	for (const signal of ['SIGINT', 'SIGTERM'])
		process.on(signal, () => {
			server.closeAllConnections();
			server.close(() => process.exit(0));
		});
}
