import { orderBySong, type Setting } from '../src/lib/core/drawer';
import { saveBank } from '../src/lib/server/banks';
import type { Studio } from '../src/lib/server/db/connection';
import { listVersions } from '../src/lib/server/drawer';
import { bankFromVersion } from '../src/lib/server/bank-imports';
import { backupCandidates, beginSnapshot, endSnapshot, noteSettings } from '../src/lib/server/snapshots';
import { planBackup } from '../src/lib/core/transfer';
import type { Performer } from './performer';

const ANSWERING = ['Orrery', 'Parallax west', 'Parallax east', 'Umbra hall'];

/** Backs up everything that answers, as one snapshot. */
export async function takeSnapshot(studio: Studio, performer: Performer, title: string): Promise<void> {
	const { candidates, places } = await backupCandidates(studio);
	const plan = planBackup(
		candidates
			.filter(({ device }) => ANSWERING.includes(device.name))
			.map(({ device, profile, past, in: back }) => ({
				id: device.id,
				name: device.name,
				place: device.place,
				profile,
				past,
				ports: [back?.name ?? `Bench, ${device.name}`]
			})),
		places
	);
	const snapshot = await beginSnapshot(studio, {
		title,
		note: '',
		predictedMs: plan.predictedMs,
		devices: plan.jobs.map(({ id, expectedMs }) => ({ id, predictedMs: expectedMs })),
		left: []
	});
	for (const name of ANSWERING) await performer.back(name, { snapshotId: snapshot.id });
	await endSnapshot(studio, snapshot.id, plan.predictedMs * 1.04);
}

/** What no dump holds, noted before each of the snapshots. */
export async function noteDemoSettings(studio: Studio, performer: Performer, time: 0 | 1): Promise<void> {
	const mixer: Setting[] = [
		{ type: 'number', label: 'Main fader', unit: 'dB', value: [-6, -4.5][time] },
		{ type: 'switch', label: 'Low cut on channel 3', value: time === 1 },
		{ type: 'text', label: 'Aux 1 goes to', value: 'Umbra hall' }
	];
	await noteSettings(studio, performer.device('Weir 16').id, mixer);
	await noteSettings(studio, performer.device('Halloran Reed').id, [
		{ type: 'number', label: 'Filter knob', unit: '%', value: 40 },
		{ type: 'number', label: 'Glide knob', unit: '%', value: [10, 25][time] }
	]);
}

/** A bank that is being put together for the next show. */
export async function showBank(studio: Studio, performer: Performer): Promise<void> {
	const { id } = performer.device('Orrery');
	const version = (await listVersions(studio, id)).find(({ title }) => title === 'Première bank')!;
	const { profile } = performer.station('Orrery').unit;
	const bank = await bankFromVersion(studio, version.id, profile.areas[0].id, 'Night of the comets');
	const songs = ['1 Halley', '2 Ice', '2 Ice', '3 Tail', '4 Perihelion', '5 Dust', '6 Return'];
	const entries = bank.document.entries.map((entry, i) =>
		entry && i < 2 * songs.length && i % 2 === 0 ? { ...entry, song: songs[i / 2] } : i < 20 ? entry : null
	);
	await saveBank(studio, bank.id, bank.revision, orderBySong({ ...bank.document, entries }));
}
