import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** The JSON documents that come with the app in one of its folders, by name. `DRAWER_HOME` is the repository's root. */
export function shippedDocuments(folder: 'profiles' | 'insides' | 'surfaces' | 'procedures'): unknown[] {
	const path = join(process.env.DRAWER_HOME ?? process.cwd(), folder);
	return readdirSync(path)
		.filter((file) => file.endsWith('.json'))
		.sort()
		.map((file) => JSON.parse(readFileSync(join(path, file), 'utf8')) as unknown);
}
