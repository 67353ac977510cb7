import { type Load, type Power } from '../power';
import { at, hand, limitOf, type PowerFinding, type Rule } from './rule';

function hostFinding(
	power: Power,
	which: (host: Load['hosts'][number]) => boolean,
	find: (
		host: Load,
		guest: string,
		path: (string | number)[],
		entry: Load['hosts'][number]
	) => Pick<PowerFinding, 'severity' | 'says' | 'cure'>
): Omit<PowerFinding, 'rule'>[] {
	return power.loads.flatMap((host, h) =>
		host.hosts.flatMap((entry, e) => {
			if (!which(entry)) return [];
			const guest = power.loads.find(({ id }) => id === entry.load)?.name ?? 'the device';
			return [
				{
					...find(host, guest, ['loads', h, 'hosts', e], entry),
					loads: [host.id, entry.load],
					supply: null
				}
			];
		})
	);
}

export const hostedLoad: Rule = {
	id: 'hosted-load',
	find: (ground) =>
		ground.power.loads.flatMap((host) => {
			const guests = host.hosts.flatMap(({ load }) => ground.power.loads.filter(({ id }) => id === load));
			const carried = guests.filter(
				(guest) => guest.on !== 'own' && !(guest.selfFeeds && ground.isFed(guest))
			);
			const [fed] = ground.fed.filter(({ load }) => load === host);
			const limit = fed ? limitOf(fed.supply, fed.output) : null;
			const [own, all] = [host.ma, ground.takes(host, 'ma')];
			if (!fed || carried.length === 0 || limit === null || own === null || all === null) return [];
			const left = limit * 100;
			// Alone it would be fed well; with its guests it is not.
			if (own * (100 + ground.power.margin) > left || all * (100 + ground.power.margin) <= left) return [];
			const can = carried.filter(({ selfFeeds }) => selfFeeds);
			return [
				{
					severity: all > limit ? ('danger' as const) : ('warning' as const),
					loads: [host.id, ...carried.map(({ id }) => id)],
					supply: fed.supply.id,
					says: `${host.name} carries ${carried.map(({ name, ma }) => `${name} (${ma} mA)`).join(', ')} besides its own ${own} mA; ${at(fed)} gives ${limit} mA. ${carried[0].name} may restart again and again, or half work.`,
					cure: hand(
						can.length > 0
							? `Give ${can.map(({ name }) => name).join(', ')} a supply of its own, or ${host.name} an output of ${Math.ceil((all * (100 + ground.power.margin)) / 100)} mA: plan anew.`
							: `Give ${host.name} an output of at least ${Math.ceil((all * (100 + ground.power.margin)) / 100)} mA: plan anew.`
					)
				}
			];
		})
};

export const adapterEnd: Rule = {
	id: 'adapter-end',
	find: ({ power }) =>
		hostFinding(
			power,
			({ adapter }) => adapter === 'wrong end',
			(host, guest, path) => ({
				severity: 'warning',
				says: `The adapter between ${host.name} and ${guest} has its host end at the device: nothing is fed, and nothing speaks.`,
				cure: { says: 'Turn it round.', edits: [{ path: [...path, 'adapter'], value: 'host end' }] }
			})
		)
};

export const hostMode: Rule = {
	id: 'host-mode',
	find: ({ power }) =>
		hostFinding(
			power,
			({ mode }) => mode !== 'on',
			(host, guest, path, { mode }) => ({
				severity: mode === null ? 'unknown' : 'warning',
				says:
					mode === null
						? `Whether the host mode of ${host.name} is on, nobody has noted: without it ${guest} gets nothing.`
						: `The host mode of ${host.name} is off: ${guest} gets nothing from it.`,
				cure: {
					says: mode === null ? 'Look, and note it as on.' : 'Switch it on.',
					edits: [{ path: [...path, 'mode'], value: 'on' }]
				}
			})
		)
};
