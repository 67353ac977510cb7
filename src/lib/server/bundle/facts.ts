import type { BundleVersion, Version, VersionLabel } from '../../core/drawer';
import { CATALOGUE_COLUMNS, deviceSchema, type Device, type DeviceFacts } from '../../core/gear';
import type { Profile } from '../../core/profile';
import { changeDeviceIn } from '../gear';
import { localDay } from '../local-time';
import { profileOrNull } from '../profiles';
import { updateVersion } from '../store/versions';
import type { Taking } from './holding';

const FIELDS = Object.keys(deviceSchema.shape) as (keyof DeviceFacts)[];
const titleOf = (field: keyof DeviceFacts) =>
	(CATALOGUE_COLUMNS.find((column) => column.field === field)?.header ?? field).toLowerCase();

/** What a fact says, in the words of the catalogue. */
function words(field: keyof DeviceFacts, facts: DeviceFacts): string {
	if (field === 'ports')
		return facts.ports.map(({ name, direction }) => `${name} (${direction})`).join(', ') || 'none';
	return CATALOGUE_COLUMNS.find((column) => column.field === field)?.write(facts) || 'nothing';
}

/** Facts of a device that is here already: what differs is told, and taken where that was chosen. */
export async function takeFacts(
	taking: Taking,
	device: Device,
	facts: DeviceFacts,
	profiles: ReadonlyMap<string, Profile>
): Promise<Device> {
	const { studio, transaction } = taking;
	const mine = deviceSchema.parse(device);
	const values: Partial<DeviceFacts> = {};
	for (const field of FIELDS) {
		if (JSON.stringify(mine[field]) === JSON.stringify(facts[field])) continue;
		const profileId = field === 'profileId' ? facts.profileId : null;
		// A profile that is neither here nor in the bundle reads nothing.
		if (profileId !== null && !profiles.has(profileId) && !profileOrNull(studio, profileId)) continue;
		const difference = {
			what: `${device.name}: ${titleOf(field)}`,
			here: words(field, mine),
			there: words(field, facts)
		};
		if (taking.takes(difference, { here: mine[field], there: facts[field] }))
			Object.assign(values, { [field]: facts[field] });
	}
	return Object.keys(values).length === 0 ? device : changeDeviceIn(studio, device.id, values, transaction);
}

const labelOf = ({ title, note, tags, pinned }: VersionLabel): VersionLabel => ({
	title,
	note,
	tags,
	pinned
});
const labelWords = ({ title, note, tags, pinned }: VersionLabel) =>
	[title, note, tags.join(', '), pinned ? 'pinned' : ''].filter(Boolean).join(' · ') || 'nothing';

/** What is written on versions that are here already. */
export async function takeLabels(
	taking: Taking,
	device: Device,
	here: readonly Omit<Version, 'messages'>[],
	there: readonly BundleVersion[]
): Promise<void> {
	const mine = new Map(here.map((version) => [version.id, version]));
	for (const version of there) {
		const own = mine.get(version.id);
		if (!own) continue;
		const contents = { here: labelOf(own), there: labelOf(version) };
		if (JSON.stringify(contents.here) === JSON.stringify(contents.there)) continue;
		const difference = {
			what: `${device.name}: what is written on the version of ${localDay(version.takenAt)}`,
			here: labelWords(own),
			there: labelWords(version)
		};
		if (taking.takes(difference, contents))
			await updateVersion(taking.studio, version.id, contents.there, taking.transaction);
	}
}
