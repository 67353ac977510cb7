// Writes the JSON Schemas in docs/formats from the Zod schemas; with --check, tells whether they are up to date.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { faultSchema } from '../src/lib/core/bench';
import {
	bankDocumentSchema,
	bundleManifestSchema,
	retentionSchema,
	settingsSchema,
	versionLabelSchema
} from '../src/lib/core/drawer';
import { mapSchema, pageTaskSchema, surfaceSchema } from '../src/lib/core/control';
import { floorSchema } from '../src/lib/core/pedal';
import { pairingsSchema } from '../src/lib/core/pairing';
import {
	powerOnSchema,
	procedureRunSchema,
	procedureSchema,
	serviceBookSchema,
	switchingSchema
} from '../src/lib/core/care';
import { powerSchema } from '../src/lib/core/power';
import { deviceSchema } from '../src/lib/core/gear';
import { profileSchema, targetListSchema } from '../src/lib/core/profile';
import { rigOrderSchema, rigSchema } from '../src/lib/core/rig';
import { setSchema, setupSchema } from '../src/lib/core/scene';
import { scopeSchema } from '../src/lib/core/transfer';
import { appendSchema, beginSchema, finishSchema, traceSchema } from '../src/lib/core/drawer';

const root = join(import.meta.dirname, '..');
const SCHEMAS: Record<string, z.ZodType> = {
	profile: profileSchema,
	device: deviceSchema,
	rig: rigSchema,
	'rig-changes': rigOrderSchema,
	surface: surfaceSchema,
	targets: targetListSchema,
	map: mapSchema,
	'page-task': pageTaskSchema,
	floor: floorSchema,
	power: powerSchema,
	procedure: procedureSchema,
	'procedure-run': procedureRunSchema,
	'power-on': powerOnSchema,
	switching: switchingSchema,
	'service-book': serviceBookSchema,
	pairings: pairingsSchema,
	set: setSchema,
	setup: setupSchema,
	scope: scopeSchema,
	fault: faultSchema,
	'version-label': versionLabelSchema,
	bank: bankDocumentSchema,
	bundle: bundleManifestSchema,
	retention: retentionSchema,
	'device-settings': settingsSchema,
	'transfer-begin': beginSchema,
	'transfer-messages': appendSchema,
	'transfer-log': traceSchema,
	'transfer-finish': finishSchema
};

let stale = 0;
for (const [name, schema] of Object.entries(SCHEMAS)) {
	const file = join(root, 'docs/formats', `${name}.schema.json`);
	const text =
		JSON.stringify(
			{ $id: `silent-drawer.${name}`, ...z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) },
			null,
			'\t'
		) + '\n';
	if (!process.argv.includes('--check')) writeFileSync(file, text);
	else if (readFileSync(file, 'utf8') !== text) {
		stale++;
		console.error(`docs/formats/${name}.schema.json is not that of the code: run “npm run formats”.`);
	}
}
process.exitCode = stale > 0 ? 1 : 0;
