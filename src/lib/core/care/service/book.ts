import { addDays, addMonths, differenceInCalendarDays, formatISO, parseISO } from 'date-fns';
import { z } from 'zod';
import type { Edit } from '../../edit';

const id = z.string().min(1).max(60);
const words = (limit: number) => z.string().trim().max(limit).default('');
const says = z.string().trim().min(1, 'Say what it is.').max(600);
const day = z.iso.date('Write the date as 2026-03-31.');

/** What is done to gear, besides playing it. */
export const SERVICE_KINDS = {
	firmware: 'Firmware',
	battery: 'Battery',
	repair: 'Repair',
	calibration: 'Calibration',
	cleaning: 'Cleaning',
	inspection: 'Inspection',
	procedure: 'Procedure',
	note: 'Note'
} as const;
export type ServiceKind = keyof typeof SERVICE_KINDS;
export const serviceKindSchema = z.enum(Object.keys(SERVICE_KINDS) as [ServiceKind, ...ServiceKind[]]);
const kind = serviceKindSchema;

/** What was done to each device, what is due, what is known to be wrong, and what is worn. */
export const serviceBookSchema = z.object({
	format: z.literal('silent-drawer.service-book').default('silent-drawer.service-book'),
	version: z.literal(1).default(1),
	entries: z
		.array(
			z.object({
				id,
				device: id,
				on: day,
				kind,
				says,
				/** For firmware: the version that it has since. */
				firmware: words(30),
				/** Who did it. */
				by: words(80)
			})
		)
		.max(4000)
		.default([]),
	/** What is due, or planned. */
	due: z
		.array(
			z.object({
				id,
				device: id,
				on: day,
				kind,
				says,
				/** Comes again after so many months; null where it is once. */
				everyMonths: z.number().int().min(1).max(240).nullable().default(null),
				/** The procedure by which it is done, where there is one. */
				procedure: words(60)
			})
		)
		.max(2000)
		.default([]),
	/** Faults that one lives with. */
	faults: z
		.array(
			z.object({
				id,
				device: id,
				since: day,
				says,
				wayRound: words(600),
				/** The firmware that it was last seen with. */
				firmware: words(30),
				/** It can cost sounds. */
				losesSounds: z.boolean().default(false),
				/** When it was found to be gone, and with which firmware. */
				mended: z
					.object({ on: day, firmware: words(30) })
					.nullable()
					.default(null)
			})
		)
		.max(2000)
		.default([]),
	/** Controls that do not do what they should. */
	worn: z
		.array(
			z.object({
				id,
				device: id,
				control: z.string().trim().min(1, 'Say which control.').max(80),
				how: z.enum(['worn', 'dead']),
				says: words(300),
				/** What one needs it for. */
				needed: z
					.array(z.enum(['sending', 'receiving', 'update', 'playing']))
					.max(4)
					.default([])
			})
		)
		.max(2000)
		.default([])
});
export type ServiceBook = z.infer<typeof serviceBookSchema>;
export type ServiceDue = ServiceBook['due'][number];
export type KnownFault = ServiceBook['faults'][number];
export type WornControl = ServiceBook['worn'][number];

/** Days from one date to another, both as 2026-03-31 or longer ISO; below nought where it is past. */
export const daysUntil = (today: string, on: string): number =>
	differenceInCalendarDays(parseISO(on.slice(0, 10)), parseISO(today.slice(0, 10)));

/** How many days ahead something shows in Today's list. */
export const DUE_AHEAD_DAYS = 14;

/** What is due within so many days or overdue, the most overdue first. */
export const dueBy = (
	book: ServiceBook,
	today: string,
	ahead = DUE_AHEAD_DAYS
): (ServiceDue & { days: number })[] =>
	book.due
		.map((each) => ({ ...each, days: daysUntil(today, each.on) }))
		.filter(({ days }) => days <= ahead)
		.sort((a, b) => a.days - b.days || a.says.localeCompare(b.says));

/** When the battery of a device was changed last, as 2026-03-31; null where the book does not say. */
export function batteryChanged(book: ServiceBook, device: string): string | null {
	const days = book.entries
		.filter((each) => each.device === device && each.kind === 'battery')
		.map(({ on }) => on);
	return days.sort().at(-1) ?? null;
}

const fold = (version: string) => version.trim().toLowerCase();

/** Open faults that were last seen with another firmware than the one that the device tells now: are they still there? */
export const faultsToAsk = (book: ServiceBook, device: string, firmware: string): KnownFault[] =>
	firmware.trim() === ''
		? []
		: book.faults.filter(
				(fault) => fault.device === device && fault.mended === null && fold(fault.firmware) !== fold(firmware)
			);

/** Worn or dead controls that a transfer needs: one to the computer is sent by the device, one to the device is received. */
export const wornFor = (
	book: ServiceBook,
	device: string,
	need: WornControl['needed'][number]
): WornControl[] => book.worn.filter((each) => each.device === device && each.needed.includes(need));

/** A worn or dead control in words: “Slider 3 is worn: crackles”. */
export const wornWords = ({
	control,
	how,
	says: shows
}: Pick<WornControl, 'control' | 'how' | 'says'>): string =>
	`${control} is ${how}${shows ? `: ${shows}` : ''}`;

/**
 * What a due thing becomes when it is done: an entry, and the next time, where it comes again. Months are counted from the day on
 * which it was done.
 * @param ids fresh ids: for the entry, and for what is due next
 */
export function doneEdits(
	book: ServiceBook,
	due: string,
	done: { on: string; by: string; firmware: string },
	entryId: string
): Edit[] {
	const at = book.due.findIndex(({ id: each }) => each === due);
	const item = book.due[at];
	if (!item) return [];
	const { device, kind: what, says: text, everyMonths } = item;
	const entry = { id: entryId, device, kind: what, says: text, ...done };
	const next =
		everyMonths === null
			? null
			: formatISO(addMonths(parseISO(done.on), everyMonths), { representation: 'date' });
	return [
		{ path: ['entries'], value: [...book.entries, entry] },
		next === null ? { path: ['due', at] } : { path: ['due', at, 'on'], value: next }
	];
}

/**
 * What a procedure that was carried out leaves in the book: what was due by it is done, else an entry of its own.
 * @param done `procedure`: its id; `says`: its title, and what was passed with a reason
 */
export function carriedOutEdits(
	book: ServiceBook,
	done: {
		device: string;
		procedure: string;
		kind: ServiceKind;
		says: string;
		on: string;
		firmware: string;
	},
	entryId: string
): Edit[] {
	const { device, procedure, kind: what, says: text, on, firmware } = done;
	const [due] = book.due
		.filter((each) => each.device === device && each.procedure === procedure)
		.sort((a, b) => a.on.localeCompare(b.on));
	if (due) return doneEdits(book, due.id, { on, by: '', firmware }, entryId);
	const entry = { id: entryId, device, on, kind: what, says: text, firmware, by: '' };
	return [{ path: ['entries'], value: [...book.entries, entry] }];
}

/** Days from an update's planned day within which it counts as planned: from then on a backup must be there. */
export const UPDATE_AHEAD_DAYS = 7;

/** The next update that is planned soon, or overdue. */
export const updatePlanned = (book: ServiceBook, device: string, today: string): ServiceDue | null =>
	book.due.find(
		(each) =>
			each.device === device && each.kind === 'firmware' && daysUntil(today, each.on) <= UPDATE_AHEAD_DAYS
	) ?? null;

/** A date so many days on. */
export const dayAfter = (today: string, days: number): string =>
	formatISO(addDays(parseISO(today.slice(0, 10)), days), { representation: 'date' });
