import { z } from 'zod';
import {
	nextItem,
	powerOnSchema,
	switchingSchema,
	switchOffList,
	switchOnList,
	tick,
	ticked,
	TICKS,
	type OpenSwitching,
	type PowerOn,
	type SwitchFacts,
	type SwitchList
} from '../core/care';
import { readingLine } from '../core/drawer';
import { Problem } from '../core/problem';
import type { Transaction } from 'sequelize';
import type { Studio } from './db/connection';
import type { EditOrder, MoveOrder } from './edit-orders';
import { forgottenBy, modesFor } from './forgotten';
import { listDevices } from './gear';
import { newId } from './new-id';
import { getPairings } from './pairings';
import { editPaper, getPaper, movePaper, takeOrderOf, takePaper, type Paper, type PaperKind } from './papers';
import { profileOrNull } from './profiles';
import { readStudioRig } from './rig';
import {
	careRunRow,
	careRunRows,
	insertCareRun,
	openCareRuns,
	updateCareRun,
	type CareRun
} from './store/care-runs';
import { contactRows } from './store/contacts';
import { today } from './today';

const POWER_ON: PaperKind<PowerOn> = {
	kind: 'power-on',
	a: 'a power-on list',
	schema: powerOnSchema,
	empty: powerOnSchema.parse({})
};

/** The list with what the catalogue, the wiring and the profiles add to it, both ways. */
export interface OpenPowerOn extends Paper<PowerOn> {
	on: SwitchList;
	off: SwitchList;
	/** Devices and places that the list can speak of. */
	devices: { id: string; name: string; place: string }[];
}

async function factsOf(studio: Studio): Promise<SwitchFacts> {
	const [{ rig }, devices, pairings, rows] = await Promise.all([
		readStudioRig(studio),
		listDevices(studio),
		getPairings(studio),
		today(studio)
	]);
	return {
		rig,
		forgets: new Map(
			devices.map((device) => [
				device.id,
				[...forgottenBy(studio, device), ...modesFor(device, devices, pairings.document)]
			])
		),
		askable: new Set(
			devices.flatMap(({ id, profileId }) => (profileOrNull(studio, profileId)?.identity.answers ? [id] : []))
		),
		changed: new Map(
			rows
				.filter(({ readable, known }) => readable && known.states.changed > 0)
				.map(({ device, known }) => [
					device.id,
					`${known.states.changed} of ${known.slots} slots were changed since they were read (${readingLine(known, studio.now().getTime()).toLowerCase()})`
				])
		)
	};
}

async function told(studio: Studio, paper: Promise<Paper<PowerOn>>): Promise<OpenPowerOn> {
	const open = await paper;
	const facts = await factsOf(studio);
	return {
		...open,
		on: switchOnList(facts, open.document),
		off: switchOffList(facts, open.document),
		devices: facts.rig.devices.map(({ id, name, place }) => ({ id, name, place }))
	};
}

/** The document alone, as it is written. */
export const powerOnDocument = async (studio: Studio): Promise<PowerOn> =>
	(await getPaper(studio, POWER_ON)).document;

export const getPowerOn = (studio: Studio): Promise<OpenPowerOn> => told(studio, getPaper(studio, POWER_ON));

/** @throws Problem `power-on.conflict`, `power-on.invalid` */
export const editPowerOn = (studio: Studio, order: EditOrder): Promise<OpenPowerOn> =>
	told(studio, editPaper(studio, POWER_ON, order));

/** @throws Problem `power-on.step.conflict` */
export const movePowerOn = (studio: Studio, order: MoveOrder): Promise<OpenPowerOn> =>
	told(studio, movePaper(studio, POWER_ON, order));

export const takePowerOnSchema = takeOrderOf(powerOnSchema);

/** @throws Problem `power-on.conflict` */
export const takePowerOn = (studio: Studio, order: z.infer<typeof takePowerOnSchema>): Promise<OpenPowerOn> =>
	told(studio, takePaper(studio, POWER_ON, order, 'A power-on list from a file'));

export const beginSwitchingSchema = z.object({ way: z.enum(['on', 'off']) });
export const tickOrderSchema = z.object({
	items: z.array(z.string().min(1).max(200)).min(1).max(500),
	how: z.enum([...TICKS, 'taken back']),
	note: z.string().trim().max(300).default('')
});

const notFound = (id: string) =>
	new Problem(
		'switching.not-found',
		`There is no such list “${id}”.`,
		'Begin to switch the studio on or off.'
	);

async function kept(studio: Studio, id: string, transaction?: Transaction): Promise<CareRun> {
	const row = await careRunRow(studio, id, transaction);
	if (!row || row.kind === 'procedure') throw notFound(id);
	return row;
}

function opened(row: CareRun): OpenSwitching {
	const run = switchingSchema.parse(row.document);
	const done = ticked(run);
	return {
		id: row.id,
		world: row.world,
		begunAt: row.begunAt,
		endedAt: row.endedAt,
		over: row.over,
		run,
		done: Object.fromEntries(done),
		next: row.over === null ? (nextItem(run, done)?.id ?? null) : null
	};
}

/** @throws Problem `switching.not-found` */
export const getSwitching = async (studio: Studio, id: string): Promise<OpenSwitching> =>
	opened(await kept(studio, id));

/** The switching that goes on; null where none does. */
export async function currentSwitching(studio: Studio): Promise<OpenSwitching | null> {
	const open = [...(await openCareRuns(studio, 'on')), ...(await openCareRuns(studio, 'off'))];
	const newest = open.sort((a, b) => b.begunAt.localeCompare(a.begunAt))[0];
	return newest ? opened(newest) : null;
}

/** Switchings, the newest first. */
export const listSwitchings = async (studio: Studio, limit = 10): Promise<OpenSwitching[]> =>
	(await careRunRows(studio, ['on', 'off'], limit)).map(opened);

/** Begins to switch the studio on or off. One that goes on in the other direction is left as it is: it is over. */
export async function beginSwitching(
	studio: Studio,
	{ way }: z.infer<typeof beginSwitchingSchema>
): Promise<OpenSwitching> {
	const list = await getPowerOn(studio);
	const id = newId();
	await studio.write(async (transaction) => {
		const now = studio.now().toISOString();
		for (const kind of ['on', 'off'] as const)
			for (const row of await openCareRuns(studio, kind))
				await updateCareRun(studio, { ...row, endedAt: now, over: 'abandoned' }, transaction);
		await insertCareRun(
			studio,
			{
				id,
				kind: way,
				title: way === 'on' ? 'Studio on' : 'Studio off',
				deviceId: null,
				world: studio.world,
				begunAt: now,
				endedAt: null,
				over: null,
				revision: 1,
				document: switchingSchema.parse({ way, items: list[way].items })
			},
			transaction
		);
	});
	return getSwitching(studio, id);
}

/**
 * Ticks items, or takes ticks back. That a device was heard is looked up, never believed.
 * @throws Problem `switching.over.conflict`, `switching.item`, `switching.how`, `switching.not-heard`
 */
export async function tickItems(
	studio: Studio,
	id: string,
	{ items, how, note }: z.infer<typeof tickOrderSchema>
): Promise<OpenSwitching> {
	const contacts = how === 'heard' ? await contactRows(studio) : [];
	await studio.write(async (transaction) => {
		const row = await kept(studio, id, transaction);
		if (row.over !== null)
			throw new Problem(
				'switching.over.conflict',
				'This list is over: another one was begun, or everything was ticked and it was closed.',
				'Look at the list of now.'
			);
		const now = studio.now().toISOString();
		let run = switchingSchema.parse(row.document);
		for (const item of items) {
			const of = run.items.find((each) => each.id === item);
			if (
				how === 'heard' &&
				of &&
				!contacts.some(
					({ device, contact }) =>
						device === of.device && contact.world === row.world && contact.at >= row.begunAt
				)
			)
				throw new Problem(
					'switching.not-heard',
					`“${of.name}” was not heard since this was begun.`,
					'Ask it again, or tick it by hand once you see that it is on.'
				);
			run = tick(run, item, how, now, note);
		}
		await updateCareRun(studio, { id, document: run, endedAt: null, over: null }, transaction);
	});
	return getSwitching(studio, id);
}

/** Closes a list: everything is ticked, or it is left as it is. */
export async function endSwitching(studio: Studio, id: string): Promise<OpenSwitching> {
	await studio.write(async (transaction) => {
		const row = await kept(studio, id, transaction);
		if (row.over !== null) return;
		const run = switchingSchema.parse(row.document);
		await updateCareRun(
			studio,
			{
				...row,
				endedAt: studio.now().toISOString(),
				over: ticked(run).size === run.items.length ? 'done' : 'abandoned'
			},
			transaction
		);
	});
	return getSwitching(studio, id);
}
