import { readFileSync, readdirSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { describe, expect, it } from 'vitest';
import { openApi, openPath } from './openapi';
import { OPERATIONS } from './operations';

const folder = join(import.meta.dirname, '../../routes/api/v1');
const routes = readdirSync(folder, { recursive: true, encoding: 'utf8' })
	.filter((file) => file.endsWith('+server.ts'))
	.flatMap((file) => {
		const source = readFileSync(join(folder, file), 'utf8');
		const path = `/${relative('.', dirname(file)).replaceAll('\\', '/')}`;
		return [...source.matchAll(/export (?:const|async function|function) (GET|POST|PUT|DELETE)\b/g)].map(
			([, method]) => `${method} ${path}`
		);
	});

describe('the description of the API', () => {
	it('lists exactly the operations that there are', () => {
		const listed = OPERATIONS.map(({ method, path }) => `${method} ${path}`);
		expect(listed.toSorted()).toEqual(routes.toSorted());
	});

	it('describes bodies by the schemas that check them', () => {
		const { paths } = openApi() as { paths: Record<string, Record<string, { requestBody?: unknown }>> };
		expect(Object.keys(paths)).toHaveLength(new Set(OPERATIONS.map(({ path }) => path)).size);
		const body = JSON.stringify(paths[openPath('/devices')].post.requestBody);
		expect(body).toContain('batteryYears');
		expect(JSON.stringify(paths['/api/v1/snapshots/{id}/compare/{other}'].get)).toContain('"other"');
	});

	it('can be written as JSON', () => {
		expect(JSON.parse(JSON.stringify(openApi()))).toMatchObject({ openapi: '3.1.0' });
	});
});
