import { surfaceSchema, type Surface } from '../core/control';
import { Problem } from '../core/problem';
import { shippedDocuments } from './shipped';

let shipped: Surface[] | null = null;

/** The controllers' bodies that come with the app, read once. */
export const shippedSurfaces = (): Surface[] =>
	(shipped ??= shippedDocuments('surfaces').map((document) => surfaceSchema.parse(document)));

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
