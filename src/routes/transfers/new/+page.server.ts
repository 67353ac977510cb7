import { error } from '@sveltejs/kit';
import { orError } from '$lib/server/answer';
import { getBank } from '$lib/server/banks';
import { openVersion } from '$lib/server/drawer';
import { dryRunIn } from '$lib/server/dry-run';
import { getDevice } from '$lib/server/gear';
import { adapterTests } from '$lib/server/midi-ports';
import { profileOrNull } from '$lib/server/profiles';
import { getTransfer } from '$lib/server/transfers';
import { sourceSchema, type RestoreSource } from '$lib/core/drawer';
import { slotsOfSource } from '$lib/server/wanted';
import { hostWays } from '$lib/core/rig';
import { readStudioRig } from '$lib/server/rig';
import type { Studio } from '$lib/server/db/connection';

interface Wanted {
	source: RestoreSource | null;
	deviceId: string | null;
	title: string;
}

/** What the address asks to be restored: a version, a bank, sounds to slots, or what an earlier restore wanted. */
async function wantedBy(studio: Studio, query: URLSearchParams): Promise<Wanted> {
	const versionId = query.get('version');
	const bankId = query.get('bank');
	const again = query.get('again');
	const sounds = query.get('sounds');
	if (bankId) {
		const bank = await orError(getBank(studio, bankId));
		return {
			source: { from: 'bank', bankId },
			deviceId: bank.deviceId,
			title: `the bank “${bank.document.title}”`
		};
	}
	if (again) {
		const transfer = await orError(getTransfer(studio, again));
		return {
			source: transfer.wanted ? { from: 'sounds', sounds: transfer.wanted } : null,
			deviceId: transfer.deviceId,
			title: 'what the earlier restore wanted'
		};
	}
	if (sounds) {
		const source = sourceSchema.safeParse({
			from: 'sounds',
			sounds: sounds.split(',').map((text) => {
				const [area, index, record] = text.split(':');
				return { area, index: Number(index), record };
			})
		});
		if (!source.success)
			error(422, {
				message: 'That address names no sounds.',
				remedy: 'Begin from a sound’s page.',
				code: 'transfer.no-sounds'
			});
		return {
			source: source.data,
			deviceId: null,
			title: source.data.from === 'sounds' && source.data.sounds.length === 1 ? 'one sound' : 'chosen sounds'
		};
	}
	if (versionId) {
		const { version } = await orError(openVersion(studio, versionId));
		return {
			source: { from: 'version', versionId, scope: { kind: 'all' } },
			deviceId: version.deviceId,
			title: `“${version.title || 'the version'}”`
		};
	}
	return { source: null, deviceId: null, title: '' };
}

/**
 * `?device=` begins a capture; `?version=`, `?bank=`, `?again=` or `?sounds=area:index:hash,…` a restore, to `device=`
 * where given. `&slots=area:index,…` chooses slots, `&area=` an area.
 */
export async function load({ locals, url }) {
	const { studio } = locals;
	const wanted = await wantedBy(studio, url.searchParams);
	const versionId = url.searchParams.get('version');
	const version = versionId ? await orError(openVersion(studio, versionId)) : null;
	const deviceId = url.searchParams.get('device') ?? wanted.deviceId;
	if (!deviceId)
		error(404, {
			message: 'Which device is it about?',
			remedy: 'Choose one in the list of transfers.',
			code: 'transfer.no-device'
		});
	const device = await orError(getDevice(studio, deviceId));
	const profile = profileOrNull(studio, device.profileId);
	const slots =
		profile && wanted.source ? await orError(slotsOfSource(studio, device, profile, wanted.source)) : [];
	const chosen = (url.searchParams.get('slots') ?? '')
		.split(',')
		.map((text) => text.split(':'))
		.filter(([area, index]) => area && /^\d+$/.test(index ?? ''))
		.map(([area, index]) => ({ area, index: Number(index) }));
	const way = hostWays((await readStudioRig(studio)).rig).find(({ device: id }) => id === device.id);
	const tests = await adapterTests(studio);
	return {
		device,
		profile,
		version: version?.version ?? null,
		rawMessages: profile ? 0 : (version?.messages.length ?? 0),
		source: wanted.source,
		restoring: wanted.source !== null,
		title: wanted.title,
		slots: slots.map(({ area, index, label, name }) => ({ area, index, label, name })),
		dry:
			profile && slots.length > 0
				? {
						bench: await dryRunIn(studio, device, profile, 'bench', slots),
						hardware: await dryRunIn(studio, device, profile, 'hardware', slots)
					}
				: null,
		chosen,
		area: url.searchParams.get('area'),
		adapter:
			tests.find(
				({ key }) => key === way?.out?.port || key === way?.in?.port || key === `bench:${device.benchUnit}`
			) ?? null
	};
}
