import { z } from 'zod';
import { profileSchema } from '../core/profile';

let profile: object | null = null;

/** The JSON Schema of profiles, from the one definition that there is. */
export const profileJsonSchema = (): object =>
	(profile ??= z.toJSONSchema(profileSchema, { io: 'input', unrepresentable: 'any' }));
