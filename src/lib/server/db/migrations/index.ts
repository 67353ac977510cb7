import type { Migration } from './step';
import * as compact from './0005-compact';
import * as contacts from './0006-contacts';
import * as history from './0007-wiring-history';
import * as marks from './0008-sound-marks';
import * as maps from './0009-maps';
import * as mapFiles from './0010-map-files';
import * as papers from './0011-papers';
import * as care from './0012-care';
import * as seals from './0013-seals';
import * as first from './0001-first-slice';
import * as heart from './0003-dump-heart';
import * as knowledge from './0004-knowledge';
import * as wiring from './0002-wiring';

/** In the order in which they are applied. The statements of a migration that has landed are never edited. */
export const migrations: Migration[] = [
	{ name: '0001-first-slice', up: first.up },
	{ name: '0002-wiring', up: wiring.up },
	{ name: '0003-dump-heart', up: heart.up },
	{ name: '0004-knowledge', up: knowledge.up },
	{ name: '0005-compact', up: compact.up },
	{ name: '0006-contacts', up: contacts.up },
	{ name: '0007-wiring-history', up: history.up },
	{ name: '0008-sound-marks', up: marks.up },
	{ name: '0009-maps', up: maps.up },
	{ name: '0010-map-files', up: mapFiles.up },
	{ name: '0011-papers', up: papers.up },
	{ name: '0012-care', up: care.up },
	{ name: '0013-seals', up: seals.up }
];
