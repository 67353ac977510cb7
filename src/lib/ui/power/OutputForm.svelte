<script lang="ts">
	import { isBus, outputSchema, type Output, type Supply } from '$lib/core/power';
	import { uniqueId } from '$lib/core/unique-id';
	import type { OpenPower } from './open-power.svelte';
	import PolesFields from './PolesFields.svelte';

	/** One or several outputs more, alike, as the supply's label says; and what else is known of a supply. */
	let { open, supply }: { open: OpenPower; supply: Supply } = $props();
	const usb = $derived(isBus(supply));
	let [many, volts, ma, sharedMa] = $state(['1', '9', '', '']);
	let kind = $state<Output['kind']>('DC');
	let polarity = $state<Output['polarity']>('negative');
	let isolated = $state(true);

	const number = (text: string): number | null =>
		text.trim() !== '' && Number.isInteger(Number(text)) && Number(text) >= 0 ? Number(text) : null;
	async function add(event: SubmitEvent) {
		event.preventDefault();
		const count = Math.min(20, Math.max(1, Number(many) || 1));
		const list = volts
			.split(/[,/ ]+/)
			.map((each) => Number(each))
			.filter((each) => each >= 0.5 && each <= 400);
		const shared = number(sharedMa);
		await open.edit(`${supply.name}: ${count} outputs more`, (power) => {
			const s = power.supplies.findIndex(({ id }) => id === supply.id);
			const now = power.supplies[s];
			const group = shared === null ? null : `group-${now.groups.length + 1}`;
			const taken = now.outputs.map(({ id }) => id);
			const outputs = Array.from({ length: count }, (_, i) => {
				const name = `Out ${now.outputs.length + i + 1}`;
				const id = uniqueId(name, new Set(taken), 'out');
				taken.push(id);
				return outputSchema.parse({
					id,
					name,
					volts: usb ? [] : list,
					kind: usb ? null : kind,
					polarity: usb ? null : kind === 'AC' ? 'none' : polarity,
					ma: number(ma),
					isolated,
					group
				});
			});
			return [
				{ path: ['supplies', s, 'outputs'], value: [...now.outputs, ...outputs] },
				...(group
					? [{ path: ['supplies', s, 'groups'], value: [...now.groups, { id: group, ma: shared }] }]
					: [])
			];
		});
	}
	const put = (key: 'powered' | 'mah', value: unknown, says: string) =>
		open.edit(`${supply.name}: ${says}`, (power) => [
			{ path: ['supplies', power.supplies.findIndex(({ id }) => id === supply.id), key], value }
		]);
	const remove = () =>
		open.edit(`${supply.name} is taken off the list`, (power) => [
			{ path: ['supplies', power.supplies.findIndex(({ id }) => id === supply.id)] },
			{ path: ['cables'], value: power.cables.filter((cable) => cable.supply !== supply.id) }
		]);
</script>

<details class="mt-2">
	<summary class="small-print">Outputs and label of {supply.name}</summary>
	{#if supply.is === 'hub'}
		<div class="field mt-1">
			<label for={`powered-${supply.id}`}>Its own supply</label>
			<select
				id={`powered-${supply.id}`}
				class="select w-56 select-sm"
				value={supply.powered ?? ''}
				onchange={(event) => void put('powered', event.currentTarget.value || null, 'its own supply')}
			>
				<option value="">nobody looked</option><option value="own">is plugged in</option><option value="bus"
					>none: fed by the bus</option
				>
			</select>
		</div>
	{:else if supply.is === 'battery'}
		<div class="field mt-1">
			<label for={`mah-${supply.id}`}>mAh</label>
			<input
				id={`mah-${supply.id}`}
				class="input w-28 input-sm"
				type="number"
				min="1"
				value={supply.mah ?? ''}
				onchange={(event) => void put('mah', number(event.currentTarget.value), 'mAh')}
			/>
		</div>
	{/if}
	<form class="mt-2 flex flex-wrap items-end gap-3" aria-label={`Outputs for ${supply.name}`} onsubmit={add}>
		<div class="field">
			<label for={`many-${supply.id}`}>How many</label>
			<input
				id={`many-${supply.id}`}
				class="input w-20 input-sm"
				type="number"
				min="1"
				max="20"
				bind:value={many}
			/>
		</div>
		{#if !usb}
			<div class="field">
				<label for={`ovolts-${supply.id}`}>Volts, as “9, 12”</label>
				<input id={`ovolts-${supply.id}`} class="input w-24 input-sm" bind:value={volts} />
			</div>
			<PolesFields
				of={`out-${supply.id}`}
				{kind}
				{polarity}
				setKind={(chosen) => (kind = chosen)}
				setPolarity={(chosen) => (polarity = chosen)}
			/>
		{/if}
		<div class="field">
			<label for={`oma-${supply.id}`}>mA each</label>
			<input id={`oma-${supply.id}`} class="input w-24 input-sm" inputmode="numeric" bind:value={ma} />
		</div>
		<div class="field">
			<label for={`osh-${supply.id}`}>mA together, if shared</label>
			<input id={`osh-${supply.id}`} class="input w-24 input-sm" inputmode="numeric" bind:value={sharedMa} />
		</div>
		<label class="flex items-center gap-2 text-sm"
			><input type="checkbox" class="checkbox checkbox-sm" bind:checked={isolated} /> isolated</label
		>
		<button class="btn btn-sm" disabled={open.doing.busy}>Add them</button>
		<button
			type="button"
			class="btn btn-ghost btn-xs"
			disabled={open.doing.busy}
			onclick={() => void remove()}>Take off the list<span class="sr-only"> {supply.name}</span></button
		>
	</form>
</details>
