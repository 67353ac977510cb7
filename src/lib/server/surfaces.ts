import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { surfaceSchema, type Surface } from '../core/control';
import { Problem } from '../core/problem';

let shipped: Surface[] | null = null;

/** The controllers' bodies that come with the app, read once. */
export function shippedSurfaces(): Surface[] {
	if (!shipped) {
		const folder = join(process.env.DRAWER_HOME ?? process.cwd(), 'surfaces');
		shipped = readdirSync(folder)
			.filter((file) => file.endsWith('.json'))
			.sort()
			.map((file) => surfaceSchema.parse(JSON.parse(readFileSync(join(folder, file), 'utf8'))));
	}
	return shipped;
}

/** @throws Problem `surface.not-found` */
export function shippedSurface(id: string): Surface {
	const found = shippedSurfaces().find((surface) => surface.id === id);
	if (!found)
		throw new Problem(
			'surface.not-found',
			`There is no surface “${id}”.`,
			`There are: ${shippedSurfaces()
				.map((surface) => surface.id)
				.join(', ')}.`
		);
	return found;
}
