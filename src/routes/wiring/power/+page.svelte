<script lang="ts">
	import { loadOfDevice, powerSchema, supplySchema, type Supply } from '$lib/core/power';
	import { uniqueId } from '$lib/core/unique-id';
	import FilePick from '$lib/ui/FilePick.svelte';
	import { OpenPower } from '$lib/ui/power/open-power.svelte';
	import PowerCautions from '$lib/ui/power/PowerCautions.svelte';
	import PowerFindings from '$lib/ui/power/PowerFindings.svelte';
	import PowerPlanView from '$lib/ui/power/PowerPlanView.svelte';
	import SupplyList from '$lib/ui/power/SupplyList.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import StepButtons from '$lib/ui/StepButtons.svelte';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const open = new OpenPower(data.opened);
	$effect(() => open.take(data.opened));
	const power = $derived(open.power);

	let drawName = $state('');
	const fresh = $derived(data.devices.filter(({ id }) => !power.loads.some(({ device }) => device === id)));
	async function addLoad(event: SubmitEvent) {
		event.preventDefault();
		const name = drawName.trim();
		if (!name) return;
		const device = fresh.find((each) => each.name.toLowerCase() === name.toLowerCase());
		const kept = await open.edit(`${name} draws power`, (now) => {
			const id = uniqueId(name, new Set(now.loads.map((load) => load.id)), 'load');
			const load = device
				? loadOfDevice(device, id)
				: { ...loadOfDevice({ id: '', name, power: '' }, id), device: null };
			return [{ path: ['loads', now.loads.length], value: load }];
		});
		if (kept) drawName = '';
	}
	let supplyName = $state('');
	let supplyIs = $state<Supply['is']>('supply');
	async function addSupply(event: SubmitEvent) {
		event.preventDefault();
		const name = supplyName.trim();
		if (!name) return;
		const is = supplyIs;
		const device = data.devices.find((each) => each.name.toLowerCase() === name.toLowerCase())?.id ?? null;
		const kept = await open.edit(`${name} feeds`, (now) => [
			{
				path: ['supplies', now.supplies.length],
				value: supplySchema.parse({
					id: uniqueId(name, new Set(now.supplies.map(({ id }) => id)), 'supply'),
					name,
					is,
					device
				})
			}
		]);
		if (kept) supplyName = '';
	}
	const put = (key: 'margin' | 'hours', text: string) => {
		const value = Number(text);
		if (
			text.trim() === '' ||
			!(key === 'margin'
				? Number.isInteger(value) && value >= 0 && value <= 200
				: value >= 0.25 && value <= 48)
		)
			return;
		return open.edit(key === 'margin' ? `${value} % to spare` : `${value} hours`, () => [
			{ path: [key], value }
		]);
	};
	const takeOver = (file: File) => open.takeOver(file, powerSchema, 'power');
</script>

<svelte:head><title>Power · Silent Drawer</title></svelte:head>

<div class="mb-3 flex flex-wrap items-center justify-end gap-3 print:hidden">
	<StepButtons
		of="the power"
		steps={open.steps}
		busy={open.doing.busy}
		move={(which) => void open.move(which)}
	/>
</div>
{#if open.doing.problem}<div class="mb-3"><ProblemNote problem={open.doing.problem} /></div>{/if}
<PowerCautions />
<div class="mt-5"><PowerFindings {open} /></div>
<PowerPlanView {open} />
<SupplyList {open} />

<section class="mt-6 flex flex-wrap items-end gap-x-8 gap-y-4 print:hidden" aria-label="What there is">
	<form class="flex flex-wrap items-end gap-3" aria-label="Add what draws" onsubmit={addLoad}>
		<div class="field">
			<label for="load-name">What draws</label>
			<input
				id="load-name"
				class="input w-52 input-sm"
				maxlength="60"
				list="load-devices"
				bind:value={drawName}
			/>
			<datalist id="load-devices"
				>{#each fresh as each (each.id)}<option value={each.name}></option>{/each}</datalist
			>
		</div>
		<button class="btn btn-sm" disabled={!drawName.trim() || open.doing.busy}>Add it</button>
	</form>
	<form class="flex flex-wrap items-end gap-3" aria-label="Add what feeds" onsubmit={addSupply}>
		<div class="field">
			<label for="supply-name">What feeds</label>
			<input
				id="supply-name"
				class="input w-52 input-sm"
				maxlength="60"
				list="supply-devices"
				bind:value={supplyName}
			/>
			<datalist id="supply-devices"
				>{#each data.devices as each (each.id)}<option value={each.name}></option>{/each}</datalist
			>
		</div>
		<div class="field">
			<label for="supply-is">is a</label>
			<select id="supply-is" class="select w-36 select-sm" bind:value={supplyIs}>
				<option value="supply">supply</option><option value="battery">battery</option><option value="usb"
					>USB sockets</option
				><option value="hub">USB hub</option>
			</select>
		</div>
		<button class="btn btn-sm" disabled={!supplyName.trim() || open.doing.busy}>Add it</button>
	</form>
	<div class="field">
		<label for="power-margin">To spare, %</label>
		<input
			id="power-margin"
			class="input w-20 input-sm"
			type="number"
			min="0"
			max="200"
			value={power.margin}
			onchange={(event) => void put('margin', event.currentTarget.value)}
		/>
	</div>
	<div class="field">
		<label for="power-hours">Batteries last, hours</label>
		<input
			id="power-hours"
			class="input w-24 input-sm"
			type="number"
			min="0.25"
			max="48"
			step="0.25"
			value={power.hours}
			onchange={(event) => void put('hours', event.currentTarget.value)}
		/>
	</div>
	<a class="btn btn-sm" href="/api/v1/power/document" download>Power file</a>
	<FilePick title="Take over a power file" accept=".json,application/json" picked={takeOver} />
</section>
