import { deviceSchema, type Device, type DeviceFacts } from './device';

interface Column {
	field: keyof DeviceFacts;
	header: string;
	/** Other headers that are understood. */
	also: string[];
	write(device: DeviceFacts): string;
	/** Turns the text of a cell into the field's value. */
	read(text: string): unknown;
}

const text = (field: keyof DeviceFacts, header: string, also: string[] = []): Column => ({
	field,
	header,
	also,
	write: (device) => String(device[field] ?? ''),
	read: (cell) => cell
});
const number = (field: keyof DeviceFacts, header: string, also: string[] = []): Column => ({
	field,
	header,
	also,
	write: (device) => (device[field] === null ? '' : String(device[field])),
	read: (cell) => (cell.trim() === '' ? null : Number(cell.trim().replace(',', '.')))
});

/** Columns of the catalogue as a table, in the order in which they are written. */
export const CATALOGUE_COLUMNS: readonly Column[] = [
	text('name', 'Name', ['device', 'instrument']),
	text('maker', 'Maker', ['brand', 'manufacturer']),
	text('model', 'Model'),
	text('kind', 'Kind', ['type', 'category']),
	text('place', 'Place', ['location', 'where']),
	text('serial', 'Serial number', ['serial', 'serial no']),
	text('firmware', 'Firmware', ['version', 'os']),
	{
		...text('profileId', 'Profile'),
		write: (device) => device.profileId ?? '',
		read: (cell) => cell.trim() || null
	},
	number('deviceId', 'Device ID (wire)', ['device id', 'sysex id']),
	number('channel', 'Channel', ['midi channel', 'receive channel']),
	text('batteryType', 'Battery', ['battery type']),
	text('batteryFitted', 'Battery fitted', ['battery date']),
	number('batteryYears', 'Battery life in years', ['battery life', 'battery years']),
	text('forgets', 'Needs at power-on', ['forgets']),
	text('power', 'Power'),
	text('notes', 'Notes', ['remarks', 'comment'])
];

const fold = (header: string) =>
	header
		.trim()
		.toLowerCase()
		.replace(/[\s_-]+/g, ' ');

export interface CatalogueRow {
	/** Line in the file, the header being line 1. */
	line: number;
	device: DeviceFacts | null;
	faults: { column: string; says: string }[];
	/** A device of that name is in the catalogue already. */
	known: boolean;
}

export interface CataloguePreview {
	columns: { header: string; field: keyof DeviceFacts | null }[];
	rows: CatalogueRow[];
	/** Faults of the file as a whole. */
	faults: string[];
}

/** Reads a table of devices, row by row, with what is wrong in each. Nothing is stored. */
export function readCatalogue(
	headers: readonly string[],
	rows: readonly string[][],
	known: ReadonlySet<string>,
	profiles: ReadonlySet<string>
): CataloguePreview {
	const columns = headers.map((header) => {
		const found = CATALOGUE_COLUMNS.find((column) =>
			[column.header, ...column.also].some((name) => fold(name) === fold(header))
		);
		return { header, field: found?.field ?? null };
	});
	const faults: string[] = [];
	if (!columns.some(({ field }) => field === 'name'))
		faults.push('There is no column “Name”: each device needs one.');
	for (const { field } of columns)
		if (
			field &&
			columns.filter((column) => column.field === field).length > 1 &&
			!faults.some((fault) => fault.includes(`“${field}”`))
		)
			faults.push(`Several columns stand for “${field}”: keep one.`);
	if (rows.length === 0) faults.push('There is no row below the header.');
	const names = new Set<string>();
	return {
		columns,
		faults,
		rows: rows.map((cells, i): CatalogueRow => {
			const raw: Record<string, unknown> = {};
			columns.forEach(({ field }, at) => {
				const column = CATALOGUE_COLUMNS.find((candidate) => candidate.field === field);
				if (column) raw[column.field] = column.read(cells[at] ?? '');
			});
			const parsed = deviceSchema.safeParse(raw);
			const found = parsed.success
				? []
				: parsed.error.issues.map((issue) => ({
						column: columns.find(({ field }) => field === issue.path[0])?.header ?? String(issue.path[0]),
						says: issue.message
					}));
			if (cells.length > headers.length)
				found.push({
					column: '',
					says: `${cells.length} cells for ${headers.length} columns: is a comma inside a text without quotation marks?`
				});
			const device = parsed.success ? parsed.data : null;
			if (device?.profileId && !profiles.has(device.profileId))
				found.push({ column: 'Profile', says: `There is no profile “${device.profileId}”.` });
			if (device && names.has(fold(device.name)))
				found.push({ column: 'Name', says: 'Another row has the same name.' });
			if (device) names.add(fold(device.name));
			return {
				line: i + 2,
				device: found.length > 0 ? null : device,
				faults: found,
				known: device !== null && known.has(fold(device.name))
			};
		})
	};
}

/** The catalogue as rows of text, header first. */
export const writeCatalogue = (devices: readonly Device[]): string[][] => [
	CATALOGUE_COLUMNS.map(({ header }) => header),
	...devices.map((device) => CATALOGUE_COLUMNS.map((column) => column.write(device)))
];

export const catalogueKey = fold;
