<script lang="ts">
	import { sendsMessages } from '../../core/gear';
	import { socketName, type Sign, type Surroundings } from '../../core/contact';
	import { hostWays } from '../../core/rig';
	import { itemOfSign, take } from './take-found';

	/** What came in unasked, for the musician to say what it is. */
	let { signs, around }: { signs: readonly Sign[]; around: Surroundings } = $props();
	/** By port: `device <id>`, `profile <id>` or `raw`; and the out that leads to it. */
	let is = $state<Record<string, string>>({});
	let outs = $state<Record<string, string>>({});
	const ways = $derived(new Map(hostWays(around.rig).map((way) => [way.device, way])));
	const waiting = $derived(
		around.devices.filter(
			(device) =>
				device.archivedAt === null &&
				!ways.get(device.id)?.in &&
				device.ports.some(sendsMessages) &&
				!/interface|computer|box|hub/i.test(device.kind)
		)
	);
	const guess = (sign: Sign) => {
		const known = waiting.find(({ profileId }) => sign.profileId !== null && profileId === sign.profileId);
		return known ? `device ${known.id}` : sign.profileId ? `profile ${sign.profileId}` : '';
	};
	const choice = (sign: Sign) => is[sign.port.id] ?? guess(sign);

	function takeIt(sign: Sign) {
		const [kind, id] = choice(sign).split(' ');
		const device = kind === 'device' ? around.devices.find((one) => one.id === id)! : null;
		return take([
			itemOfSign(sign, {
				out: outs[sign.port.id] || null,
				device: device?.id ?? null,
				profileId: device ? device.profileId : kind === 'profile' ? id : null,
				name: ''
			})
		]);
	}
</script>

<table class="ledger-table mt-2">
	<thead
		><tr
			><th>Came in at</th><th>What</th><th>It is</th><th>Reached by</th><th
				><span class="sr-only">Do</span></th
			></tr
		></thead
	>
	<tbody>
		{#each signs as sign (sign.port.id)}
			{@const at = socketName(around, sign.port)}
			<tr>
				<td class="plate">{at}</td>
				<td>{sign.says}</td>
				<td>
					<select
						class="select w-56 select-sm"
						aria-label={`What is at ${at}`}
						value={choice(sign)}
						onchange={(event) => (is[sign.port.id] = event.currentTarget.value)}
					>
						<option value="">Choose</option>
						{#if waiting.length > 0}<optgroup label="Of the catalogue"
								>{#each waiting as device (device.id)}<option value={`device ${device.id}`}
										>{device.name}</option
									>{/each}</optgroup
							>{/if}
						<optgroup label="New">
							{#each around.profiles as profile (profile.id)}<option value={`profile ${profile.id}`}
									>{profile.maker} {profile.model}</option
								>{/each}
							<option value="raw">A model without a profile</option>
						</optgroup>
					</select>
				</td>
				<td>
					<select
						class="select w-44 select-sm"
						aria-label={`The out that leads to what is at ${at}`}
						bind:value={outs[sign.port.id]}
					>
						<option value="">not known</option>
						{#each around.present.filter(({ direction }) => direction === 'out') as port (port.id)}<option
								value={port.id}>{socketName(around, port)}</option
							>{/each}
					</select>
				</td>
				<td class="text-right"
					><button
						class="btn btn-sm"
						disabled={choice(sign) === ''}
						aria-label={`Take what is at ${at}`}
						onclick={() => takeIt(sign)}>Take it</button
					></td
				>
			</tr>
		{/each}
	</tbody>
</table>
