import { z } from 'zod';
import { procedureSchema, riskSettingsSchema } from '../core/care';
import { takeSchema } from '../core/contact';
import { mapSchema } from '../core/control';
import {
	appendSchema,
	beginSchema,
	finishSchema,
	resumeSchema,
	retentionSchema,
	safetySchema,
	settingsSchema,
	soundMarkSchema,
	traceSchema,
	versionLabelSchema
} from '../core/drawer';
import { deviceEditSchema, deviceSchema } from '../core/gear';
import { profileSchema } from '../core/profile';
import { rigOrderSchema, rigSchema } from '../core/rig';
import { addToBankSchema, mergeSchema, newBankSchema, saveBankSchema } from './bank-orders';
import { importCatalogueSchema, previewCatalogueSchema } from './catalogue';
import { checkOrderSchema } from './check';
import { contactSchema, undoTakeSchema } from './contact';
import { fitNamesSchema, planPagesSchema } from './control-orders';
import { previewSchema } from './dry-run';
import { EXPORT_FORMATS } from './exports';
import { applyRetentionSchema } from './keeping';
import { forgetSchema, keepTestSchema, rememberSchema } from './midi-ports';
import { sendPageSchema, takeTemplateSchema } from './controllers';
import { editOrderSchema, moveOrderSchema } from './edit-orders';
import { takeFloorSchema } from './floor';
import { addPairingsSchema } from './pairings';
import { planPowerSchema, takePowerSchema } from './power';
import { takeSetSchema } from './set';
import { forgetPlayedSchema, sentSchema } from './set-held';
import { loadOrderSchema } from './set-loads';
import { newMapSchema, tableMapSchema } from './maps';
import { keepPlanSchema } from './plans';
import { beginRunSchema, keptRunFileSchema, runOrderSchema } from './procedure-runs';
import { reminderSchema } from './reminders';
import { doneSchema, takeServiceBookSchema } from './service-book';
import { beginSnapshotSchema, endSnapshotSchema } from './snapshots';
import { beginSwitchingSchema, takePowerOnSchema, tickOrderSchema } from './switching';
import { moveVersionSchema } from './version-moves';
import { moveSchema } from './wiring-history';

export type Method = 'GET' | 'POST' | 'PUT' | 'DELETE';

/** One operation of the HTTP API. Paths are those of the routes below /api/v1, with `[id]` for what varies. */
export interface Operation {
	method: Method;
	path: string;
	says: string;
	/** JSON body. */
	body?: z.ZodType;
	/** A file in the field `file` of a form, with further fields. */
	file?: string[];
	/** Parameters of the query, with what they mean. */
	query?: Record<string, string>;
	/** A file is given back instead of JSON. */
	gives?: 'file';
}

const get = (path: string, says: string, more: Partial<Operation> = {}): Operation => ({
	method: 'GET',
	path,
	says,
	...more
});
const post = (path: string, says: string, body?: z.ZodType, more: Partial<Operation> = {}): Operation => ({
	method: 'POST',
	path,
	says,
	body,
	...more
});
const put = (path: string, says: string, body?: z.ZodType): Operation => ({
	method: 'PUT',
	path,
	says,
	body
});
const formats = `One of ${EXPORT_FORMATS.join(', ')}.`;

/** Everything that can be asked of the app over HTTP; the interface uses the same. A test compares it with the routes. */
export const OPERATIONS: readonly Operation[] = [
	get('/banks', 'Banks that are being built', { query: { device: 'Only those for this device.' } }),
	post('/banks', 'Begins a bank, empty or from a version', newBankSchema),
	get('/banks/[id]', 'A bank'),
	put('/banks/[id]', 'Stores a changed bank', saveBankSchema),
	{ method: 'DELETE', path: '/banks/[id]', says: 'Removes a bank' },
	get('/banks/[id]/export', 'A bank as a file', { query: { as: formats }, gives: 'file' }),
	post('/banks/[id]/sounds', 'Puts sounds into the first free slots of a bank', addToBankSchema),
	post('/banks/[id]/merge', 'Merges a bank with what its device holds', mergeSchema),
	get('/bench/units', 'Simulated devices on the bench'),
	post(
		'/bench/units',
		'Puts a simulated device on the bench',
		z.object({ profileId: z.string(), name: z.string() })
	),
	get('/bench/units/[id]', 'A simulated device with its memory'),
	put('/bench/units/[id]', 'Stores a simulated device as the bench left it'),
	get('/bundle', 'The studio as one .zip', {
		query: {
			devices: 'Ids with commas between: of these the drawers alone. The whole studio when left out.'
		},
		gives: 'file'
	}),
	post('/bundle', 'Takes a bundle over; tells where both differ', undefined, {
		file: [],
		query: { take: 'Keys of differences, with commas between: of these the bundle’s is taken.' }
	}),
	get('/catalogue/export', 'The catalogue as CSV', { gives: 'file' }),
	post('/catalogue/import', 'Adds chosen rows of a CSV', importCatalogueSchema),
	post('/catalogue/preview', 'What each row of a CSV would become', previewCatalogueSchema),
	get('/check', 'Reads everything again and decodes it; changes nothing'),
	post(
		'/check',
		'As GET; rebuilds what can be, and sets damaged contents aside when asked',
		checkOrderSchema
	),
	post(
		'/check/repair',
		'Rebuilds from its messages what is wrongly said of slots, with a copy of the studio first'
	),
	post('/check/stream', 'As POST /check, as lines of JSON that tell how far it is', checkOrderSchema),
	post('/contact/take', 'Takes what was found at the ports into the catalogue, as one change', takeSchema),
	post('/contact/undo', 'Undoes that change', undoTakeSchema),
	post('/control/check', 'What is wrong with a controller map', mapSchema),
	post('/control/learn', 'What controls a recording (.mid) holds', undefined, { file: [] }),
	post('/control/names', 'Short names for a display, distinct and the most readable', fitNamesSchema),
	post(
		'/control/pages',
		'Plans pages, proved best or with its gap; one at a time, ended by hanging up',
		planPagesSchema
	),
	post('/control/strips', 'The paper strips of a map in true size, as SVG', mapSchema, { gives: 'file' }),
	get('/copy', 'A copy of the whole studio as one SQLite file', { gives: 'file' }),
	get('/devices', 'The catalogue', { query: { archived: 'With archived devices too.' } }),
	post('/devices', 'Adds a device', deviceSchema),
	get('/devices/[id]', 'A device'),
	put('/devices/[id]', 'Changes a device; with `was`, what others changed since is kept', deviceEditSchema),
	{ method: 'DELETE', path: '/devices/[id]', says: 'Archives a device' },
	post('/devices/[id]/contact', 'Notes where it was heard', contactSchema),
	post('/devices/[id]/contact/cables', 'Notes the way on which it was heard as its cables'),
	post('/devices/[id]/duplicate', 'A second device like this one'),
	get('/devices/[id]/files', 'Documents of a device, newest first'),
	post(
		'/devices/[id]/files',
		'Keeps a document with a device; one of the same name stays as an older version',
		undefined,
		{
			file: ['note']
		}
	),
	put(
		'/devices/[id]/plug',
		'Plugs a device in to the bench, or pulls it out',
		z.object({ unit: z.string().nullable() })
	),
	put('/devices/[id]/reminder', 'After how many days a backup is due', reminderSchema),
	put('/devices/[id]/settings', 'What no dump of it holds', settingsSchema),
	get('/devices/[id]/targets', 'What a device can be told, as a silent-drawer.targets list'),
	post('/devices/[id]/touch', 'Notes that its sounds were changed'),
	post('/devices/[id]/unarchive', 'Brings a device back'),
	get('/devices/[id]/way', 'The out that reaches it and the in where it comes back'),
	get('/families', 'Sounds that are the same or nearly so', {
		query: {
			profile: 'Profile.',
			area: 'Area.',
			parameters: 'How many may differ.',
			distance: 'Mean distance, 0–1.'
		}
	}),
	post('/files/inspect', 'Looks at a dump file without storing it', undefined, { file: [] }),
	post('/files/store', 'Keeps a dump file as a version', undefined, { file: ['deviceId', 'note', 'places'] }),
	get('/find', 'Sounds by name, in all drawers', {
		query: { q: 'Words of the name; one slip is forgiven.' }
	}),
	get('/find/texts', 'Versions and banks by what is written on them', { query: { q: 'Words.' } }),
	get('/floor', 'What is on the floor: boxes, pedals, cables, and what each line comes to, with its cures'),
	get('/floor/document', 'The floor as a silent-drawer.floor file', { gives: 'file' }),
	post(
		'/floor/document',
		'Puts a floor from a file in the place of the one that there is, as one step',
		takeFloorSchema
	),
	post('/floor/edits', 'Makes edits of the floor as one step', editOrderSchema),
	post('/floor/steps', 'Undoes the last step of the floor, or makes it again', moveOrderSchema),
	get('/kept-files/[id]', 'A file that is kept with a map or a device, byte for byte', { gives: 'file' }),
	{ method: 'DELETE', path: '/kept-files/[id]', says: 'Takes such a file away; it can be brought back' },
	post('/kept-files/[id]/back', 'Brings such a file back'),
	get('/maps', 'Maps of controllers, the one that was changed last first'),
	post('/maps', 'Begins a map of a surface, or takes one over from a file', newMapSchema),
	get('/maps/[id]', 'A map, with the steps that would be undone and redone next'),
	{ method: 'DELETE', path: '/maps/[id]', says: 'Takes a map away; it can be brought back' },
	post('/maps/[id]/back', 'Brings a map back'),
	post('/maps/[id]/controller', 'Adds the controller of a map to the catalogue'),
	get('/maps/[id]/document', 'A map as a silent-drawer.map file', { gives: 'file' }),
	get('/maps/[id]/files', 'Files that a host or an editor keeps for a map, newest first'),
	post(
		'/maps/[id]/files',
		'Keeps a file with a map; one of the same name stays as an older version',
		undefined,
		{
			file: ['note']
		}
	),
	post('/maps/[id]/edits', 'Makes edits of a map as one step', editOrderSchema),
	get('/maps/[id]/memory', 'How a page of a map stands to the memory of its controller', {
		query: {
			page: 'Page, from 1.',
			world: 'bench or hardware; the studio’s own when left out.',
			device: 'The controller; the first one when left out.',
			slot: 'Slot, from 0; the one that holds the page, or its number, when left out.'
		}
	}),
	post('/maps/[id]/memory', 'Compiles a page for a slot, as a transfer is asked for it', sendPageSchema),
	post('/maps/[id]/memory/taken', 'Makes a page say what a slot was last seen to hold', takeTemplateSchema),
	post('/maps/[id]/steps', 'Undoes the last step of a map, or makes it again', moveOrderSchema),
	get('/maps/[id]/table', 'A map as CSV', { gives: 'file' }),
	post('/maps/[id]/table', 'Makes a map say what a CSV does, as one step', tableMapSchema),
	get('/midi/ports', 'Which port of the computer each socket was, and how the adapters did'),
	put('/midi/ports', 'Remembers which port is which', rememberSchema),
	post('/midi/ports/forget', 'Forgets a port', forgetSchema),
	post('/midi/tests', 'Keeps a test of an adapter', keepTestSchema),
	get('/pairings', 'What works with what, as far as somebody tried or read it'),
	post('/pairings/edits', 'Makes edits of the pairings as one step', editOrderSchema),
	post('/pairings/steps', 'Undoes the last step of the pairings, or makes it again', moveOrderSchema),
	get('/pairings/table', 'Pairings as CSV', { gives: 'file' }),
	post('/pairings/table', 'Adds the pairings of a CSV, as one step', addPairingsSchema),
	get('/power', 'What draws and what feeds, with what is wrong or not known'),
	get('/power/document', 'Power as a silent-drawer.power file', { gives: 'file' }),
	post('/power/document', 'Puts a power file in the place of what there is, as one step', takePowerSchema),
	post('/power/edits', 'Makes edits of power as one step', editOrderSchema),
	post('/power/plan', 'Which output feeds what, proved best or with its gap', planPowerSchema),
	post('/power/steps', 'Undoes the last step of power, or makes it again', moveOrderSchema),
	get('/power-on', 'The power-on list, both ways, in the order that matters'),
	get('/power-on/document', 'It as a silent-drawer.power-on file', { gives: 'file' }),
	post(
		'/power-on/document',
		'Puts such a file in the place of what there is, as one step',
		takePowerOnSchema
	),
	post('/power-on/edits', 'Makes edits of the power-on list as one step', editOrderSchema),
	post('/power-on/steps', 'Undoes the last step of the power-on list, or makes it again', moveOrderSchema),
	get('/plans', 'The plans that are kept, oldest first'),
	post('/plans', 'Keeps a plan', keepPlanSchema),
	get('/plans/[id]', 'A plan, with the wiring that it was made for'),
	{ method: 'DELETE', path: '/plans/[id]', says: 'Removes a plan; the wiring stays as it is' },
	get('/procedures', 'Procedures: those that come with the app, and the studio’s own'),
	post('/procedures', 'Keeps a procedure of the studio’s own', procedureSchema),
	get('/procedures/[id]', 'A procedure', { query: { device: 'As it is for this device.' } }),
	{ method: 'DELETE', path: '/procedures/[id]', says: 'Takes one of the studio’s own away' },
	post('/procedures/[id]/back', 'Brings it back'),
	get('/profiles', 'The profiles in their newest revisions'),
	post('/profiles', 'Saves a profile as its next revision', profileSchema),
	get('/profiles/[id]', 'A profile'),
	post(
		'/profiles/try',
		'What a profile makes of the newest dumps, and what saving it would change',
		profileSchema
	),
	post('/restores/preview', 'What restores would send and overwrite', z.array(previewSchema)),
	get('/retention', 'Which old versions may go'),
	put('/retention', 'Changes which old versions may go', retentionSchema),
	post('/retention/preview', 'What rules would let go and free', retentionSchema),
	post('/retention/apply', 'Lets the named versions go, as far as the rules agree', applyRetentionSchema),
	get('/rig', 'The wiring'),
	post('/rig/changes', 'Changes the wiring, as one step of its history', rigOrderSchema),
	post('/rig/moves', 'Undoes or redoes a step of the wiring, or leaves it out of the history', moveSchema),
	get('/rig/state', 'Which revision of the wiring and which plan is the newest'),
	get('/rig/export', 'The wiring as a file', { gives: 'file' }),
	post('/rig/import', 'Replaces the wiring, or says what would change', rigSchema),
	get('/risk', 'The weights of the risk'),
	put('/risk', 'Changes the weights of the risk', riskSettingsSchema),
	get('/runs', 'Runs of procedures: those that are not over first'),
	post('/runs', 'Begins a run, or goes on with the one that is not over', beginRunSchema),
	get('/runs/[id]', 'A run, with what its gate asks and whether the app’s part is shown to be done'),
	post(
		'/runs/[id]/acts',
		'One act of a run; a gate passes only where it holds, or with a reason',
		runOrderSchema
	),
	get('/runs/[id]/document', 'A run as a silent-drawer.procedure-run file', { gives: 'file' }),
	post('/runs/[id]/file', 'The file of a run’s file step; it is kept with the device', undefined, {
		file: ['revision', 'version']
	}),
	post('/runs/[id]/kept-file', 'The same with a file that the device has already', keptRunFileSchema),
	get('/service-book', 'The service book, with the faults that are to be asked again'),
	get('/service-book/document', 'It as a silent-drawer.service-book file', { gives: 'file' }),
	post(
		'/service-book/document',
		'Puts such a file in the place of what there is, as one step',
		takeServiceBookSchema
	),
	post('/service-book/done', 'Notes that something due was done', doneSchema),
	post('/service-book/edits', 'Makes edits of the service book as one step', editOrderSchema),
	post('/service-book/steps', 'Undoes the last step of the service book, or makes it again', moveOrderSchema),
	get('/set', 'The set: its desk with what is wrong on it, its scenes, and where their sounds are'),
	get('/set/document', 'The set as a silent-drawer.set file', { gives: 'file' }),
	post('/set/document', 'Puts a set from a file in the place of what there is, as one step', takeSetSchema),
	post('/set/edits', 'Makes edits of the set as one step', editOrderSchema),
	post(
		'/set/forgotten',
		'Notes that devices were sent something else than a scene: what they play is not known any more',
		forgetPlayedSchema
	),
	post(
		'/set/sent',
		'Notes what was sent to instruments, and what they said that they play; what is known of them since',
		sentSchema
	),
	post(
		'/set/loads',
		'Lays out what an instrument has to be loaded with before the show or a song, as a bank of the bank builder',
		loadOrderSchema
	),
	get('/set/scenes/[number]', 'A scene as the messages that bring it, in a file', {
		query: {
			as: 'mid (a track for each wire, with times) or syx (the bytes); mid when left out.',
			from: 'The number of a scene: only what differs from it. Left out, nothing is known before.'
		},
		gives: 'file'
	}),
	get('/set/scenes/[number]/earlier', 'What a scene held before, the latest first'),
	get('/set/sounds', 'Sounds that can be chosen for an instrument of the set', {
		query: { instrument: 'Its id in the set.' }
	}),
	post('/set/steps', 'Undoes the last step of the set, or makes it again', moveOrderSchema),
	get('/snapshots', 'Studio snapshots'),
	post('/snapshots', 'Begins a snapshot', beginSnapshotSchema),
	get('/snapshots/candidates', 'What a backup of the studio would be made of'),
	get('/snapshots/[id]', 'A snapshot with its devices'),
	get('/snapshots/[id]/compare/[other]', 'What changed in the studio since another snapshot'),
	post('/snapshots/[id]/end', 'Ends a snapshot', endSnapshotSchema),
	get('/sounds', 'Sounds of a model by name', {
		query: { profile: 'Profile.', area: 'Area.', q: 'Words of the name.' }
	}),
	get('/sounds/[hash]', 'A sound and its life'),
	get('/sounds/[hash]/alike', 'The sounds of all drawers that are most like it'),
	put('/sounds/[hash]/mark', 'Whether it is a favourite, and what kind of sound it is', soundMarkSchema),
	get('/surfaces', 'The controllers’ bodies that come with the app'),
	get('/switchings', 'The studio switched on and off, the newest first'),
	post('/switchings', 'Begins to switch the studio on or off', beginSwitchingSchema),
	get('/switchings/[id]', 'A switching with its ticks'),
	get('/switchings/[id]/document', 'It as a silent-drawer.switching file', { gives: 'file' }),
	post('/switchings/[id]/end', 'Closes it'),
	post('/switchings/[id]/ticks', 'Ticks what was done, or takes ticks back', tickOrderSchema),
	get('/transfers', 'Transfers, newest first', { query: { device: 'Only those of this device.' } }),
	post('/transfers', 'Begins a transfer', beginSchema),
	get('/transfers/check', 'What a transfer would do, before it begins', {
		query: {
			device: 'The device; begins a backup by itself.',
			version: 'Restores this version.',
			bank: 'Sends this bank.',
			again: 'Restores what this transfer wanted.',
			resume: 'Goes on with a backup that broke off.',
			sounds: 'Sounds to slots: area:index:hash, or area:index:hash:version, with commas between.',
			slots: 'Only these slots: area:index with commas between.',
			area: 'Only this area.',
			links:
				'keep: what names moved slots is pointed to them; bring: sounds that are played come along, too.',
			world: 'bench or hardware.',
			pace: 'How much longer the pauses are made.'
		}
	}),
	get('/transfers/[id]', 'A transfer'),
	post('/transfers/[id]/abandon', 'Its page goes away'),
	post('/transfers/[id]/drop', 'Lets an unfinished capture go'),
	post('/transfers/[id]/finish', 'Ends a transfer and stores what it proved', finishSchema),
	post('/transfers/[id]/keep', 'Keeps an unfinished capture as it is'),
	get('/transfers/[id]/messages', 'Messages received so far'),
	post('/transfers/[id]/messages', 'Stores received messages, durably', appendSchema),
	get('/transfers/[id]/result', 'How it ended, with what came in'),
	post('/transfers/[id]/resume', 'Opens an unfinished capture again', resumeSchema),
	post('/transfers/[id]/safety', 'Stores the safety copy of a restore', safetySchema),
	get('/transfers/[id]/trace', 'The log of every byte'),
	post('/transfers/[id]/trace', 'Adds to the log', traceSchema),
	get('/transfers/[id]/wanted', 'What a restore shall bring'),
	get('/versions/[id]', 'A version'),
	put('/versions/[id]', 'Moves a version from a file to another drawer, or dates it', moveVersionSchema),
	{
		method: 'DELETE',
		path: '/versions/[id]',
		says: 'Lets a version go; it can be brought back until old versions are tidied away'
	},
	post('/versions/[id]/back', 'Brings back a version that was let go'),
	get('/versions/[id]/export', 'A version as a file', {
		query: { as: formats, area: 'For .csv: which area.' },
		gives: 'file'
	}),
	post('/versions/[id]/import', 'Makes a bank of a changed table or name document', undefined, {
		file: [],
		query: { area: 'Which area.' }
	}),
	post('/versions/[id]/accept', 'Answers its question: this is what the device is meant to hold'),
	put('/versions/[id]/label', 'Title, note, tags and pin', versionLabelSchema),
	get('/versions/[id]/messages', 'Its messages, in hexadecimal'),
	post('/versions/[id]/reread', 'Reads it again with the newest revision of the profile'),
	get('/versions/[id]/slots', 'Its slots, decoded'),
	get('/versions/[id]/slots/[slot]', 'A slot, as area:index: parameters, life, where else it is, banks'),
	get('/openapi.json', 'This description')
];
