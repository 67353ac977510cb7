import { areaOf, slotLabel, type Profile, type Slot } from '../profile';
import type { MissingSlot, Reason } from './outcome';

const panelId = (profile: Profile, id: number) => id + (profile.addressing.deviceId?.panelAdd ?? 0);

/** The reasons that several conversations end with, in the musician's words. */
export const wrongModel = (profile: Profile, says = 'Something else answered on this port'): Reason => ({
	code: 'wrong model',
	says: `${says}: it is not the ${profile.maker} ${profile.model}.`,
	remedy: 'Check which device is plugged in to this port. Nothing was written.'
});

export const wrongDeviceId = (profile: Profile, found: number, wanted: number): Reason => ({
	code: 'wrong device ID',
	says: `The ${profile.model} on this port answers with device ID ${panelId(profile, found)}; the catalogue says ${panelId(profile, wanted)}.`,
	remedy: `Set device ID ${panelId(profile, wanted)} on its panel, or correct the catalogue. With two units of one model, this may be the other one.`
});

/** The model is right, and it is another of its variants than the profile is for. */
export const otherVariant = (profile: Profile, firmware: string | null): Reason => ({
	code: 'other variant',
	says: `The ${profile.model} on this port is not the one that its profile is for${profile.variant ? `: “${profile.variant.title}”` : ''}${firmware === null ? '' : `. It says firmware ${firmware}`}.`,
	remedy:
		'Look under Contact what is plugged in and take it as what it is now, or choose its profile on its page. What is kept stays as it is, and can be sent to it as far as it fits. Nothing was written.'
});

export const noAnswer = (profile: Profile): Reason => ({
	code: 'no answer',
	says: `The ${profile.model} does not answer.`,
	remedy:
		'Check that it is on, that its out goes to this port’s in and its in to this port’s out, and that “exclusive” is enabled on it.'
});

export const CANCELLED: Reason = {
	code: 'cancelled',
	says: 'You cancelled it.',
	remedy: 'Start again when you are ready.'
};
export const UNPLUGGED: Reason = {
	code: 'unplugged',
	says: 'The port went away and did not come back.',
	remedy: 'Plug it in again, then resume.'
};

export const damagedReason = (profile: Profile, missing: readonly MissingSlot[]): Reason => ({
	code: missing.every(({ why }) => why.startsWith('checksum')) ? 'checksum' : 'damaged',
	says: `Part of what the ${profile.model} sent arrived damaged or not at all.`,
	remedy:
		'Resume: only what is missing is asked for again. If it fails at the same place, try another cable or adapter, or a slower pace.'
});

export function panelMoved(profile: Profile, area: string, meant: number, found: number[]): Reason {
	const { labels, slotWord } = areaOf(profile, area);
	const here = slotLabel(labels, meant);
	const there = found.map((slot) => slotLabel(labels, slot)).join(' and ');
	return {
		code: 'panel moved',
		says: `The panel of the ${profile.model} was moved from ${here} to ${there} while ${slotWord} ${here} was sent: it may have gone to any of these.`,
		remedy: `Leave the panel alone and send again. Where ${there} lost something, put it back from the last version.`
	};
}

export function protectedReason(profile: Profile): Reason {
	const must = profile.preflight.restore.map((check) => check.says).join(' ');
	return {
		code: 'protected',
		says: `The ${profile.model} kept its old sounds: its memory is protected, or it does not take exclusive messages now.`,
		remedy: must || 'Switch memory protect off on its panel, then try again.'
	};
}

/** Whatever is called up, the same comes. */
export const doesNotFollow = ({ model }: Profile, channel: number): Reason => ({
	code: 'not called up',
	says: `Whatever is called up on the ${model}, it gives the same: it seems not to follow program changes on channel ${channel}.`,
	remedy:
		'Turn program change and bank select on there, and see that its channel is the one noted. Then again.'
});

/** What a restore was worked out from is not there any more. */
export function changedSince(profile: Profile, slots: readonly Slot[]): Reason {
	const named = slots.slice(0, 3).map(({ area, index }) => {
		const { slotWord, labels } = areaOf(profile, area);
		return `${slotWord} ${slotLabel(labels, index)}`;
	});
	const more = slots.length - named.length;
	return {
		code: 'changed since',
		says: `${named.join(', ')}${more > 0 ? ` and ${more} more` : ''} of the ${profile.model} ${slots.length === 1 ? 'is' : 'are'} not what was last read: who names what would be worked out from something that is gone.`,
		remedy:
			'Nothing was written. What it holds now has been read and kept: put the same in the tray again, and it is worked out from that.'
	};
}
