import { z } from 'zod';
import { OPERATIONS, type Operation } from './operations';

const jsonOf = (schema: z.ZodType): object => {
	const { $schema: _, ...json } = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' });
	return json;
};

const problem = {
	description: 'A problem, in the musician’s words',
	content: {
		'application/json': {
			schema: {
				type: 'object',
				required: ['problem'],
				properties: {
					problem: {
						type: 'object',
						required: ['code', 'message', 'remedy'],
						properties: {
							code: { type: 'string' },
							message: { type: 'string' },
							remedy: { type: 'string' },
							detail: { type: 'object' }
						}
					}
				}
			}
		}
	}
};

/** `/banks/[id]` as OpenAPI writes it. */
export const openPath = (path: string): string => `/api/v1${path.replace(/\[(\w+)\]/g, '{$1}')}`;

function describe({ path, says, body, file, query, gives }: Operation): object {
	const parameters = [
		...[...path.matchAll(/\[(\w+)\]/g)].map(([, name]) => ({
			name,
			in: 'path',
			required: true,
			schema: { type: 'string' }
		})),
		...Object.entries(query ?? {}).map(([name, description]) => ({
			name,
			in: 'query',
			required: false,
			description,
			schema: { type: 'string' }
		}))
	];
	const content = body
		? { 'application/json': { schema: jsonOf(body) } }
		: file
			? {
					'multipart/form-data': {
						schema: {
							type: 'object',
							required: ['file'],
							properties: {
								file: { type: 'string', format: 'binary' },
								...Object.fromEntries(file.map((name) => [name, { type: 'string' }]))
							}
						}
					}
				}
			: null;
	return {
		summary: says,
		tags: [path.split('/')[1].replace(/\..*$/, '')],
		...(parameters.length > 0 && { parameters }),
		...(content && { requestBody: { required: true, content } }),
		responses: {
			'200': {
				description: 'Done',
				content: gives === 'file' ? { 'application/octet-stream': {} } : { 'application/json': {} }
			},
			'4XX': problem
		}
	};
}

let made: object | null = null;

/** The HTTP API as OpenAPI 3.1, made of the schemas that check its requests. */
export function openApi(): object {
	if (made) return made;
	const paths: Record<string, Record<string, object>> = {};
	for (const operation of OPERATIONS)
		(paths[openPath(operation.path)] ??= {})[operation.method.toLowerCase()] = describe(operation);
	made = {
		openapi: '3.1.0',
		info: {
			title: 'Silent Drawer',
			version: '1',
			description: 'Everything the interface does to data goes through these operations.'
		},
		paths
	};
	return made;
}
