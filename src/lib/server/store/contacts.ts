import type { Transaction } from 'sequelize';
import type { Contact } from '../../core/contact';
import type { Studio } from '../db/connection';
import { all, run } from './sql';

type Row = Omit<Contact, 'in' | 'deviceId'> & {
	deviceId: string;
	back: string | null;
	wireId: number | null;
};

const told = ({ deviceId: device, back, wireId, ...row }: Row) => ({
	device,
	contact: { ...row, in: back, deviceId: wireId } satisfies Contact
});

/** The last contact with each device, in each world. */
export async function contactRows(
	studio: Studio,
	transaction?: Transaction
): Promise<{ device: string; contact: Contact }[]> {
	return (await all<Row>(studio, 'SELECT * FROM contacts', [], transaction)).map(told);
}

export async function contactsOf(studio: Studio, device: string): Promise<Contact[]> {
	const rows = await all<Row>(studio, 'SELECT * FROM contacts WHERE deviceId = ?', [device]);
	return rows.map((row) => told(row).contact);
}

/** Keeps a contact; the newest counts. */
export async function putContact(
	studio: Studio,
	device: string,
	contact: Contact,
	transaction: Transaction
): Promise<void> {
	const { world, at, how, out, in: back, outName, inName, deviceId, firmware } = contact;
	await run(
		studio,
		`INSERT INTO contacts (deviceId, world, at, how, out, back, outName, inName, wireId, firmware)
		 VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
		 ON CONFLICT (deviceId, world) DO UPDATE SET at = excluded.at, how = excluded.how, out = excluded.out, back = excluded.back,
			outName = excluded.outName, inName = excluded.inName, wireId = excluded.wireId, firmware = excluded.firmware
		 WHERE excluded.at >= contacts.at`,
		[device, world, at, how, out, back, outName, inName, deviceId, firmware],
		transaction
	);
}
