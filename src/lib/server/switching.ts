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
import { nothingKnown, readingLine, standingOf, type Knowledge } from '../core/drawer';
import { Problem } from '../core/problem';
import type { Transaction } from 'sequelize';
import type { Studio } from './db/connection';
import { stored } from './store/sql';
import { forgottenBy, modesFor } from './forgotten';
import { listDevices } from './gear';
import { readableSlots } from './knowing';
import { newId } from './new-id';
import { getPairings } from './pairings';
import { paperServices, takeOrderOf, type Paper, type PaperKind } from './papers';
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
import { readStandings } from './store/knowledge';

export const POWER_ON: PaperKind<PowerOn> = {
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

/** How a device's sounds were changed since they were read, in words; null where they were not, or cannot be read. */
function changedWords(studio: Studio, profileId: string | null, knowledge: Knowledge): string | null {
	const profile = profileOrNull(studio, profileId);
	if (!profile || profile.capture.length === 0) return null;
	const known = standingOf(knowledge, readableSlots(profile));
	const { changed } = known.states;
	return changed === 0
		? null
		: `${changed} of ${known.slots} slots were changed since they were read (${readingLine(known, studio.now().getTime()).toLowerCase()})`;
}

async function factsOf(studio: Studio): Promise<SwitchFacts> {
	const [{ rig }, devices, pairings, standings] = await Promise.all([
		readStudioRig(studio),
		listDevices(studio),
		getPairings(studio),
		readStandings(studio, studio.world)
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
			devices.flatMap(({ id, profileId }) => {
				const says = changedWords(studio, profileId, standings.get(id) ?? nothingKnown);
				return says === null ? [] : [[id, says] as const];
			})
		)
	};
}

async function tell(studio: Studio, open: Paper<PowerOn>): Promise<OpenPowerOn> {
	const facts = await factsOf(studio);
	return {
		...open,
		on: switchOnList(facts, open.document),
		off: switchOffList(facts, open.document),
		devices: facts.rig.devices.map(({ id, name, place }) => ({ id, name, place }))
	};
}

export const {
	document: powerOnDocument,
	get: getPowerOn,
	edit: editPowerOn,
	move: movePowerOn,
	take: takePowerOn
} = paperServices(POWER_ON, tell, 'A power-on list from a file');

export const takePowerOnSchema = takeOrderOf(powerOnSchema);

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
	const run = stored(switchingSchema, row.document);
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
		let run = stored(switchingSchema, row.document);
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
		const run = stored(switchingSchema, row.document);
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
