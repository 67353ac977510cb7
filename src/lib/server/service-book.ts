import { z } from 'zod';
import {
	carriedOutEdits,
	doneEdits,
	dueBy,
	faultsToAsk,
	serviceBookSchema,
	type KnownFault,
	type ServiceBook,
	type ServiceDue
} from '../core/care';
import { Problem } from '../core/problem';
import type { Transaction } from 'sequelize';
import type { Studio } from './db/connection';
import { listDevices } from './gear';
import { localDay } from './local-time';
import { newId } from './new-id';
import { editPaperIn, paperServices, takeOrderOf, type Paper, type PaperKind } from './papers';
import { contactRows } from './store/contacts';

export const BOOK: PaperKind<ServiceBook> = {
	kind: 'service-book',
	a: 'a service book',
	schema: serviceBookSchema,
	empty: serviceBookSchema.parse({})
};

/** The service book, with what of it is to be asked again: faults that were last seen with another firmware. */
export interface OpenServiceBook extends Paper<ServiceBook> {
	ask: (KnownFault & { now: string })[];
}

/** The firmware that each device has, as it told in the studio's world, else as the catalogue says. */
export async function firmwareNow(studio: Studio): Promise<Map<string, string>> {
	const told = await contactRows(studio);
	return new Map(
		(await listDevices(studio)).map((device) => [
			device.id,
			told.find((each) => each.device === device.id && each.contact.world === studio.world)?.contact
				.firmware ?? device.firmware
		])
	);
}

async function tell(studio: Studio, open: Paper<ServiceBook>): Promise<OpenServiceBook> {
	const now = await firmwareNow(studio);
	return {
		...open,
		ask: [...now].flatMap(([device, firmware]) =>
			faultsToAsk(open.document, device, firmware).map((fault) => ({ ...fault, now: firmware }))
		)
	};
}

export const {
	document: serviceDocument,
	get: getServiceBook,
	edit: editServiceBook,
	move: moveServiceBook,
	take: takeServiceBook
} = paperServices(BOOK, tell, 'A service book from a file');

export const takeServiceBookSchema = takeOrderOf(serviceBookSchema);

/** What is due within two weeks, or overdue. */
export const dueSoon = async (studio: Studio): Promise<(ServiceDue & { days: number })[]> =>
	dueBy(await serviceDocument(studio), localDay(studio.now().getTime()));

export const doneSchema = z.object({
	revision: z.number().int().min(0),
	due: z.string().min(1).max(60),
	on: z.iso.date('Write the date as 2026-03-31.'),
	by: z.string().trim().max(80).default(''),
	firmware: z.string().trim().max(30).default('')
});

/**
 * Notes that something due was done: it is an entry from then on, and comes again where it does.
 * @throws Problem `service-book.due.not-found`, `service-book.conflict`
 */
export async function doneInService(
	studio: Studio,
	{ revision, due, ...done }: z.infer<typeof doneSchema>
): Promise<OpenServiceBook> {
	const document = await serviceDocument(studio);
	const item = document.due.find(({ id }) => id === due);
	if (!item)
		throw new Problem(
			'service-book.due.not-found',
			'That is not due any more.',
			'See the book as it is now.'
		);
	return editServiceBook(studio, {
		revision,
		says: `Done: ${item.says}`.slice(0, 200),
		edits: doneEdits(document, due, done, newId())
	});
}

/** Notes a procedure that was carried out on a device, in the transaction that ends it. */
export const noteCarriedOut = (
	studio: Studio,
	done: Parameters<typeof carriedOutEdits>[1],
	transaction: Transaction
): Promise<unknown> =>
	editPaperIn(studio, BOOK, transaction, ({ document }) => ({
		says: `Done: ${done.says}`.slice(0, 200),
		edits: carriedOutEdits(document, done, newId())
	}));
