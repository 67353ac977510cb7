import { tryProfile, withToldStates, type Profile } from '../lib/core/profile';
import { Problem } from '../lib/core/problem';
import { readDumpFile } from '../lib/core/sysex';
import { print, wrongUse, type Command } from './command';
import { bytesOf, profileIn } from './files';

/** What is done with profiles alone. */
export const profileCommands: Record<string, Command> = {
	profile: {
		usage: 'profile check P.json [DUMP…]',
		says: 'the faults of a profile, and what it makes of dumps: each message, what is unclaimed, whether it rebuilds',
		async run([what, file, ...dumps]) {
			if (what !== 'check' || !file) throw wrongUse(this);
			let profile: Profile;
			try {
				profile = profileIn(file);
			} catch (error) {
				const faults = error instanceof Problem ? error.detail.faults : undefined;
				if (!Array.isArray(faults)) throw error;
				for (const fault of faults) print(fault);
				return 1;
			}
			let faultless = true;
			for (const dump of dumps) {
				const { messages } = withToldStates(readDumpFile(bytesOf(dump)), [profile]);
				const trial = tryProfile(
					profile,
					messages.map(({ bytes }) => bytes)
				);
				for (const message of trial.messages) print({ file: dump, ...message });
				const read = trial.messages.filter(({ title }) => title !== null).length;
				const rebuilds = trial.messages.every((message) => message.rebuilds);
				print({
					file: dump,
					messages: messages.length,
					read,
					broken: messages.filter(({ complete }) => !complete).length,
					slots: trial.slots,
					partial: trial.partial,
					rebuilds
				});
				faultless &&= rebuilds && read === messages.length && trial.partial.length === 0;
			}
			print({
				profile: profile.id,
				version: profile.version,
				undescribed: tryProfile(profile, []).undescribed
			});
			return faultless ? 0 : 1;
		}
	}
};
