<script lang="ts">
	import { Doing } from '../doing.svelte';
	import { lineTo, type StoredLine } from '../../core/contact';
	import type { Device } from '../../core/gear';
	import type { Profile } from '../../core/profile';
	import { call } from '../../hardware/api';
	import { askDevice } from '../../hardware/ask-device';
	import { desk } from '../../hardware/desk.svelte';
	import { midiDesk } from '../../hardware/midi-desk.svelte';
	import { navigating } from '$app/state';
	import ArrowRight from '@lucide/svelte/icons/arrow-right';
	import { nextTask } from '../next-task.svelte';
	import { refresh } from '../refresh';
	import StateMark from '../StateMark.svelte';
	import When from '../When.svelte';
	import { sayTaken, type Taken } from './take-found';

	/** The line from the computer to a device and back: which world, which sockets, when it was last heard, what is missing. */
	let { stored, device, profile }: { stored: StoredLine; device: Device; profile: Profile | null } = $props();
	/** Whoever comes from another page has the device's name and pages first. */
	const drawing = nextTask(navigating.to === null);
	const doing = new Doing();
	const contact = $derived(stored.contacts.find(({ world }) => world === desk.world) ?? null);
	const line = $derived(lineTo({ ...stored, contact, world: desk.world, ports: midiDesk.sockets }));
	const addressed = $derived(profile?.addressing.deviceId);
	// A change of device or world makes what was said before wrong.
	$effect(() => {
		void [device.id, desk.world];
		doing.problem = null;
	});

	async function act(work: () => Promise<unknown>) {
		if (!doing.busy) await doing.run(work);
	}
	const ask = () =>
		act(async () => {
			if (!profile) return;
			await askDevice(stored, profile, {
				deviceId: device.deviceId ?? addressed?.default ?? 0,
				channel: device.channel ?? 1
			});
			await refresh();
		});
	const noteTheWay = () =>
		act(async () => {
			sayTaken(await call<Taken>('POST', `/devices/${device.id}/contact/cables`));
			await refresh();
		});
	const panelIdOf = (wire: number) => wire + (addressed?.panelAdd ?? 0);
</script>

<section aria-label="Line" class="line-plate">
	{#if drawing.due}
		<p class="flex flex-wrap items-center gap-x-2 gap-y-0.5">
			<span class="world">{line.world === 'bench' ? 'Bench' : 'Hardware'}</span>
			{#each line.stops as stop, i (i)}
				{#if i > 0}<ArrowRight size={14} class="shrink-0 text-slate" aria-label="to" />{/if}
				<span class={['whitespace-nowrap', stop.state === 'away' && 'text-rust']}
					><span class={i === 0 ? 'text-slate' : 'plate'}>{stop.name}</span
					>{#if stop.detail && stop.detail !== stop.name}<span class="small-print"
							>&nbsp;({stop.detail}{stop.state === 'away' ? ', away' : ''})</span
						>{/if}</span
				>
			{/each}
		</p>
		<p class="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
			{#if contact}
				<span class="flex items-center gap-1.5"
					><StateMark
						state={line.gap?.code === 'answers-elsewhere' ? 'attention' : 'verified'}
						size={11}
					/><span
						>{contact.how === 'identity' ? 'Said who it is' : 'Sent its dump'}
						<When at={contact.at} />{contact.deviceId !== null
							? `, device ID ${panelIdOf(contact.deviceId)}`
							: ''}{contact.firmware ? `, firmware ${contact.firmware}` : ''}.</span
					></span
				>
			{/if}
			{#if line.gap}
				<span class="flex items-center gap-1.5"
					>{#if line.gap.code !== 'answers-elsewhere'}<StateMark
							state={line.gap.code === 'never-answered' || line.gap.code === 'ports-closed'
								? 'quiet'
								: 'attention'}
							size={11}
						/>{/if}{line.gap.says}</span
				>
			{:else if !contact}
				<span class="text-slate">{stored.answers ? '' : 'This model does not say who it is when asked.'}</span
				>
			{/if}
			{#if line.gap?.action === 'find'}<a class="btn btn-primary btn-xs" href="/gear/find?now">Find it</a>
			{:else if line.gap?.action === 'open ports'}<button
					class="btn btn-primary btn-xs"
					disabled={doing.busy}
					onclick={() => act(() => desk.setWorld('hardware'))}>Open the ports</button
				>
			{:else if line.gap?.action === 'note the way'}<button
					class="btn btn-primary btn-xs"
					disabled={doing.busy}
					onclick={noteTheWay}>Note the way it answered on</button
				>
			{:else if line.gap?.action === 'plug'}<a
					class="btn btn-primary btn-xs"
					href={`/gear/${device.id}/ports`}>Plug it in</a
				>{/if}
			{#if line.open && stored.answers}<button
					class={['btn btn-xs', line.gap?.action === 'ask' && 'btn-primary']}
					disabled={doing.busy}
					onclick={ask}>{doing.busy ? 'Asking …' : contact ? 'Ask again' : 'Ask who it is'}</button
				>{/if}
		</p>
		{#if doing.problem}<p role="alert" class="text-sm text-rust">
				{doing.problem.message}
				{doing.problem.remedy}
			</p>{/if}
	{/if}
</section>

<style>
	.line-plate {
		min-height: 3.9rem;
		margin-top: 0.5rem;
		padding: 0.35rem 0.7rem;
		border-left: 3px solid var(--color-line);
		background: var(--color-ground);
	}
	.world {
		padding: 0 0.45rem;
		border: 1px solid var(--color-line);
		border-radius: 99px;
		font-size: 0.8rem;
	}
</style>
