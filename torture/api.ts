import sqlite3 from 'sqlite3';
import { z } from 'zod';
import { between, pick, type Random } from '../src/lib/core/bench';
import { OPERATIONS, type Operation } from '../src/lib/server/operations';
import { STRANGE_IDS, mutate, sample, type Schema } from './values';

/** What is done may take long: a plan, a check of everything. */
const DONE_MS = 60_000;

export interface ApiTortured {
	calls: number;
	/** Calls by the status that answered. */
	statuses: Record<string, number>;
	/** The longest that a refusal took, ms. */
	longestRefusalMs: number;
	/** What must not be: each as one line that says how it is done again. */
	faults: string[];
}

/** Tells whether anybody committed anything since it was asked last. */
async function watchFile(file: string) {
	const database = await new Promise<sqlite3.Database>((done, failed) => {
		const opened = new sqlite3.Database(file, sqlite3.OPEN_READONLY, (error) =>
			error ? failed(error) : done(opened)
		);
	});
	const version = () =>
		new Promise<number>((done, failed) =>
			database.get<{ data_version: number }>('PRAGMA data_version', (error, row) =>
				error ? failed(error) : done(row.data_version)
			)
		);
	return { version, close: () => new Promise<void>((done) => database.close(() => done())) };
}

interface Call {
	method: string;
	path: string;
	headers: Record<string, string>;
	body: string | FormData | undefined;
	says: string;
}

/** Texts below these keys are what other calls take. */
const WORDS = /^(id|.*Id|name|key|area|record|hash|file|profile)$/;

/** Every id and name that an answer tells. */
function harvest(value: unknown, into: Set<string>, key = ''): void {
	if (into.size > 600) return;
	if (typeof value === 'string') {
		if (WORDS.test(key) && value.length > 0 && value.length < 80) into.add(value);
	} else if (Array.isArray(value)) for (const each of value.slice(0, 40)) harvest(each, into, key);
	else if (value !== null && typeof value === 'object')
		for (const [name, each] of Object.entries(value)) harvest(each, into, name);
}

const schemaOf = (body: z.ZodType): Schema =>
	z.toJSONSchema(body, { io: 'input', unrepresentable: 'any' }) as unknown as Schema;

/**
 * Walks the description of the API with faulty values: every call that is refused is refused with a problem, soon, and has
 * changed nothing; none ends as an error that nobody foresaw.
 * @param refusedMs the most that a refusal may take
 * @param files valid files of every kind that is read, to be sent whole and hurt
 */
export async function tortureApi(
	url: string,
	file: string,
	random: Random,
	untilMs: number,
	files: readonly Uint8Array[],
	log: () => string,
	refusedMs: number
): Promise<ApiTortured> {
	const told: ApiTortured = { calls: 0, statuses: {}, longestRefusalMs: 0, faults: [] };
	const schemas = new Map<Operation, Schema>(
		OPERATIONS.flatMap((operation) =>
			operation.body ? [[operation, schemaOf(operation.body)] as const] : []
		)
	);
	const known = new Set<string>();
	for (const { method, path, gives } of OPERATIONS)
		if (method === 'GET' && !path.includes('[') && !gives) {
			const answer = await fetch(`${url}/api/v1${path}`).catch(() => null);
			if (answer?.headers.get('content-type')?.includes('json')) harvest(await answer.json(), known);
		}
	const words = [...known];

	const idFor = () =>
		random() < 0.6 && words.length > 0 ? encodeURIComponent(pick(random, words)) : pick(random, STRANGE_IDS);
	const call = (operation: Operation): Call => {
		const path = operation.path.replace(/\[\w+\]/g, idFor);
		const query = Object.keys(operation.query ?? {})
			.filter(() => random() < 0.7)
			.map(
				(name) =>
					`${name}=${random() < 0.4 ? encodeURIComponent(pick(random, words)) : pick(random, STRANGE_IDS)}`
			)
			.join('&');
		const made = { method: operation.method, path: `/api/v1${path}${query ? `?${query}` : ''}` };
		if (operation.file) {
			const form = new FormData();
			const valid = pick(random, files);
			const bytes = Uint8Array.from(valid);
			for (let i = between(random, 0, 6); i > 0 && bytes.length > 0; i--)
				bytes[between(random, 0, bytes.length - 1)] = between(random, 0, 255);
			const cut = random() < 0.3 ? bytes.subarray(0, between(random, 0, bytes.length)) : bytes;
			if (random() < 0.9)
				form.set(
					'file',
					new Blob([Uint8Array.from(cut)]),
					pick(random, ['a.syx', 'a.csv', 'a.mid', 'a.zip', 'a\0.xml', '.', ''])
				);
			for (const name of operation.file)
				if (random() < 0.7) form.set(name, random() < 0.5 ? pick(random, words) : 'a\0');
			return { ...made, headers: {}, body: form, says: `a file of ${cut.length} bytes` };
		}
		const schema = schemas.get(operation);
		if (!schema && (operation.method === 'GET' || random() < 0.7))
			return { ...made, headers: {}, body: undefined, says: '' };
		const raw = random();
		let body: string;
		if (raw < 0.03) body = '['.repeat(between(random, 100, 60_000));
		else if (raw < 0.05) body = `${'{"a":'.repeat(20_000)}1${'}'.repeat(20_000)}`;
		else if (raw < 0.08) body = pick(random, ['', '{', 'null', '"', '1e999', '\0', '[]', '{"a":1,"a":2}']);
		else {
			let value = sample(schema ?? { type: 'object' }, random, words);
			for (let i = between(random, 0, 3); i > 0; i--) value = mutate(value, random);
			body = JSON.stringify(value) ?? 'null';
		}
		return { ...made, headers: { 'content-type': 'application/json' }, body, says: body.slice(0, 300) };
	};

	const watch = await watchFile(file);
	/** Makes a call; what must not be of it, or null. */
	const make = async ({ method, path, headers, body, says }: Call): Promise<string | null> => {
		const before = await watch.version();
		const began = performance.now();
		let answer: Response;
		try {
			answer = await fetch(url + path, {
				method,
				headers,
				body,
				redirect: 'manual',
				signal: AbortSignal.timeout(DONE_MS)
			});
		} catch (error) {
			// A plan is given as long as it asks for: here nobody waits for that.
			if (error instanceof Error && error.name === 'TimeoutError' && says.includes('"seconds"')) return null;
			return `no answer: ${error instanceof Error ? `${error.name} ${String(error.cause ?? '')}` : String(error)}`;
		}
		const tookMs = performance.now() - began;
		const { status } = answer;
		const text = await answer.text();
		told.calls++;
		told.statuses[status] = (told.statuses[status] ?? 0) + 1;
		if (status >= 500) return `status ${status}: ${text.slice(0, 200)} ${log().slice(-1200)}`;
		if (status < 400) {
			if (method !== 'GET' || (await watch.version()) === before) return null;
			return `refused to be a mere question (${status}): the studio changed`;
		}
		told.longestRefusalMs = Math.max(told.longestRefusalMs, tookMs);
		let problem: { code?: unknown; message?: unknown; remedy?: unknown } | undefined;
		try {
			({ problem } = JSON.parse(text) as { problem?: typeof problem });
		} catch {
			return `status ${status} without a problem: ${text.slice(0, 200)}`;
		}
		if (![problem?.code, problem?.message, problem?.remedy].every((part) => typeof part === 'string'))
			return `status ${status} without a problem: ${text.slice(0, 200)}`;
		if (tookMs > refusedMs) return `refused (${status}) only after ${tookMs.toFixed(0)} ms`;
		if ((await watch.version()) !== before) return `refused (${status}), and the studio changed`;
		return null;
	};
	try {
		while (performance.now() < untilMs) {
			const order = call(pick(random, OPERATIONS));
			let fault = await make(order);
			// Something else may have been stored at that moment; a busy machine may have been slow: it has to happen again.
			if (fault?.startsWith('refused') || fault?.includes('ECONNRESET')) fault = await make(order);
			if (fault) told.faults.push(`${order.method} ${order.path.slice(0, 200)} ${order.says}: ${fault}`);
			if (told.faults.length > 60) break;
		}
	} finally {
		await watch.close();
	}
	return told;
}
