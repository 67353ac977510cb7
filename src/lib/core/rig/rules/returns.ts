import { audioOf, freePairs } from '../audio';
import { loadsOf } from '../load';
import { indexRig, portName } from '../rig-index';
import type { Rule } from './rule';

const percent = (share: number) => `${Math.round(share * 100)} %`;

export const returnRules: readonly Rule[] = [
	{
		id: 'audio.pair',
		title: 'A stereo pair is torn apart',
		severity: 'warning',
		check(rig) {
			const audio = audioOf(rig);
			const index = indexRig(rig);
			return audio.returns
				.filter(({ paired }) => !paired)
				.map(({ device, outs }) => {
					const [pair] = freePairs(audio, device.id);
					const sides = (['left', 'right'] as const).map((side) => outs.find((out) => out.side === side)!);
					return {
						says: `${device.name} comes in at ${sides.map(({ into, side }) => `${portName(into!)} (${side})`).join(' and ')}: a pair sits on an odd input and the next one.`,
						about: [device.id],
						cures: pair
							? [
									{
										title: `Move both to ${portName(pair[0])} and ${pair[1].port.name}`,
										changes: [
											...sides.flatMap(({ port }) =>
												(index.cablesAt.get(port) ?? []).map(({ from, to }) => ({
													do: 'pull' as const,
													from,
													to
												}))
											),
											...sides.map(({ port }, i) => ({
												do: 'plug' as const,
												from: port,
												to: pair[i].port.id
											}))
										]
									}
								]
							: []
					};
				});
		}
	},
	{
		id: 'audio.exhausted',
		title: 'No audio input is left',
		severity: 'warning',
		check(rig) {
			const audio = audioOf(rig);
			const free = audio.inputs.filter(({ taken }) => taken === null).length;
			const waiting = audio.returns.filter(({ outs }) => outs.every(({ into }) => into === null));
			const needed = waiting.reduce((sum, { outs }) => sum + outs.length, 0);
			if (audio.inputs.length === 0 || needed <= free) return [];
			return [
				{
					says: `${waiting.map(({ device }) => device.name).join(', ')} would need ${needed} more audio ${needed === 1 ? 'input' : 'inputs'}; ${free} of ${audio.inputs.length} ${free === 1 ? 'is' : 'are'} free.`,
					about: waiting.map(({ device }) => device.id),
					cures: []
				}
			];
		}
	},
	{
		id: 'load.high',
		title: 'A port is busy',
		severity: 'warning',
		check(rig) {
			const index = indexRig(rig);
			return loadsOf(rig)
				.filter(({ share }) => share > rig.limits.load && share <= 1)
				.map(({ port, share, bytesPerSecond }) => ({
					says: `${portName(index.ports.get(port)!)} is expected to carry ${Math.round(bytesPerSecond)} bytes/s, ${percent(share)} of the wire (more than ${percent(rig.limits.load)}): dense playing gets late.`,
					about: [port],
					cures: []
				}));
		}
	},
	{
		id: 'load.over',
		title: 'A port is asked for more than the wire can carry',
		severity: 'error',
		check(rig) {
			const index = indexRig(rig);
			return loadsOf(rig)
				.filter(({ share }) => share > 1)
				.map(({ port, share, bytesPerSecond }) => ({
					says: `${portName(index.ports.get(port)!)} is expected to carry ${Math.round(bytesPerSecond)} bytes/s, ${percent(share)} of the wire: it falls further and further behind. Spread its instruments over more outs.`,
					about: [port],
					cures: []
				}));
		}
	}
];
