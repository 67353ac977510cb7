<script lang="ts">
	import { Doing } from '$lib/ui/doing.svelte';
	import { goto } from '$app/navigation';
	import { showSetting } from '$lib/core/drawer';
	import { call } from '$lib/hardware/api';
	import { tray } from '$lib/hardware/tray.svelte';
	import SnapshotDifferences from '$lib/ui/SnapshotDifferences.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import StateMark from '$lib/ui/StateMark.svelte';
	import When from '$lib/ui/When.svelte';
	import { count, minuteOf } from '$lib/ui/words';

	let { data } = $props();
	let chosen = $state<string[]>([]);
	const doing = new Doing();
	let looking = $state(false);
	/** Names of sounds, with commas between; empty takes all. */
	let only = $state('');
	const MARKS = {
		kept: { word: 'kept then, verified', state: 'verified' },
		'last known': { word: 'as last known', state: 'quiet' },
		failed: { word: 'failed', state: 'danger' },
		waiting: { word: 'not finished', state: 'attention' },
		'left out': { word: 'left out', state: 'quiet' }
	} as const;
	const restorable = $derived(data.items.filter(({ versionId }) => versionId !== null));

	function toggle(id: string) {
		chosen = chosen.includes(id) ? chosen.filter((entry) => entry !== id) : [...chosen, id];
	}

	/** What is wanted of a device, as the tray asks for it: all of its version, or the sounds that a song needs. */
	async function askFor(deviceId: string): Promise<string | null> {
		const { versionId } = data.items.find((item) => item.deviceId === deviceId)!;
		const names = only
			.split(',')
			.map((name) => name.trim().toLowerCase())
			.filter(Boolean);
		const ask = `version=${versionId}&device=${deviceId}`;
		if (names.length === 0) return ask;
		const slots = (
			await call<{ area: string; index: number; name: string | null }[]>(
				'GET',
				`/versions/${versionId}/slots`
			)
		).filter(({ name }) => name && names.some((wanted) => name.toLowerCase().includes(wanted)));
		if (slots.length === 0) return null;
		return `${ask}&slots=${slots.map(({ area, index }) => `${area}:${index}`).join(',')}`;
	}

	async function look() {
		looking = true;
		await doing.run(async () => {
			const asks: string[] = [];
			for (const deviceId of chosen) {
				const ask = await askFor(deviceId);
				if (ask) asks.push(ask);
			}
			if (asks.length > 0) await tray.add(asks);
			else
				doing.problem = {
					message: 'No chosen device has a sound of that name in this snapshot.',
					remedy: 'Write less of the name, or leave it empty for all sounds.'
				};
		});
		looking = false;
	}

	const compareWith = (id: string) => goto(id ? `?with=${id}` : '?', { keepFocus: true, noScroll: true });
</script>

<svelte:head><title>{data.snapshot.title || 'Snapshot'} · Silent Drawer</title></svelte:head>

<div class="flex flex-wrap items-end gap-4">
	<div class="min-w-0 flex-1">
		<h2 class="truncate">{data.snapshot.title || 'Snapshot without a title'}</h2>
		<p class="small-print">
			Taken <When at={data.snapshot.takenAt} />, {count(data.items.length, 'device')}
		</p>
	</div>
	{#if data.others.length > 0}
		<div class="field">
			<label for="with">What changed since</label>
			<select
				id="with"
				class="select"
				value={data.withId ?? ''}
				onchange={(event) => compareWith(event.currentTarget.value)}
			>
				<option value="">compare with …</option>
				{#each data.others as other (other.id)}<option value={other.id}
						>{other.title || 'without a title'}, {minuteOf(other.takenAt)}</option
					>{/each}
			</select>
		</div>
	{/if}
</div>
{#if doing.problem}<div class="mt-3"><ProblemNote problem={doing.problem} /></div>{/if}

{#if data.differences}
	<SnapshotDifferences differences={data.differences} />
{:else}
	<div class="mt-4 overflow-x-auto">
		<table class="ledger-table">
			<thead
				><tr
					><th>Device</th><th>State</th><th>Settings that no dump holds</th><th
						><span class="sr-only">Open</span></th
					></tr
				></thead
			>
			<tbody>
				{#each data.items as item (item.deviceId)}
					<tr>
						<td class="plate"
							>{#if item.versionId}<label class="flex items-center gap-2"
									><input
										type="checkbox"
										class="checkbox checkbox-sm"
										checked={chosen.includes(item.deviceId)}
										onchange={() => toggle(item.deviceId)}
									/>{item.device}</label
								>{:else}{item.device}{/if}</td
						>
						<td
							><span class="flex items-center gap-1.5"
								><StateMark state={MARKS[item.status].state} size={11} />{MARKS[item.status].word}</span
							>{#if item.says}<span class="small-print block max-w-md">{item.says}</span>{/if}</td
						>
						<td class="text-sm"
							>{item.settings.map((setting) => `${setting.label}: ${showSetting(setting)}`).join(' · ')}</td
						>
						<td class="text-right"
							>{#if item.versionId}<a
									class="btn btn-xs"
									href={`/gear/${item.deviceId}/drawer?v=${item.versionId}`}
									aria-label={`Open version of ${item.device}`}>Open version</a
								>{/if}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
	<div class="mt-4 flex flex-wrap items-end gap-2">
		<div class="field">
			<label for="only">Only sounds named (for a song; commas between)</label>
			<input id="only" class="input w-80 input-sm" bind:value={only} placeholder="all of them" />
		</div>
		<button
			class="btn btn-sm"
			onclick={() => (chosen = chosen.length > 0 ? [] : restorable.map(({ deviceId }) => deviceId))}
			>{chosen.length > 0 ? 'Choose none' : 'Choose all'}</button
		>
		<button class="btn btn-primary btn-sm" disabled={chosen.length === 0 || looking} onclick={look}
			>Check the restore of {count(chosen.length, 'device')} in the tray</button
		>
	</div>
{/if}
