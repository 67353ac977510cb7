import { z } from 'zod';
import { procedureSchema } from '../core/care';
import { profileSchema } from '../core/profile';

const made = new Map<z.ZodType, object>();

/** The JSON Schema of a format, from the one definition that there is; worked out once. */
function jsonSchemaOf(schema: z.ZodType): object {
	let json = made.get(schema);
	if (!json) made.set(schema, (json = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' })));
	return json;
}

export const profileJsonSchema = (): object => jsonSchemaOf(profileSchema);
export const procedureJsonSchema = (): object => jsonSchemaOf(procedureSchema);
