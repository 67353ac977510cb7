<script lang="ts">
	import {
		CONDITIONS,
		PAIRING_FUNCTIONS,
		PAIRING_RESULTS,
		PAIRING_WAYS,
		pairingRecordSchema,
		type PairedDevice,
		type PairingRecord,
		type Pairings
	} from '$lib/core/pairing';
	import { uniqueId } from '$lib/core/unique-id';
	import { remembered } from '../remembered.svelte';
	import type { Stepped } from '../stepped.svelte';

	/** What was tried, or read, of two devices. Tried: today, with the firmware that both have. */
	let { open, devices }: { open: Stepped<Pairings>; devices: PairedDevice[] } = $props();
	const blank = {
		from: '',
		to: '',
		way: 'din',
		does: '',
		result: 'works',
		limit: '',
		by: 'tried',
		what: 'mode',
		is: ''
	};
	const draft = remembered('pairing.new', blank);
	const now = $derived(draft.value);
	const [from, to] = $derived(
		[now.from, now.to].map((id) => devices.find((device) => device.id === id) ?? null)
	);
	const whole = $derived(from !== null && to !== null && from !== to && now.does.trim() !== '');

	async function add(event: SubmitEvent) {
		event.preventDefault();
		const [a, b, typed] = [from, to, { ...now }];
		if (!whole || !a || !b) return;
		const tried = typed.by === 'tried';
		const model = ({ maker, model: of, name }: PairedDevice) => ({ maker, model: of || name });
		const kept = await open.edit(
			`${a.name} with ${b.name}: ${typed.does.trim()} ${PAIRING_RESULTS[typed.result as PairingRecord['result']]}`,
			({ records }) => [
				{
					path: ['records', records.length],
					value: pairingRecordSchema.parse({
						id: uniqueId(
							`${a.model} ${b.model} ${typed.does}`,
							new Set(records.map(({ id }) => id)),
							'pairing'
						),
						from: model(a),
						to: model(b),
						way: typed.way,
						does: typed.does,
						result: typed.result,
						limit: typed.result === 'limits' ? typed.limit : '',
						known: {
							by: typed.by,
							on: tried ? new Date().toISOString().slice(0, 10) : '',
							fromFirmware: tried ? a.firmware : '',
							toFirmware: tried ? b.firmware : ''
						},
						conditions: typed.is.trim() ? [{ what: typed.what, is: typed.is }] : []
					})
				}
			]
		);
		if (kept) draft.forget({ ...blank, from: typed.from, to: typed.to, way: typed.way });
	}
</script>

<form class="mt-3 flex flex-wrap items-end gap-3" aria-label="Note a pairing" onsubmit={add}>
	<div class="field">
		<label for="pairing-from">Sends</label>
		<select id="pairing-from" class="select w-48 select-sm" bind:value={draft.value.from}>
			<option value="">…</option>
			{#each devices as { id, name } (id)}<option value={id}>{name}</option>{/each}
		</select>
	</div>
	<div class="field">
		<label for="pairing-to">Is told</label>
		<select id="pairing-to" class="select w-48 select-sm" bind:value={draft.value.to}>
			<option value="">…</option>
			{#each devices as { id, name } (id)}<option value={id}>{name}</option>{/each}
		</select>
	</div>
	<div class="field">
		<label for="pairing-way">By</label>
		<select id="pairing-way" class="select w-48 select-sm" bind:value={draft.value.way}>
			{#each Object.entries(PAIRING_WAYS) as [key, title] (key)}<option value={key}>{title}</option>{/each}
		</select>
	</div>
	<div class="field">
		<label for="pairing-does">What</label>
		<input
			id="pairing-does"
			class="input w-44 input-sm"
			maxlength="80"
			list="pairing-functions"
			bind:value={draft.value.does}
		/>
		<datalist id="pairing-functions"
			>{#each PAIRING_FUNCTIONS as each (each)}<option value={each}></option>{/each}</datalist
		>
	</div>
	<div class="field">
		<label for="pairing-result">Result</label>
		<select id="pairing-result" class="select w-44 select-sm" bind:value={draft.value.result}>
			{#each Object.entries(PAIRING_RESULTS) as [key, title] (key)}<option value={key}>{title}</option>{/each}
		</select>
	</div>
	{#if now.result === 'limits'}
		<div class="field">
			<label for="pairing-limit">Which limits</label>
			<input id="pairing-limit" class="input w-52 input-sm" maxlength="160" bind:value={draft.value.limit} />
		</div>
	{/if}
	<div class="field">
		<label for="pairing-by">Known</label>
		<select id="pairing-by" class="select w-40 select-sm" bind:value={draft.value.by}>
			<option value="tried">tried today</option><option value="label">by the label</option><option
				value="manual">by the manual</option
			>
		</select>
	</div>
	<div class="field">
		<label for="pairing-what">If</label>
		<select id="pairing-what" class="select w-56 select-sm" bind:value={draft.value.what}>
			{#each Object.entries(CONDITIONS) as [key, title] (key)}<option value={key}>{title}</option>{/each}
		</select>
	</div>
	<div class="field">
		<label for="pairing-is">is</label>
		<input id="pairing-is" class="input w-40 input-sm" maxlength="80" bind:value={draft.value.is} />
	</div>
	<button class="btn btn-sm" disabled={!whole || open.doing.busy}>Note it</button>
</form>
