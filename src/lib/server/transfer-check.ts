import {
	checkCapture,
	checkRestore,
	sourceSchema,
	tornBy,
	linksSchema,
	namesSlots,
	type LiveWorld,
	type RestoreSource,
	type TransferCheck
} from '../core/drawer';
import { wornFor, wornWords } from '../core/care';
import { checkedLinks, type Checked, type CheckedSlot } from '../core/contact';
import { Problem } from '../core/problem';
import { areaOf, goesByChannel, profileTitle, slotKey, type Slot } from '../core/profile';
import { alsoHearing } from '../core/rig';
import { predictCapture, wireTime, type Scope } from '../core/transfer';
import type { Studio } from './db/connection';
import { getBank } from './banks';
import { storedLine } from './contact';
import { openVersion, type OpenVersion } from './drawer';
import { getDevice } from './gear';
import { hashOf } from './hash';
import { unchangedSlots } from './knowing';
import { adapterTests } from './midi-ports';
import { currentProfile, profileOrNull } from './profiles';
import { readStudioRig } from './rig';
import { serviceDocument } from './service-book';
import { readKnowledge } from './store/knowledge';
import { pastCaptures } from './store/transfers';
import { getTransfer } from './transfers';
import { meantBy, writtenOf } from './wanted';

interface Asked {
	source: RestoreSource | null;
	deviceId: string | null;
	title: string;
	version: OpenVersion | null;
	/** Of a backup that is gone on with: what it was about. */
	scope?: Scope;
}

/**
 * A slot that was read is asked once more, written back to where it is, and read: what a profile is tried by on its device.
 * @throws Problem `try.not-read` where nothing is known to be there
 */
async function trialAsked(studio: Studio, deviceId: string, world: LiveWorld): Promise<Asked> {
	const device = await getDevice(studio, deviceId);
	const profile = currentProfile(studio, device.profileId ?? '');
	const known = await unchangedSlots(studio, profile, await readKnowledge(studio, device.id, world));
	const both = profile.areas.filter(({ id }) =>
		[profile.capture, profile.restore].every((ways) => ways.some(({ area }) => area === id))
	);
	// The last one: the first is the likeliest to be played.
	const slot = both
		.flatMap(({ id }) =>
			known
				.map((one) => one.slot)
				.filter(({ area }) => area === id)
				.sort((a, b) => b.index - a.index)
		)
		.at(0);
	if (!slot)
		throw new Problem(
			'try.not-read',
			`What “${device.name}” holds is not known, or cannot be read and written.`,
			'Back it up first: that is the first of the two times that a slot is asked for.'
		);
	const record = hashOf(slot.bytes);
	return {
		source: {
			from: 'sounds',
			sounds: [{ area: slot.area, index: slot.index, record, over: record, rewrite: true }]
		},
		deviceId,
		title: `its own ${areaOf(profile, slot.area).slotWord} ${slot.label}, to try its profile`,
		version: null
	};
}

/** What is asked for: a version, a bank, sounds to slots, what an earlier restore wanted, or a backup. */
async function askedFor(studio: Studio, query: URLSearchParams, world: LiveWorld): Promise<Asked> {
	const resume = query.get('resume');
	if (resume) {
		const { deviceId, scope } = await getTransfer(studio, resume);
		return { source: null, deviceId, title: '', version: null, scope };
	}
	if (query.has('try')) return trialAsked(studio, query.get('device') ?? '', world);
	const versionId = query.get('version');
	const bankId = query.get('bank');
	const again = query.get('again');
	const sounds = query.get('sounds');
	if (bankId) {
		const { deviceId, document } = await getBank(studio, bankId);
		return {
			source: { from: 'bank', bankId },
			deviceId,
			title: `the bank “${document.title}”`,
			version: null
		};
	}
	if (again) {
		const { wanted, deviceId } = await getTransfer(studio, again);
		return {
			source: wanted ? { from: 'sounds', sounds: wanted } : null,
			deviceId,
			title: 'what the earlier restore wanted',
			version: null
		};
	}
	if (sounds) {
		const source = sourceSchema.safeParse({
			from: 'sounds',
			sounds: sounds.split(',').map((text) => {
				const [area, index, record, of] = text.split(':');
				return { area, index: Number(index), record, ...(of ? { of } : {}) };
			})
		});
		if (!source.success)
			throw new Problem('transfer.no-sounds', 'That address names no sounds.', 'Begin from a sound’s page.');
		const one = source.data.from === 'sounds' && source.data.sounds.length === 1;
		return {
			source: source.data,
			deviceId: null,
			title: one ? 'one sound' : 'chosen sounds',
			version: null
		};
	}
	if (versionId) {
		const opened = await openVersion(studio, versionId);
		const { title, deviceId } = opened.version;
		return {
			source: { from: 'version', versionId, scope: { kind: 'all' } },
			deviceId,
			title: title ? `“${title}”` : 'the version',
			version: opened
		};
	}
	return { source: null, deviceId: null, title: '', version: null };
}

/** A source narrowed to chosen slots or one area. @throws Problem `transfer.no-slots` where nothing is left of it */
function narrow(
	source: RestoreSource,
	area: string | null,
	chosen: readonly { area: string; index: number }[]
): RestoreSource {
	if (chosen.length === 0 && !area) return source;
	if (source.from === 'version')
		return {
			...source,
			scope: chosen.length > 0 ? { kind: 'slots', slots: [...chosen] } : { kind: 'area', area: area! }
		};
	// A bank is sent as it stands: its slots are chosen on its own page.
	if (source.from === 'bank') return source;
	const sounds = source.sounds.filter((sound) =>
		chosen.length > 0
			? chosen.some((slot) => slot.area === sound.area && slot.index === sound.index)
			: sound.area === area
	);
	if (sounds.length === 0)
		throw new Problem(
			'transfer.no-slots',
			'None of the chosen slots is among what is wanted.',
			'Choose again.'
		);
	return { ...source, sounds };
}

const slotsOfQuery = (query: URLSearchParams) =>
	(query.get('slots') ?? '')
		.split(',')
		.map((text) => text.split(':'))
		.filter(([area, index]) => area && /^\d+$/.test(index ?? ''))
		.map(([area, index]) => ({ area, index: Number(index) }));

/**
 * Judges a transfer before it begins. `device=` begins a backup; `version=`, `bank=`, `again=` or
 * `sounds=area:index:hash[:version],…` a restore, to `device=` where given; `slots=area:index,…` chooses slots, `area=` an
 * area; `try=` writes a slot of `device=` that was read back to where it is, to try its profile; `links=keep` points what names moved slots to their new places, `links=bring` brings sounds along that are played.
 * @throws Problem `transfer.no-device`, and whatever its source lacks
 */
export async function checkTransfer(
	studio: Studio,
	query: URLSearchParams,
	world: LiveWorld,
	paceFactor = 1
): Promise<Checked> {
	const asked = await askedFor(studio, query, world);
	const deviceId = query.get('device') ?? asked.deviceId;
	if (!deviceId)
		throw new Problem(
			'transfer.no-device',
			'Which device is it about?',
			'Choose one in the list of transfers.'
		);
	const device = await getDevice(studio, deviceId);
	const profile = profileOrNull(studio, device.profileId);
	const area = query.get('area');
	const chosen = slotsOfQuery(query);
	const restoring = asked.source !== null;
	const { version } = asked;
	const source = asked.source && profile ? narrow(asked.source, area, chosen) : asked.source;
	const knowledge = await readKnowledge(studio, device.id, world);
	const line = await storedLine(studio, device, profile);
	const tests = await adapterTests(studio);
	const keys = world === 'bench' ? [`bench:${device.benchUnit}`] : [line.way?.out?.port, line.way?.in?.port];
	const base = {
		direction: restoring ? ('restore' as const) : ('capture' as const),
		device,
		model: profile ? profileTitle(profile) : null,
		profile: profile && { id: profile.id, maker: profile.maker, model: profile.model },
		title: asked.title,
		version: version && {
			id: version.version.id,
			takenAt: version.version.takenAt,
			verified: version.version.verified
		},
		area,
		chosen: chosen.length,
		source,
		rawMessages: profile ? 0 : (version?.messages.length ?? 0),
		line,
		adapter: tests.find(({ key }) => keys.includes(key))?.verdict ?? null,
		alsoHearing:
			profile && world === 'hardware' && goesByChannel(profile)
				? {
						channel: device.channel ?? 1,
						...alsoHearing((await readStudioRig(studio)).rig, device.id, device.channel ?? 1)
					}
				: null,
		torn: tornBy(knowledge).size > 0,
		worn: wornFor(await serviceDocument(studio), device.id, restoring ? 'receiving' : 'sending').map(
			wornWords
		)
	};
	const nothing = {
		links: null,
		converted: null,
		check: null,
		slots: [],
		expectedMs: 0,
		wireMs: null,
		scope: { kind: 'all' } as Scope
	};
	if (!profile) return { ...base, ...nothing };
	if (!source) {
		const scope: Scope =
			asked.scope ??
			(chosen.length > 0
				? { kind: 'slots', slots: chosen }
				: area
					? { kind: 'area', area }
					: { kind: 'all' });
		const check = checkCapture(profile, scope);
		const past = (await pastCaptures(studio, world)).filter((one) => one.deviceId === device.id);
		return {
			...base,
			...nothing,
			scope,
			check,
			wireMs: wireTime(profile, scope),
			expectedMs: predictCapture(profile, scope, past, check.byHand)
		};
	}
	const kept = { ...source, links: linksSchema.catch(undefined).parse(query.get('links') ?? undefined) };
	const known = await unchangedSlots(studio, profile, knowledge);
	const held = known.map(({ slot }) => slot);
	const meant = await meantBy(studio, device, profile, kept);
	const { slots: wanted, converted, rewrite } = writtenOf(profile, held, meant, kept.links);
	const check = checkRestore(profile, known, wanted, paceFactor, rewrite);
	return {
		...base,
		...nothing,
		source: kept,
		converted,
		links: namesSlots(profile) ? checkedLinks(profile, held, meant, kept.links) : null,
		scope: { kind: 'slots', slots: wanted.map(({ area: of, index }) => ({ area: of, index })) },
		check,
		slots: slotsOf(wanted, known, check),
		expectedMs: check.ms
	};
}

function slotsOf(
	wanted: readonly Slot[],
	known: readonly { slot: Slot }[],
	{ dry }: TransferCheck
): CheckedSlot[] {
	const now = new Map(known.map(({ slot }) => [slotKey(slot.area, slot.index), slot]));
	const differs = new Set(dry?.overwritten.map((slot) => slotKey(slot.area, slot.index)));
	return wanted.map(({ area, index, label, name }) => {
		const key = slotKey(area, index);
		return {
			area,
			index,
			label,
			name,
			now: now.get(key)?.name ?? null,
			state: !now.has(key) ? 'not known' : differs.has(key) ? 'differs' : 'already there'
		};
	});
}
