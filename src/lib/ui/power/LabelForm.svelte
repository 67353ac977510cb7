<script lang="ts">
	import { specification, type Load } from '$lib/core/power';
	import type { Edit } from '$lib/core/edit';
	import KeptField from '../KeptField.svelte';
	import type { OpenPower } from './open-power.svelte';
	import PolesFields from './PolesFields.svelte';

	/** What stands on a device's label; an empty field is “read the label”. */
	let { open, load }: { open: OpenPower; load: Load } = $props();
	const at = () => open.power.loads.findIndex(({ id }) => id === load.id);
	const set = (says: string, edits: (index: number) => Edit[]) =>
		open.edit(`${load.name}: ${says}`, (power) => {
			const index = power.loads.findIndex(({ id }) => id === load.id);
			return index < 0 ? [] : edits(index);
		});
	const put = (key: keyof Load, value: unknown, says: string) =>
		set(says, (index) => [{ path: ['loads', index, key], value }]);
	const whole = (text: string): number | null | undefined => {
		if (text.trim() === '') return null;
		const value = Number(text);
		return Number.isInteger(value) && value >= 0 && value <= 100_000 ? value : undefined;
	};
	const current = (key: 'ma' | 'startMa') => (text: string) => {
		const value = whole(text);
		return value === undefined
			? undefined
			: put(key, value, value === null ? 'read the label' : `${value} mA`);
	};
	function volts(text: string) {
		const parts = text.split(/[–-]/).map((part) => Number(part.trim().replace(',', '.')));
		if (text.trim() === '') return put('volts', null, 'volts to be read');
		if (parts.length > 2 || parts.some((part) => !(part >= 0.5 && part <= 400))) return;
		return put('volts', [parts[0], parts[1] ?? parts[0]], `${text.trim()} V`);
	}
	const others = $derived(open.power.loads.filter(({ id, on }) => id !== load.id && on === 'usb'));
	const host = (id: string) =>
		set('what it hosts', (index) => {
			const now = open.power.loads[index].hosts;
			const there = now.some((each) => each.load === id);
			return [
				{
					path: ['loads', index, 'hosts'],
					value: there
						? now.filter((each) => each.load !== id)
						: [...now, { load: id, mode: null, adapter: null }]
				}
			];
		});
	type Hosting = Load['hosts'][number];
	const hosting = (guest: string, name: string, change: Partial<Hosting>) =>
		set(`how it hosts ${name}`, (index) => {
			const at = open.power.loads[index].hosts.findIndex((each) => each.load === guest);
			return at < 0
				? []
				: Object.entries(change).map(([key, value]) => ({ path: ['loads', index, 'hosts', at, key], value }));
		});
	const remove = () =>
		open.edit(`${load.name} is taken off the list`, (power) => [
			{ path: ['loads', at()] },
			{ path: ['cables'], value: power.cables.filter((cable) => cable.load !== load.id) }
		]);
</script>

<details>
	<summary
		>{load.name}
		<span class="small-print"
			>{load.on === 'own'
				? 'its own mains supply'
				: load.on === 'usb'
					? `USB, ${load.ma ?? '?'} mA`
					: specification(load, load.ma, load.isolated).replace('≥ ', '')}</span
		></summary
	>
	<div
		class="mt-1 mb-3 ml-4 flex flex-wrap items-end gap-3"
		role="group"
		aria-label={`Label of ${load.name}`}
	>
		<div class="field">
			<label for={`on-${load.id}`}>Fed by</label>
			<select
				id={`on-${load.id}`}
				class="select w-40 select-sm"
				value={load.on}
				onchange={(event) => void put('on', event.currentTarget.value, 'how it is fed')}
			>
				<option value="socket">a supply socket</option>
				<option value="usb">USB</option>
				<option value="own">its own mains supply</option>
			</select>
		</div>
		{#if load.on === 'socket' || load.selfFeeds}
			<div class="field">
				<label for={`volts-${load.id}`}>Volts</label>
				<KeptField
					id={`volts-${load.id}`}
					class="input w-24 input-sm"
					placeholder="?"
					value={load.volts
						? load.volts[0] === load.volts[1]
							? `${load.volts[0]}`
							: load.volts.join('–')
						: ''}
					save={volts}
				/>
			</div>
			<PolesFields
				of={load.id}
				kind={load.kind}
				polarity={load.polarity}
				setKind={(kind) => put('kind', kind, 'AC or DC')}
				setPolarity={(polarity) => put('polarity', polarity, 'polarity')}
			/>
		{/if}
		<div class="field">
			<label for={`ma-${load.id}`}>mA running</label>
			<KeptField
				id={`ma-${load.id}`}
				class="input w-24 input-sm"
				inputmode="numeric"
				placeholder="?"
				value={load.ma === null ? '' : String(load.ma)}
				save={current('ma')}
			/>
		</div>
		<div class="field">
			<label for={`start-${load.id}`}>mA at start</label>
			<KeptField
				id={`start-${load.id}`}
				class="input w-24 input-sm"
				inputmode="numeric"
				placeholder="as running"
				value={load.startMa === null ? '' : String(load.startMa)}
				save={current('startMa')}
			/>
		</div>
		<div class="field">
			<label for={`audio-${load.id}`}>Audio</label>
			<select
				id={`audio-${load.id}`}
				class="select w-32 select-sm"
				value={load.audio}
				onchange={(event) => void put('audio', event.currentTarget.value, 'audio')}
			>
				<option value="none">none</option><option value="sensitive">sensitive</option><option value="digital"
					>digital</option
				>
			</select>
		</div>
		<label class="flex items-center gap-2 text-sm"
			><input
				type="checkbox"
				class="checkbox checkbox-sm"
				checked={load.isolated}
				onchange={(event) => void put('isolated', event.currentTarget.checked, 'isolation')}
			/> wants a ground of its own</label
		>
		{#if load.on === 'usb'}
			<label class="flex items-center gap-2 text-sm"
				><input
					type="checkbox"
					class="checkbox checkbox-sm"
					checked={load.selfFeeds}
					onchange={(event) => void put('selfFeeds', event.currentTarget.checked, 'a socket of its own')}
				/> has a supply socket, too</label
			>
		{:else if others.length > 0}
			<fieldset class="flex flex-wrap gap-x-4 gap-y-2 text-sm">
				<legend class="small-print">Hosts, by USB</legend>
				{#each others as { id, name } (id)}
					{@const hosted = load.hosts.find((each) => each.load === id)}
					<span class="flex flex-wrap items-center gap-2">
						<label class="flex items-center gap-1"
							><input
								type="checkbox"
								class="checkbox checkbox-xs"
								checked={hosted !== undefined}
								onchange={() => void host(id)}
							/>
							{name}</label
						>
						{#if hosted}
							<select
								class="select w-36 select-xs"
								aria-label={`Host mode of ${load.name} for ${name}`}
								value={hosted.mode ?? ''}
								onchange={(event) =>
									void hosting(id, name, { mode: (event.currentTarget.value || null) as Hosting['mode'] })}
							>
								<option value="">host mode?</option><option value="on">host mode on</option><option
									value="off">host mode off</option
								>
							</select>
							<select
								class="select w-52 select-xs"
								aria-label={`Adapter between ${load.name} and ${name}`}
								value={hosted.adapter ?? ''}
								onchange={(event) =>
									void hosting(id, name, {
										adapter: (event.currentTarget.value || null) as Hosting['adapter']
									})}
							>
								<option value="">no adapter</option><option value="host end"
									>adapter, host end at the box</option
								><option value="wrong end">adapter, host end at the device</option>
							</select>
						{/if}
					</span>
				{/each}
			</fieldset>
		{/if}
		<button class="btn btn-ghost btn-xs" disabled={open.doing.busy} onclick={() => void remove()}
			>Take off the list<span class="sr-only"> {load.name}</span></button
		>
	</div>
</details>
