<script lang="ts">
	import { Doing } from '$lib/ui/doing.svelte';
	import { untrack } from 'svelte';
	import { goto } from '$app/navigation';
	import { deviceSchema, type Device } from '$lib/core/gear';
	import { profileSchema, type Profile } from '$lib/core/profile';
	import { readDraft, writeDraft } from '$lib/ui/remembered.svelte';
	import { call } from '$lib/hardware/api';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { refresh } from '$lib/ui/refresh';
	import ByteView from '$lib/ui/workshop/ByteView.svelte';
	import { FromManual } from '$lib/ui/workshop/from-manual.svelte';
	import DocumentDraft from '$lib/ui/workshop/DocumentDraft.svelte';
	import ManualForm from '$lib/ui/workshop/ManualForm.svelte';
	import ProfileTrial from '$lib/ui/workshop/ProfileTrial.svelte';
	import { readText } from '$lib/ui/workshop/document-text';
	import { count } from '$lib/ui/words';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	let text = $state(readDraft(draftKey()) ?? data.json);
	let at = $state(0);
	const doing = new Doing();
	const manual = new FromManual(() => data.profiles.map(({ id }) => id));
	let opened = $state(0);
	let rewritten = $state(0);
	const read = $derived(readText(text, profileSchema));
	/** An answer cannot be read: the text is not what the manual says. */
	const unanswered = $derived(
		data.wanted === 'new' && manual.shape !== null && manual.text === null && manual.isOwn(text)
	);
	const hex = $derived(data.messages[Math.min(at, data.messages.length - 1)]);

	function draftKey() {
		return `workshop ${data.wanted}`;
	}
	// Another profile was opened: its text, or what was written of it and not saved, replaces what was there.
	$effect(() => {
		const { json } = data;
		untrack(() => {
			const wanted = readDraft(draftKey()) ?? json;
			if (wanted === text) return;
			text = wanted;
			opened++;
		});
	});
	$effect(() => writeDraft(draftKey(), text === data.json ? null : text));

	function show(changes: { profile?: string; version?: string }) {
		const profile = changes.profile ?? data.wanted;
		const version = changes.version ?? data.versionId ?? '';
		const device = data.device ? `&device=${data.device.id}` : '';
		const query = `?profile=${encodeURIComponent(profile)}${version ? `&version=${encodeURIComponent(version)}` : ''}${device}`;
		void goto(query, { keepFocus: true, noScroll: true });
	}

	async function keep() {
		await doing.run(async () => {
			const saved = await call<Profile>('POST', '/profiles', JSON.parse(text));
			writeDraft(draftKey(), null);
			if (data.wanted === 'new') manual.forget();
			const given = data.device ? await giveTo(data.device.id, saved.id) : '';
			notices.say(
				`Saved as revision ${saved.revision} of “${saved.maker} ${saved.model}”. ${given}`.trim(),
				'good'
			);
			show({ profile: saved.id });
			await refresh();
		});
	}

	/** The device that the profile was written for gets it, and what was kept of it raw is read. */
	async function giveTo(id: string, profileId: string): Promise<string> {
		const device = await call<Device>('GET', `/devices/${id}`);
		if (device.profileId === profileId) return '';
		const { again } = await call<{ again: { read: number; raw: number } | null }>('PUT', `/devices/${id}`, {
			...deviceSchema.parse(device),
			profileId
		});
		return `${device.name} has it now${again ? `; of what was kept raw, ${count(again.read, 'version')} ${again.read === 1 ? 'is' : 'are'} read by it${again.raw > 0 ? ` and ${again.raw} not` : ''}` : ''}.`;
	}

	async function reread() {
		await doing.run(async () => {
			await call('POST', `/versions/${data.versionId}/reread`);
			await refresh();
			notices.say('The dump is read by the newest revision now. Its bytes are as they were.', 'good');
		});
	}
</script>

<svelte:head><title>Profile workshop · Silent Drawer</title></svelte:head>

<div class="flex flex-wrap items-end gap-3">
	<h1 class="flex-1">Profile workshop</h1>
	<div class="field">
		<label for="w-profile">Profile</label>
		<select
			id="w-profile"
			class="select select-sm"
			value={data.wanted}
			onchange={(event) => show({ profile: event.currentTarget.value })}
		>
			<option value="new">a new one</option>
			{#each data.profiles as { id, title, revision } (id)}<option value={id}
					>{title}, revision {revision}</option
				>{/each}
		</select>
	</div>
	<div class="field">
		<label for="w-dump">Dump beside it</label>
		<select
			id="w-dump"
			class="select max-w-72 select-sm"
			value={data.versionId ?? ''}
			onchange={(event) => show({ version: event.currentTarget.value })}
		>
			<option value="">none</option>
			{#each data.dumps as { id, title } (id)}<option value={id}>{title}</option>{/each}
		</select>
	</div>
</div>
{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
{#snippet profileText()}
	<section aria-label="Profile" class="min-w-0">
		<DocumentDraft
			bind:text
			bind:opened
			{rewritten}
			kept={data.json}
			{read}
			schema={profileSchema}
			jsonSchema={data.schema}
			label="Text of the profile"
			fileName={read.value?.id ?? 'profile'}
		>
			{#snippet save()}
				<button class="btn btn-primary btn-sm" disabled={read.value === null || unanswered} onclick={keep}
					>{data.device ? `Save, and give it to ${data.device.name}` : 'Save as a new revision'}</button
				>
			{/snippet}
		</DocumentDraft>
		<ProfileTrial
			{text}
			value={read.value}
			{opened}
			onreport={(now) => {
				text = now;
				opened++;
			}}
		/>
		{#if data.revisions.length > 0}
			<p class="small-print mt-1">
				{data.revisions
					.map(
						({ revision, own, versions }) =>
							`revision ${revision}${own ? ' (written here)' : ''} reads ${count(versions, 'version')}`
					)
					.join('; ')}
			</p>
		{/if}
	</section>
{/snippet}
{#snippet dumpBytes()}
	<section aria-label="Dump" class="min-w-0">
		{#if hex === undefined}
			<h2>No dump beside it</h2>
			<p class="mt-1 max-w-prose">
				Choose one above. A device without a profile can be captured raw, or a file kept in its drawer; then
				each byte is shown here with what claims it, while you write.
			</p>
		{:else}
			<div class="mb-2 flex items-center gap-2">
				<button class="btn btn-xs" disabled={at === 0} onclick={() => at--} aria-label="Message before"
					>‹</button
				>
				<span class="figures">Message {at + 1} of {data.messages.length}</span>
				<button
					class="btn btn-xs"
					disabled={at >= data.messages.length - 1}
					onclick={() => at++}
					aria-label="Next message">›</button
				>
				<span class="flex-1"></span>
				{#if data.wanted !== 'new'}<button class="btn btn-xs" onclick={reread}
						>Read the dump again with the newest revision</button
					>{/if}
			</div>
			<ByteView profile={read.value} {hex} />
		{/if}
	</section>
{/snippet}

<div class="mt-3 grid items-start gap-5 min-[1050px]:grid-cols-2">
	{#if data.wanted === 'new'}
		<ManualForm
			{manual}
			{text}
			fresh={text === data.json}
			write={(now) => {
				text = now;
				rewritten++;
			}}
		/>
		<!-- What the answers come to stays in sight while they are given. -->
		<div class="beside-answers min-w-0">
			{#if hex !== undefined}<div class="mb-4">{@render dumpBytes()}</div>{/if}
			{@render profileText()}
		</div>
	{:else}
		{@render profileText()}
		{@render dumpBytes()}
	{/if}
</div>

<style>
	@media (min-width: 1050px) {
		.beside-answers {
			position: sticky;
			top: 0;
			max-height: calc(100vh - 8rem);
			overflow-y: auto;
		}
	}
</style>
