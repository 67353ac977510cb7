process.env.DRAWER_HOME = '/work/main';
const { mkdtempSync } = await import('node:fs');
const { openStudio } = await import('/work/main/src/lib/server/db/connection');
const { addDevice } = await import('/work/main/src/lib/server/gear');
const { deviceSchema } = await import('/work/main/src/lib/core/gear');
const { factoryState, seededRandom, tweak, between } = await import('/work/main/src/lib/core/bench');
const { makeSlot, messagesFor, parseProfile } = await import('/work/main/src/lib/core/profile');
const { shippedProfiles } = await import('/work/main/src/lib/server/profiles');
const { appendMessages, appendTrace, beginTransfer, finishTransfer } =
	await import('/work/main/src/lib/server/transfers');
const { keepVersion, openVersion, listVersions } = await import('/work/main/src/lib/server/drawer');
const { toHex } = await import('/work/main/src/lib/core/midi');
const { readFileSync } = await import('node:fs');
const src = readFileSync('/work/main/scripts/bench.ts', 'utf8');
const id0 = /'profiles\/([a-z-]+)\.json'/.exec(src);
const json: any = structuredClone(
	shippedProfiles().find(
		(p) =>
			p.messages['bank-dump'] &&
			p.areas[0].record === 'program' &&
			(p.messages['bank-dump'] as any).parts[3]?.records
	)
);
json.id = 'bench-large';
json.areas = [json.areas[0]].concat(json.areas.slice(1));
json.areas[0] = { ...json.areas[0], slots: 128, labels: { style: 'number', first: 1, digits: 3 } };
json.records.program.size = 256;
json.messages['bank-dump'].parts[3].records = 128;
const profile = parseProfile(json);
shippedProfiles().push(profile);
const folder = mkdtempSync('/tmp/prof-');
const studio = await openStudio(folder + '/s.sqlite');
const dev = await addDevice(studio, deviceSchema.parse({ name: 'L', deviceId: 0, profileId: profile.id }));
const device: any = { ...dev };
const random = seededRandom(3);
const mem = factoryState(profile, seededRandom(9)).memory;
const N = Number(process.env.N ?? 200);
const dumps = Array.from({ length: N }, () => {
	const recs = mem[profile.areas[0].id];
	for (let i = between(random, 1, 3); i > 0; i--) {
		const at = between(random, 0, recs.length - 1);
		recs[at] = tweak(profile, profile.areas[0].id, recs[at], random);
	}
	return messagesFor(
		profile,
		recs.map((b, i) => makeSlot(profile, profile.areas[0].id, i, b)),
		{ deviceId: 0 }
	);
});
let minute = 0;
studio.now = () => new Date(Date.UTC(2016, 0, 1) + 60000 * 200 * minute);
const T: any = {};
const t = async (k: string, f: () => Promise<any>) => {
	const s = performance.now();
	const r = await f();
	T[k] = (T[k] ?? 0) + performance.now() - s;
	return r;
};
const mode = process.env.MODE ?? 'transfer';
for (const dump of dumps) {
	minute++;
	if (mode === 'keep') {
		await t('keep', () =>
			keepVersion(studio, {
				device,
				profile,
				messages: dump,
				kind: 'routine',
				world: 'hardware',
				proof: 'checksum'
			})
		);
		continue;
	}
	const { id } = await t('begin', () =>
		beginTransfer(studio, {
			deviceId: device.id,
			direction: 'capture',
			world: 'hardware',
			scope: { kind: 'area', area: profile.areas[0].id },
			predictedMs: 1000
		})
	);
	const messages = dump.map((b) => toHex(b));
	await t('append', () => appendMessages(studio, id, { position: 0, messages }));
	await t('trace', () =>
		appendTrace(studio, id, {
			part: 0,
			lines: [
				{ atMs: 0, way: 'sent', hex: 'f07e7f0601f7', says: 'Identity request' },
				...messages.map((hex, i) => ({ atMs: 20 + i, way: 'received' as const, hex, says: 'Bank dump' }))
			]
		})
	);
	await t('finish', () => finishTransfer(studio, id, { status: 'complete', reason: null, firmware: '1.04' }));
}
for (const k in T) console.log(k, (T[k] / N).toFixed(2), 'ms');
const vs = await listVersions(studio, device.id);
const s = performance.now();
for (const v of vs.slice(0, 100)) await openVersion(studio, v.id);
console.log('open', ((performance.now() - s) / Math.min(100, vs.length)).toFixed(2));
await studio.close();
for (const [k, [n, t]] of Object.entries((globalThis as any).SQLT ?? {}) as any)
	console.log((t / N).toFixed(3), (n / N).toFixed(2), k);
const studio2 = await openStudio(folder + '/s2.sqlite');
const tm = async (k: string, n: number, f: () => any) => {
	for (let i = 0; i < 5; i++) await f();
	const s = performance.now();
	for (let i = 0; i < n; i++) await f();
	console.log(k, ((performance.now() - s) / n).toFixed(3));
};
await tm('empty write', 200, () => studio2.write(async () => {}));
const { run: runSql } = await import('/work/main/src/lib/server/store/sql');
await tm('write one row', 200, () =>
	studio2.write(async (t: any) => {
		await runSql(studio2, 'INSERT INTO words(text) VALUES (hex(randomblob(9)))', [], t);
	})
);
const { decodeDump, profileDigest } = await import('/work/main/src/lib/core/profile');
await tm('decode', 100, () => decodeDump(profile, dumps[0]));
await tm('digest', 100, () => profileDigest(profile));
const { keepRevision } = await import('/work/main/src/lib/server/profiles');
await tm('keepRevision', 100, () => studio2.write((t: any) => keepRevision(studio2, profile, t)));
const { createHash } = await import('node:crypto');
await tm('sha37k', 200, () => createHash('sha256').update(dumps[0][0]).digest('hex'));
const { difference } = await import('/work/main/src/lib/core/drawer');
await tm('difference', 200, () => difference(dumps[0][0], dumps[1][0]));
await studio2.close();
