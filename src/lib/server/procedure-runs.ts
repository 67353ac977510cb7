import type { Transaction } from 'sequelize';
import { z } from 'zod';
import {
	actOn,
	backupOf,
	gateWhyNot,
	procedureRunSchema,
	runActSchema,
	stateOf,
	whyNotShown,
	wornFor,
	wornWords,
	type GateFacts,
	type ListedRun,
	type OpenRun,
	type ProcedureRun,
	type RunAct
} from '../core/care';
import type { LiveWorld } from '../core/drawer';
import type { Device } from '../core/gear';
import { Problem } from '../core/problem';
import { readFirmware } from '../core/profile';
import { careFacts } from './care-facts';
import type { Studio } from './db/connection';
import { stored } from './store/sql';
import { getDevice, listDevices } from './gear';
import { hashOf } from './hash';
import { keepFile, listKeptFiles, readKeptFile } from './kept-files';
import { noteTouched } from './knowing';
import { localDay } from './local-time';
import { newId } from './new-id';
import { getProcedure } from './procedures';
import { profileOrNull } from './profiles';
import { noteCarriedOut, serviceDocument } from './service-book';
import {
	careRunRow,
	careRunRows,
	insertCareRun,
	openCareRuns,
	updateCareRun,
	type CareRun
} from './store/care-runs';
import { versionsOfDevice } from './store/versions';

export const beginRunSchema = z.object({
	procedure: z.string().min(1).max(60),
	device: z.string().min(1).max(120).nullable().default(null)
});

/** One act of a run, on the revision that its page shows, and who says to have looked. */
export const runOrderSchema = z.object({
	revision: z.number().int().min(1),
	act: runActSchema.refine((act) => act.do !== 'file', 'A file is sent by itself, to …/file.'),
	people: z.array(z.string().trim().min(1).max(60)).max(8).default([])
});

const notFound = (id: string) =>
	new Problem('run.not-found', `There is no run “${id}”.`, 'Look at the list of procedures.');

async function kept(studio: Studio, id: string, transaction?: Transaction): Promise<CareRun> {
	const row = await careRunRow(studio, id, transaction);
	if (row?.kind !== 'procedure') throw notFound(id);
	return row;
}
const runIn = (row: CareRun): ProcedureRun => stored(procedureRunSchema, row.document);
const deviceOf = async (studio: Studio, { deviceId }: CareRun): Promise<Device | null> =>
	deviceId === null ? null : getDevice(studio, deviceId);

async function told(studio: Studio, row: CareRun, device: Device | null, facts: GateFacts): Promise<OpenRun> {
	const run = runIn(row);
	const state = stateOf(run);
	const { step, begunAt, file } = state;
	const profile = device && profileOrNull(studio, device.profileId);
	const asked = file !== null || step?.by === 'file';
	const files = asked && device ? await listKeptFiles(studio, { device: device.id }) : [];
	const worn =
		device && run.procedure.service === 'firmware'
			? wornFor(await serviceDocument(studio), device.id, 'update')
			: [];
	const keptAs = files.find(({ hash, name }) => hash === file?.sha256 && name === file.name);
	return {
		id: row.id,
		title: row.title,
		world: row.world,
		revision: row.revision,
		begunAt: row.begunAt,
		endedAt: row.endedAt,
		device: device && { id: device.id, name: device.name, benchUnit: device.benchUnit },
		run,
		step: step?.id ?? null,
		begun: begunAt,
		over: state.over,
		ended: [...state.ended],
		chosen: Object.fromEntries(state.chosen),
		gate: gateWhyNot(run, facts, studio.now().toISOString()),
		shown:
			step?.by === 'app' && begunAt !== null
				? whyNotShown(step.act, facts, begunAt, facts.followers ?? [], backupOf(run))
				: null,
		followers: facts.followers ?? [],
		file:
			file && keptAs
				? {
						id: keptAs.id,
						name: file.name,
						sha256: file.sha256,
						version: file.version,
						variant: file.variant
					}
				: null,
		worn: worn.map(wornWords),
		files: files.map(({ id, name }) => ({ id, name })),
		firmware: profile?.firmware ?? null,
		model: profile ? profile.model : '',
		versionId: backupOf(run)
	};
}

/** A run as it is now. @throws Problem `run.not-found` */
export async function getRun(studio: Studio, id: string): Promise<OpenRun> {
	const row = await kept(studio, id);
	const device = await deviceOf(studio, row);
	return told(studio, row, device, await careFacts(studio, device, row.world));
}

/** Runs of procedures: those that are not over, then the newest. */
export async function listRuns(studio: Studio, limit = 40): Promise<ListedRun[]> {
	const names = new Map((await listDevices(studio, { archived: true })).map(({ id, name }) => [id, name]));
	return (await careRunRows(studio, ['procedure'], limit)).map((row) => {
		const run = runIn(row);
		return {
			id: row.id,
			title: row.title,
			device: row.deviceId === null ? null : (names.get(row.deviceId) ?? 'a device that is gone'),
			begunAt: row.begunAt,
			endedAt: row.endedAt,
			over: row.over,
			step: stateOf(run).step?.title ?? null,
			overruled: run.entries.filter(({ what }) => what === 'overruled').length
		};
	});
}

/**
 * Begins a run. One of the same procedure and device that is not over is gone on with.
 * @throws Problem `procedure.not-found`, `device.not-found`, `procedure.device` where it is about a device and none was said
 */
export async function beginRun(studio: Studio, given: z.infer<typeof beginRunSchema>): Promise<OpenRun> {
	const device = given.device === null ? null : await getDevice(studio, given.device);
	const procedure = await getProcedure(studio, given.procedure, device);
	if (procedure.about === 'device' && !device)
		throw new Problem('procedure.device', `“${procedure.title}” is about one device.`, 'Choose which one.');
	const deviceId = procedure.about === 'device' ? device!.id : null;
	const open = (await openCareRuns(studio, 'procedure')).find(
		(row) =>
			row.deviceId === deviceId && runIn(row).procedure.id === procedure.id && row.world === studio.world
	);
	if (open) return getRun(studio, open.id);
	const id = newId();
	await studio.write((transaction) =>
		insertCareRun(
			studio,
			{
				id,
				kind: 'procedure',
				title: procedure.title,
				deviceId,
				world: studio.world,
				begunAt: studio.now().toISOString(),
				endedAt: null,
				over: null,
				revision: 1,
				document: procedureRunSchema.parse({ procedure, device: device?.name ?? null })
			},
			transaction
		)
	);
	return getRun(studio, id);
}

/** The version that a backup since a time made: the one that holds the most. */
async function backupSince(studio: Studio, device: Device, world: LiveWorld, since: string): Promise<string> {
	const made = (await versionsOfDevice(studio, device.id)).filter(
		(version) => version.world === world && version.takenAt >= since && version.verified
	);
	return made.sort((a, b) => b.slots - a.slots)[0]?.id ?? '';
}

/**
 * One act of a run, and with it every gate behind it that holds: a gate is looked at when its turn comes.
 * @throws Problem `run.conflict` where somebody else went on meanwhile, and whatever `actOn` refuses
 */
export async function actOnRun(
	studio: Studio,
	id: string,
	{ revision, act, people }: { revision: number; act: RunAct; people: readonly string[] }
): Promise<OpenRun> {
	const before = await kept(studio, id);
	const device = await deviceOf(studio, before);
	const facts = await careFacts(studio, device, before.world, people);
	const ref = await refOf(studio, runIn(before), act, device, before.world);
	await studio.write(async (transaction) => {
		const row = await kept(studio, id, transaction);
		if (row.revision !== revision)
			throw new Problem(
				'run.conflict',
				'This run went on in another tab meanwhile.',
				'It is shown as it is now. Look at it, then go on.'
			);
		const now = studio.now().toISOString();
		let run = actOn(runIn(row), act.do === 'done' ? { ...act, ref } : act, facts, now);
		// What a system that is sent does to its memory nobody knows before it is read again.
		const due = stateOf(run).step;
		if (act.do === 'begin' && due?.by === 'app' && due.act === 'send' && device)
			await noteTouched(studio, device.id, row.world, transaction);
		run = pastGates(run, facts, now);
		const { over, file } = stateOf(run);
		if (over === 'done' && row.deviceId !== null) {
			const { id: procedure, service } = run.procedure;
			const reasons = run.entries.filter(({ what }) => what === 'overruled').length;
			const says = `${row.title}${reasons === 0 ? '' : `, ${reasons} passed with a reason`}`;
			await noteCarriedOut(
				studio,
				{
					device: row.deviceId,
					procedure,
					kind: service,
					says,
					on: localDay(now),
					firmware: service === 'firmware' ? (file?.version ?? '') : ''
				},
				transaction
			);
		}
		await updateCareRun(
			studio,
			{ id, document: run, endedAt: over === null ? null : now, over },
			transaction
		);
	});
	const after = await kept(studio, id);
	return told(studio, after, device, await careFacts(studio, device, after.world));
}

async function refOf(
	studio: Studio,
	run: ProcedureRun,
	act: RunAct,
	device: Device | null,
	world: LiveWorld
): Promise<string> {
	const { step, begunAt } = stateOf(run);
	return act.do === 'done' && step?.by === 'app' && step.act === 'backup' && device && begunAt !== null
		? backupSince(studio, device, world, begunAt)
		: '';
}

/** Passes gates that hold by what is known; those that ask for people wait for their names. */
function pastGates(run: ProcedureRun, facts: GateFacts, now: string): ProcedureRun {
	for (;;) {
		const { step } = stateOf(run);
		if (step?.by !== 'gate' || step.holds.is === 'people' || gateWhyNot(run, facts, now) !== null) return run;
		run = actOn(run, { do: 'pass', step: step.id }, facts, now);
	}
}

/**
 * The file of a run's file step: it is kept with the device, read by its profile where that knows such files, and noted.
 * @param version what is typed where no profile reads it
 * @throws Problem `firmware.file`, `run.conflict`, `procedure.device`
 */
export async function chooseRunFile(
	studio: Studio,
	id: string,
	given: { revision: number; name: string; bytes: Uint8Array; version: string }
): Promise<OpenRun> {
	const row = await kept(studio, id);
	const device = await deviceOf(studio, row);
	const { step } = stateOf(runIn(row));
	if (!device || step?.by !== 'file')
		throw new Problem('procedure.turn', 'It is no file’s turn.', 'Do one step after another.');
	const profile = profileOrNull(studio, device.profileId);
	const read = profile?.firmware ? readFirmware(given.bytes, profile.firmware, profile.model) : null;
	const { file } = await keepFile(
		studio,
		{ device: device.id },
		{ name: given.name, bytes: given.bytes, note: `For “${row.title}”` }
	);
	return actOnRun(studio, id, {
		revision: given.revision,
		people: [],
		act: {
			do: 'file',
			step: step.id,
			name: file.name,
			sha256: hashOf(given.bytes),
			version: read?.version ?? given.version,
			variant: read?.variant.id ?? ''
		}
	});
}

export const keptRunFileSchema = z.object({
	revision: z.number().int().min(1),
	file: z.string().min(1).max(60),
	version: z.string().trim().max(30).default('')
});

/** As `chooseRunFile`, with a file that is kept with the device already. @throws Problem `kept-file.not-found` */
export async function chooseKeptRunFile(
	studio: Studio,
	id: string,
	{ revision, file, version }: z.infer<typeof keptRunFileSchema>
): Promise<OpenRun> {
	const { name, bytes, owner } = await readKeptFile(studio, file);
	if (owner !== `device:${(await kept(studio, id)).deviceId}`)
		throw new Problem(
			'kept-file.not-found',
			'That file is kept with something else.',
			'Choose one of this device.'
		);
	return chooseRunFile(studio, id, { revision, name, bytes, version });
}

/** Devices to which a new system is being sent, or was and the sending broke off, with the run by which. */
export async function updatingDevices(studio: Studio): Promise<Map<string, { runId: string; says: string }>> {
	const found = new Map<string, { runId: string; says: string }>();
	for (const row of await openCareRuns(studio, 'procedure')) {
		if (row.deviceId === null || row.world !== studio.world) continue;
		const run = runIn(row);
		const { step } = stateOf(run);
		if (step?.by !== 'app' || step.act !== 'send') continue;
		const last = run.entries.findLast((entry) => entry.step === step.id);
		if (last?.what === 'begun')
			found.set(row.deviceId, {
				runId: row.id,
				says: 'A new system was begun, and nobody noted how it ended'
			});
		else if (last?.what === 'failed') found.set(row.deviceId, { runId: row.id, says: last.note });
	}
	return found;
}
