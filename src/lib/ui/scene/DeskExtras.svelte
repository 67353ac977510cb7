<script lang="ts">
	import { deskOf, ownMessageSchema, type Desk } from '$lib/core/scene';
	import KeptField from '../KeptField.svelte';
	import type { OpenSet } from './open-set.svelte';

	/** What a scene holds beside zones and sounds: tempo, controllers' pages, messages of one's own, and whether it silences. */
	let { open }: { open: OpenSet } = $props();
	const id = $props.id();
	const desk = $derived(open.desk);
	let page = $state({ controller: '', page: '' });
	let message = $state({ instrument: '', channel: '', says: '', bytes: '' });
	let fault = $state('');
	/** Whom a message is for: the first instrument, until one is chosen. */
	const to = $derived(message.instrument || (open.set.setup.instruments[0]?.id ?? ''));

	const without = ({ pages }: Desk, controller: string) =>
		pages.filter((each) => each.controller !== controller);
	const pagesOf = $derived(
		open.told.controllers.find(({ name }) => name === page.controller.trim())?.pages ?? []
	);
	type Extra = 'pages' | 'messages' | 'tempo' | 'silence';
	/** What it becomes is made of what is there by then. */
	const put = <K extends Extra>(says: string, key: K, made: (now: Desk) => Desk[K]) =>
		open.edit(says, (set) => [{ path: [key], value: made(deskOf(set)) }]);
	async function addPage(event: SubmitEvent) {
		event.preventDefault();
		const added = { controller: page.controller.trim(), page: page.page.trim() };
		if (!added.controller || !added.page) return;
		const says = `${added.controller} shows ${added.page}`;
		if (await put(says, 'pages', (now) => [...without(now, added.controller), added]))
			page = { controller: '', page: '' };
	}
	async function addMessage(event: SubmitEvent) {
		event.preventDefault();
		const { channel, says, bytes } = message;
		const read = ownMessageSchema.safeParse({
			instrument: to,
			channel: channel === '' ? null : Number(channel),
			says,
			bytes
		});
		fault = read.success ? '' : (read.error.issues[0]?.message ?? 'It is no message.');
		if (!read.success) return;
		if (
			await put(`A message of your own: ${read.data.says}`, 'messages', (now) => [...now.messages, read.data])
		)
			message = { instrument: '', channel: '', says: '', bytes: '' };
	}
	const said = $derived(
		[
			desk.tempo === null ? '' : `tempo ${desk.tempo}`,
			...desk.pages.map((each) => `${each.controller} on ${each.page}`),
			...desk.messages.map(({ says }) => says),
			desk.silence ? 'whatever sounds ends' : ''
		]
			.filter(Boolean)
			.join('; ')
	);
</script>

<details class="mt-4">
	<summary class="cursor-pointer"
		><span class="plate">Tempo, pages, messages of your own</span>
		<span class="small-print">{said || 'none on the desk'}</span></summary
	>
	<div class="mt-2 flex flex-wrap items-end gap-3">
		<KeptField
			label="Tempo"
			class="input w-24 input-sm"
			type="number"
			min="20"
			max="400"
			placeholder="not said"
			value={desk.tempo?.toString() ?? ''}
			save={(text) =>
				put(text.trim() === '' ? 'No tempo' : `Tempo ${text}`, 'tempo', () =>
					text.trim() === '' ? null : Number(text)
				)}
		/>
		<label class="flex items-center gap-2 pb-1.5"
			><input
				type="checkbox"
				class="checkbox checkbox-sm"
				checked={desk.silence}
				onchange={({ currentTarget: { checked } }) =>
					void put(checked ? 'Whatever sounds ends' : 'What sounds is left alone', 'silence', () => checked)}
			/> Whatever sounds ends when it comes</label
		>
	</div>
	<ul class="mt-2">
		{#each desk.pages as each (each.controller)}
			<li class="flex flex-wrap items-center gap-2">
				{each.controller} shows {each.page}
				<button
					class="btn btn-ghost btn-xs"
					onclick={() =>
						void put(`No page of ${each.controller}`, 'pages', (now) => without(now, each.controller))}
					>Take away<span class="sr-only">{` the page of ${each.controller}`}</span></button
				>
			</li>
		{/each}
	</ul>
	<form class="mt-1 flex flex-wrap items-end gap-2" aria-label="A page of a controller" onsubmit={addPage}>
		<div class="field">
			<label for={`${id}-controller`}>Controller</label>
			<input
				id={`${id}-controller`}
				class="input w-44 input-sm"
				maxlength="60"
				list={`${id}-controllers`}
				bind:value={page.controller}
			/>
			<datalist id={`${id}-controllers`}>
				{#each open.told.controllers as { name }, i (i)}<option value={name}></option>{/each}
			</datalist>
		</div>
		<div class="field">
			<label for={`${id}-page`}>shows the page</label>
			<input
				id={`${id}-page`}
				class="input w-36 input-sm"
				maxlength="60"
				list={`${id}-pages`}
				bind:value={page.page}
			/>
			<datalist id={`${id}-pages`}>
				{#each pagesOf as name, i (i)}<option value={name}></option>{/each}
			</datalist>
		</div>
		<button class="btn btn-sm">Add the page</button>
	</form>
	<ul class="mt-3">
		{#each desk.messages as each, i (i)}
			<li class="flex flex-wrap items-center gap-2">
				<span
					>{each.says}: <span class="font-mono text-sm">{each.bytes}</span> to {open.nameOf(
						each.instrument
					)}{each.channel === null ? '' : `, channel ${each.channel}`}</span
				>
				<button
					class="btn btn-ghost btn-xs"
					onclick={() =>
						void put(`Without ${each.says}`, 'messages', (now) => now.messages.filter((_, at) => at !== i))}
					>Take away<span class="sr-only">{` the message ${each.says}`}</span></button
				>
			</li>
		{/each}
	</ul>
	<form class="mt-1 flex flex-wrap items-end gap-2" aria-label="A message of your own" onsubmit={addMessage}>
		<div class="field">
			<label for={`${id}-says`}>What it does</label>
			<input id={`${id}-says`} class="input w-36 input-sm" maxlength="60" bind:value={message.says} />
		</div>
		<div class="field">
			<label for={`${id}-bytes`}>Message, in hexadecimal</label>
			<input
				id={`${id}-bytes`}
				class="input w-40 font-mono input-sm"
				placeholder="B0 5B 40"
				bind:value={message.bytes}
			/>
		</div>
		<div class="field">
			<label for={`${id}-of`}>to</label>
			<select
				id={`${id}-of`}
				class="select w-36 select-sm"
				bind:value={() => to, (chosen) => (message.instrument = chosen)}
			>
				{#each open.set.setup.instruments as { id: of, name } (of)}<option value={of}>{name}</option>{/each}
			</select>
		</div>
		<div class="field">
			<label for={`${id}-on`}>Channel</label>
			<select id={`${id}-on`} class="select w-28 select-sm" bind:value={message.channel}>
				<option value="">its own</option>
				{#each { length: 16 } as _, n (n)}<option value={String(n + 1)}>{n + 1}</option>{/each}
			</select>
		</div>
		<button class="btn btn-sm">Add the message</button>
	</form>
	{#if fault}<p role="alert" class="text-rust">{fault}</p>{/if}
</details>
