import type { Profile } from '../../profile';
import { procedureSchema, type Procedure } from './procedure';

/** Whether the app can carry the update of this model out by itself. */
export const canUpdate = (profile: Profile | null): boolean => profile?.firmware !== undefined;

/**
 * The update of a model whose loader the app knows: the steps as the profile says them.
 * @param forgotten what has to be set on it after it was off
 * @throws TypeError where the profile says nothing of its loader
 */
export function firmwareUpdate(profile: Profile, forgotten: readonly string[]): Procedure {
	const { firmware } = profile;
	if (!firmware) throw new TypeError(`The profile of the ${profile.model} knows no loader.`);
	const several = firmware.variants.length > 1;
	return procedureSchema.parse({
		id: 'firmware-update',
		title: 'Firmware update',
		about: 'device',
		service: 'firmware',
		needs: [{ what: 'file', name: `System file for the ${profile.model}` }],
		cautions: [
			'A device that loses its supply while it is updated may not start any more: follow its maker’s notes before these.',
			'Update only where the notes promise something that you need, and never on the day before a show.'
		],
		back: 'Update mode again, and the same file, or that of the version before, from its first message. Then restore the backup.',
		steps: [
			{
				by: 'file',
				id: 'file',
				title: 'The maker’s file',
				says: 'Read the maker’s notes first. Then choose the file; it is kept as it is and goes by its hash from here on.'
			},
			...(several
				? [
						{
							by: 'choice',
							id: 'plate',
							title: 'Which gear is it?',
							says: 'Read it off the type plate, not off the file.',
							of: firmware.variants.map(({ id, title }) => ({ id, title }))
						},
						{
							by: 'gate',
							id: 'fits',
							title: 'The file is for this gear',
							says: 'A file for another variant may stop it from starting.',
							holds: { is: 'variant', choice: 'plate' }
						}
					]
				: []),
			{
				by: 'app',
				id: 'backup',
				title: 'Back up everything',
				says: firmware.wipes
					? 'It comes back empty: all that it holds is read now.'
					: 'All that it holds is read now, even what the update is said to leave alone.',
				act: 'backup'
			},
			{
				by: 'gate',
				id: 'kept',
				title: 'A verified full backup',
				says: 'Everything that it holds was read and shown to be so.',
				holds: { is: 'backup', withinHours: 12 }
			},
			{
				by: 'app',
				id: 'answers',
				title: 'It answers',
				says: 'Out to in and in to out: its loader needs both ways.',
				act: 'identity'
			},
			{
				by: 'gate',
				id: 'there',
				title: 'It answered just now',
				says: 'The cables are right, and it is on.',
				holds: { is: 'answers', withinMinutes: 30 }
			},
			{
				by: 'hand',
				id: 'mains',
				title: 'Nothing may fail meanwhile',
				says: 'The computer hangs on the mains and does not go to sleep. The device hangs on its own supply, and nobody can reach a switch or a plug with a foot.',
				see: 'Both are fed, and the computer’s sleep is off.',
				otherwise:
					'See to it before you go on. The app keeps the screen awake while it sends, where the browser lets it.'
			},
			{
				by: 'hand',
				id: 'enter',
				title: 'Update mode',
				says: firmware.enter,
				see: 'Its display shows update mode.',
				otherwise: 'Switch it off and try again.'
			},
			{
				by: 'app',
				id: 'mode',
				title: 'Its loader says so',
				says: 'It is asked whether it is in update mode. Nothing is written.',
				act: 'mode'
			},
			{
				by: 'app',
				id: 'send',
				title: 'Send it',
				says: 'From now on do not touch anything: neither the device, nor a cable, nor the computer.',
				cautions: ['Once it begins, stopping leaves the device without a system.'],
				act: 'send'
			},
			{ by: 'hand', id: 'restart', title: 'Start it again', says: firmware.restart, see: 'It starts.' },
			{
				by: 'app',
				id: 'told',
				title: 'Which version it tells',
				says: 'It is asked who it is.',
				act: 'identity'
			},
			{
				by: 'gate',
				id: 'version',
				title: 'The new version',
				says: 'What it tells is what the file has.',
				holds: { is: 'version', file: true }
			},
			...(firmware.wipes
				? [
						{
							by: 'app',
							id: 'restore',
							title: 'Put its sounds back',
							says: 'Every slot of the backup, read back and compared.',
							act: 'restore'
						}
					]
				: []),
			...(forgotten.length > 0
				? [
						{
							by: 'hand',
							id: 'forgotten',
							title: 'What it forgets',
							says: forgotten.join(' ').slice(0, 600),
							see: 'Set as before.'
						}
					]
				: []),
			{
				by: 'hand',
				id: 'test',
				title: 'What it was for',
				says: 'Play a sound that you know, and try what the update was to mend.',
				see: 'It sounds as before, and the fault is gone.',
				otherwise: 'Note in its service book what is left, with this version.'
			}
		]
	});
}
