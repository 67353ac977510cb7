import { createRequire } from 'node:module';
import { Worker } from 'node:worker_threads';
import type { ElkNode } from 'elkjs/lib/elk-api';

/** What the thread does: one graph, laid out. ELK is told by its file, as the thread has no folder of its own. */
const LAY_OUT = `
	const { parentPort, workerData } = require('node:worker_threads');
	const ELK = require(workerData.elk);
	new ELK().layout(workerData.graph).then((laid) => parentPort.postMessage(laid));
`;
const elk = createRequire(import.meta.url).resolve('elkjs/lib/elk.bundled.js');

/** Graphs that were laid out last, by what they say. */
const KEPT = 8;
const laidOut = new Map<string, Promise<ElkNode>>();

/** Lays a graph out with ELK, each once, in a thread of its own: other requests are answered meanwhile. */
export function layOut(graph: ElkNode): Promise<ElkNode> {
	const key = JSON.stringify(graph);
	let laid = laidOut.get(key);
	if (!laid) {
		laid = inThread(graph);
		laidOut.set(key, laid);
		laid.catch(() => laidOut.delete(key));
		if (laidOut.size > KEPT) laidOut.delete(laidOut.keys().next().value!);
	}
	return laid;
}

const inThread = (graph: ElkNode): Promise<ElkNode> =>
	new Promise((resolve, reject) => {
		// Whatever the server was started with, the thread is a plain script.
		const worker = new Worker(LAY_OUT, { eval: true, execArgv: [], workerData: { elk, graph } });
		worker.once('message', resolve);
		worker.once('error', reject);
		worker.once('exit', (code) => reject(new Error(`The map was not laid out (${code}).`)));
	});
