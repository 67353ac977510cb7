<script lang="ts">
	import { attempt } from './attempt';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { refresh } from '$lib/ui/refresh';
	import { VERSION_KINDS, WORLD_WORDS, type Proof, type Version } from '$lib/core/drawer';
	import { call } from '$lib/hardware/api';
	import { remembered } from './remembered.svelte';
	import { notices } from './notices.svelte';
	import StateMark from './StateMark.svelte';
	import When from './When.svelte';
	import { count } from './words';

	/** What is written on a version; the title, note, tags and pin can be changed in place. */
	interface Props {
		version: Version;
		/** That it holds a part of the memory only, in words. */
		part: string;
		/** The whole version from before it. */
		older?: string | null;
		/** Its question is still open. */
		asks?: boolean;
		/** Other devices of its model. */
		alike?: { id: string; name: string }[];
	}
	let { version, part, older = null, alike = [], asks = false }: Props = $props();
	/** When a capture that went on much later had begun. */
	const begunAt = $derived(
		version.since && Date.parse(version.takenAt) - Date.parse(version.since) > 3_600_000
			? version.since
			: null
	);
	const PROOF_WORDS: Record<Proof, string> = {
		none: 'Nothing proves it',
		checksum: 'Verified: checksums right',
		'twice alike': 'Verified: came twice alike',
		'read back': 'Verified: read back equal to what was sent'
	};

	const letGo = () =>
		attempt(async () => {
			const { id, deviceId } = version;
			await call('DELETE', `/versions/${id}`);
			await goto(`/gear/${deviceId}/drawer`, { invalidateAll: true });
			notices.say('The version is let go. It stays until old versions are tidied away.', 'plain', {
				title: 'Undo',
				way: {
					by: 'calls',
					calls: [{ method: 'POST', path: `/versions/${id}/back` }],
					says: 'The version is back.',
					then: `/gear/${deviceId}/drawer?v=${id}`
				}
			});
		});
	const move = (to: string) =>
		attempt(async () => {
			const { id, deviceId } = version;
			if (!to) return;
			await call('PUT', `/versions/${id}`, { deviceId: to });
			await goto(`/gear/${to}/drawer?v=${id}`, { invalidateAll: true });
			notices.say('Moved to this drawer.', 'plain', {
				title: 'Undo',
				way: {
					by: 'calls',
					calls: [{ method: 'PUT', path: `/versions/${id}`, body: { deviceId } }],
					says: 'The version is in the drawer that it came from.',
					then: `/gear/${deviceId}/drawer?v=${id}`
				}
			});
		});

	async function accept() {
		await attempt(async () => {
			await call('POST', `/versions/${version.id}/accept`);
			await refresh();
			notices.say('Noted: this is what the device holds.', 'good');
		});
	}
	const written = () => ({
		editing: false,
		title: version.title,
		note: version.note,
		tags: version.tags.join(', ')
	});
	// svelte-ignore state_referenced_locally
	const draft = remembered(`version ${version.id}`, written());
	const label = $derived(draft.value);

	async function save(pinned = version.pinned) {
		await attempt(async () => {
			await call('PUT', `/versions/${version.id}/label`, {
				title: label.title,
				note: label.note,
				pinned,
				tags: label.tags
					.split(',')
					.map((tag) => tag.trim())
					.filter(Boolean)
			});
			await refresh();
			draft.forget(written());
			notices.say('Written on the version.', 'good');
		});
	}
</script>

{#if label.editing}
	<form
		class="sheet grid gap-3 bg-ground p-4 sm:grid-cols-2"
		onsubmit={(event) => (event.preventDefault(), void save())}
	>
		<div class="field">
			<label for="version-title">Title</label><input
				id="version-title"
				class="input w-full"
				maxlength="80"
				bind:value={label.title}
			/>
		</div>
		<div class="field">
			<label for="version-tags">Tags, with commas between</label><input
				id="version-tags"
				class="input w-full"
				bind:value={label.tags}
			/>
		</div>
		<div class="field sm:col-span-2">
			<label for="version-note">Note</label><textarea
				id="version-note"
				class="textarea w-full"
				rows="2"
				maxlength="2000"
				bind:value={label.note}
			></textarea>
		</div>
		<div class="flex gap-2">
			<button class="btn btn-primary btn-sm">Save</button><button
				type="button"
				class="btn btn-sm"
				onclick={() => draft.forget(written())}>Leave as it was</button
			>
		</div>
	</form>
{:else}
	<div class="flex flex-wrap items-baseline gap-x-3">
		<h2>{version.title || VERSION_KINDS[version.kind]}</h2>
		{#each version.tags as tag (tag)}<span class="badge badge-outline">{tag}</span>{/each}
		{#if version.pinned}<span class="badge badge-outline badge-sm">pinned</span>{/if}
	</div>
	<p class="mt-0.5 flex flex-wrap items-center gap-x-2">
		<StateMark state={version.verified ? 'verified' : 'attention'} />
		<span
			>{version.verified
				? PROOF_WORDS[version.proof]
				: version.missing > 0
					? `Incomplete: ${version.missing} slots missing`
					: 'Not verified'}</span
		>
		{#if version.world === 'file'}<span>From a file: never seen in the device itself</span>{/if}
		{#if part}<span class="font-semibold">{part}</span>{/if}
		{#if version.world !== page.data.world && version.world !== 'file'}<span
				class="badge badge-outline font-semibold">{WORLD_WORDS[version.world]}</span
			>{/if}
		<span class="small-print">
			{VERSION_KINDS[version.kind]} · {#if begunAt}begun <When at={begunAt} />, ended&#32;{/if}<When
				written
				at={version.takenAt}
			/> · {version.slots > 0 ? count(version.slots, 'slot') : count(version.messages.length, 'message')}, {version.bytes.toLocaleString(
				'en'
			)} bytes
			{version.firmware ? `· firmware ${version.firmware}` : ''} · {count(
				version.changed,
				version.slots > 0 ? 'slot' : 'message'
			)} changed
		</span>
	</p>
	{#if version.question && !asks}
		<p class="mt-1 max-w-prose text-slate">
			When it was taken: {version.question} The device was read again later, so this is no longer asked.
		</p>
	{:else if version.question}
		<div class="mt-3 mb-2 border-l-4 border-rust pl-3" role="group" aria-label="To be looked at">
			<p class="font-semibold text-rust">{version.question}</p>
			<p class="small-print max-w-prose">
				It is kept, and does not count as the device’s state before you say so.
			</p>
			<p class="mt-1 flex gap-2">
				{#if older}<a class="btn btn-primary btn-xs" href={`/transfers/new?version=${older}`}
						>Bring back what it held before</a
					>{/if}
				<button class="btn btn-xs" onclick={accept}>That is right: it counts</button>
			</p>
		</div>
	{/if}
	{#if version.note}<p class="mt-1 max-w-prose">{version.note}</p>{/if}
	<p class="mt-2 flex flex-wrap items-center gap-2">
		<button class="btn btn-xs" onclick={() => (label.editing = true)}>Title, note and tags</button>
		<button class="btn btn-xs" aria-pressed={version.pinned} onclick={() => save(!version.pinned)}
			>{version.pinned ? 'Unpin' : 'Pin'}</button
		>
		<button class="btn btn-xs" onclick={letGo}>Let it go</button>
		{#if version.world === 'file' && alike.length > 0}
			<label class="text-sm" for="move-version">Move to the drawer of</label>
			<select
				id="move-version"
				class="select w-44 select-xs"
				value=""
				onchange={(event) => void move(event.currentTarget.value)}
			>
				<option value="">Stay here</option>
				{#each alike as device (device.id)}<option value={device.id}>{device.name}</option>{/each}
			</select>
		{/if}
	</p>
{/if}
