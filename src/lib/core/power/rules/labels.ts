import { POLARITIES, isBus } from '../power';
import { unreadOf } from '../unread';
import { at, hand, out, eachCable, type Rule } from './rule';

export const volts = eachCable('volts', (fed, ground) => {
	const { load, output, supply } = fed;
	if (isBus(supply) || load.volts === null || output.volts.length === 0) return null;
	const [low, high] = load.volts;
	if (output.volts.some((each) => each >= low && each <= high))
		return output.volts.length > 1 && !output.volts.every((each) => each >= low && each <= high)
			? {
					severity: 'note',
					says: `${at(fed)} can be set to ${output.volts.join(', ')} V; ${load.name} takes ${low === high ? low : `${low} to ${high}`} V.`,
					cure: hand('Set the output before the plug goes in.')
				}
			: null;
	return {
		severity: 'danger',
		says: `${at(fed)} gives ${output.volts.join(' or ')} V; ${load.name} takes ${low === high ? low : `${low} to ${high}`} V.`,
		cure: out(ground, fed)
	};
});

export const acDc = eachCable('ac-dc', (fed, ground) =>
	fed.load.kind && fed.output.kind && fed.load.kind !== fed.output.kind && !isBus(fed.supply)
		? {
				severity: 'danger',
				says: `${at(fed)} gives ${fed.output.kind}; ${fed.load.name} takes ${fed.load.kind}.`,
				cure: out(ground, fed)
			}
		: null
);

export const polarity = eachCable('polarity', (fed, ground) => {
	const { load, output, cable, supply } = fed;
	if (isBus(supply) || load.kind === 'AC' || !load.polarity || !output.polarity) return null;
	if (load.polarity === 'none' || output.polarity === 'none') return null;
	const turned = cable.through === 'reversing';
	if ((load.polarity === output.polarity) !== turned) return null;
	return {
		severity: 'danger',
		says: turned
			? `The reversing cable turns ${POLARITIES[output.polarity]} round, and ${load.name} wants it as it comes.`
			: `${at(fed)} is ${POLARITIES[output.polarity]}; ${load.name} is ${POLARITIES[load.polarity]}. Wrong polarity can destroy it.`,
		cure: out(ground, fed)
	};
});

export const socketKind: Rule = {
	id: 'socket-kind',
	find: (ground) =>
		ground.fed
			.filter(({ load, supply }) =>
				isBus(supply) ? load.on !== 'usb' : load.on === 'usb' && !load.selfFeeds
			)
			.map((fed) => ({
				severity: 'danger' as const,
				loads: [fed.load.id],
				supply: fed.supply.id,
				says: isBus(fed.supply)
					? `${at(fed)} is USB; ${fed.load.name} is not fed by USB.`
					: `${fed.load.name} is fed by USB alone; ${at(fed)} is no USB socket.`,
				cure: out(ground, fed)
			}))
};

export const readTheLabel = eachCable('read-the-label', ({ load, supply, output }, { power }) => {
	const unread = unreadOf(power, load, { supply, output });
	return unread.length > 0
		? {
				severity: 'unknown',
				says: `Not known: ${unread.join('; ')}.`,
				cure: hand('Read the label, and note it. Nothing is assumed until then.')
			}
		: null;
});
