import { spawn, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

export interface Served {
	process: ChildProcess;
	url: string;
	/** What it wrote so far. */
	output(): string;
	kill(signal?: NodeJS.Signals): Promise<void>;
}

/** Starts the built server on a port of its own and waits until it answers. Rejects with its output when it ends. */
export function serve(
	port: number,
	data: string,
	env: Record<string, string> = {},
	demo = false
): Promise<Served> {
	const child = spawn(
		process.execPath,
		[
			'--input-type=module',
			'-e',
			`const { serve } = await import('./scripts/serve.mjs'); await serve({ data: ${JSON.stringify(data)}, demo: ${demo} });`
		],
		{
			cwd: root,
			env: { ...process.env, PORT: String(port), ...env }
		}
	);
	let output = '';
	return new Promise((resolve, reject) => {
		const take = (chunk: Buffer) => {
			output += chunk.toString();
			const url = output.match(/https?:\/\/\S+/)?.[0];
			if (url)
				resolve({
					process: child,
					url: `${url.split(':')[0]}://127.0.0.1:${port}`,
					output: () => output,
					kill: (signal = 'SIGKILL') =>
						new Promise((done) => {
							if (child.exitCode !== null || child.signalCode !== null) return done();
							child.once('exit', () => done());
							child.kill(signal);
						})
				});
		};
		child.stdout.on('data', take);
		child.stderr.on('data', take);
		child.once('exit', (code) => reject(new Error(`The server ended with ${code}: ${output}`)));
	});
}
