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
import type { EditOrder, MoveOrder } from './edit-orders';
import { listDevices } from './gear';
import { localDay } from './local-time';
import { newId } from './new-id';
import {
	editPaper,
	editPaperIn,
	getPaper,
	movePaper,
	takeOrderOf,
	takePaper,
	type Paper,
	type PaperKind
} from './papers';
import { contactRows } from './store/contacts';

const BOOK: PaperKind<ServiceBook> = {
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

async function told(studio: Studio, paper: Promise<Paper<ServiceBook>>): Promise<OpenServiceBook> {
	const open = await paper;
	const now = await firmwareNow(studio);
	return {
		...open,
		ask: [...now].flatMap(([device, firmware]) =>
			faultsToAsk(open.document, device, firmware).map((fault) => ({ ...fault, now: firmware }))
		)
	};
}

/** The document alone, without what is to be said of it. */
export const serviceDocument = async (studio: Studio): Promise<ServiceBook> =>
	(await getPaper(studio, BOOK)).document;

/** What is due within two weeks, or overdue. */
export const dueSoon = async (studio: Studio): Promise<(ServiceDue & { days: number })[]> =>
	dueBy(await serviceDocument(studio), localDay(studio.now().getTime()));

export const getServiceBook = (studio: Studio): Promise<OpenServiceBook> =>
	told(studio, getPaper(studio, BOOK));

/** @throws Problem `service-book.conflict`, `service-book.invalid` */
export const editServiceBook = (studio: Studio, order: EditOrder): Promise<OpenServiceBook> =>
	told(studio, editPaper(studio, BOOK, order));

/** @throws Problem `service-book.step.conflict` */
export const moveServiceBook = (studio: Studio, order: MoveOrder): Promise<OpenServiceBook> =>
	told(studio, movePaper(studio, BOOK, order));

export const takeServiceBookSchema = takeOrderOf(serviceBookSchema);

/** @throws Problem `service-book.conflict` */
export const takeServiceBook = (
	studio: Studio,
	order: z.infer<typeof takeServiceBookSchema>
): Promise<OpenServiceBook> => told(studio, takePaper(studio, BOOK, order, 'A service book from a file'));

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
	const { document } = await getPaper(studio, BOOK);
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
