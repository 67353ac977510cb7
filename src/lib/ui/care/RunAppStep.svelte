<script lang="ts">
	import type { ProcedureStep } from '$lib/core/care';
	import type { StoredLine } from '$lib/core/contact';
	import type { LiveWorld } from '$lib/core/drawer';
	import { readFirmware, type Profile } from '$lib/core/profile';
	import type { FirmwareProgress, Target } from '$lib/core/transfer';
	import { askDevice } from '$lib/hardware/ask-device';
	import { desk } from '$lib/hardware/desk.svelte';
	import { askLoaderOf, sendFirmwareTo, type FirmwareTarget } from '$lib/hardware/firmware';
	import { tray } from '$lib/hardware/tray.svelte';
	import { untrack } from 'svelte';
	import { putInTray } from '../tray/put';
	import When from '../When.svelte';
	import ComputerFeed from './ComputerFeed.svelte';
	import { duration } from '../words';
	import type { RunOnPage } from './open-run.svelte';

	interface Props {
		open: RunOnPage;
		step: Extract<ProcedureStep, { by: 'app' }>;
		line: StoredLine | null;
		profile: Profile | null;
		target: Target | null;
		own: LiveWorld;
		focusNext: (node: HTMLElement) => void;
	}
	/** A step that the app carries out: begun, done, and on record with how it ended; shown by what the studio then knows. */
	let { open, step, line, profile, target, own, focusNext }: Props = $props();
	const run = $derived(open.now);
	const busy = $derived(open.doing.busy);
	/** The line goes to the other world: what is done there would prove nothing here. */
	const elsewhere = $derived(desk.world !== run.world);
	let progress = $state.raw<FirmwareProgress | null>(null);
	/** Whether this page is sending now: a step that was begun and is not, was left in the midst. */
	let sending = $state(false);
	let confirmed = $state<string[]>([]);

	const LOOK_MS = 1200;
	/** What ends by itself: looked for while the step is under way. */
	const awaited = $derived(['backup', 'restore', 'adapter-test'].includes(step.act) && run.begun !== null);
	let tried = -1;
	$effect(() => {
		if (!awaited) return;
		const timer = setInterval(() => void open.look().catch(() => undefined), LOOK_MS);
		return () => clearInterval(timer);
	});
	$effect(() => {
		if (!awaited || run.shown !== null || run.step !== step.id || tried === run.revision) return;
		tried = run.revision;
		// The tray has done its part: the next step is what one comes back for.
		untrack(() => {
			tray.open = false;
			void open.act({ do: 'done', step: step.id });
		});
	});

	const begin = () => open.act({ do: 'begin', step: step.id });
	async function transfer(ask: string) {
		if (run.begun === null && !(await begin())) return;
		await putInTray(ask);
	}
	const identify = () =>
		open.carryOut(step.id, async () => {
			await askDevice(line!, profile!, target!);
			return { good: true, note: '' };
		});

	const at = (): FirmwareTarget => ({ device: run.device!, ways: run.firmware! });
	const MODES = {
		ready: 'Its loader is in update mode, and nothing is erased.',
		erased: 'Its loader is in update mode; it has no system.',
		underway: 'Its loader is in update mode, in the midst of a file; the first message begins anew.'
	};
	const askMode = () =>
		open.carryOut(step.id, async () => {
			const mode = await askLoaderOf(at());
			return mode
				? { good: true, note: MODES[mode] }
				: { good: false, note: 'It does not say that it is in update mode.' };
		});
	async function fileMessages() {
		const answer = await fetch(`/api/v1/kept-files/${run.file!.id}`);
		if (!answer.ok) throw new Error('The kept file cannot be read: choose it again.');
		return readFirmware(new Uint8Array(await answer.arrayBuffer()), run.firmware!, run.model);
	}
	const send = () =>
		open.carryOut(step.id, async () => {
			sending = true;
			progress = null;
			try {
				const file = await fileMessages();
				const outcome = await sendFirmwareTo(at(), file, (told) => (progress = told));
				const { state, says, back } = outcome;
				return state === 'written'
					? { good: true, note: says }
					: { good: false, note: `${says} The way back: ${back}` };
			} finally {
				sending = false;
			}
		});
	/** Left in the midst: the loader is asked, and what it says is on record. */
	const seeHowItStands = () =>
		open.carryOut(step.id, async () => {
			const mode = await askLoaderOf(at());
			return {
				good: false,
				note: mode
					? `The page went away in the midst. ${MODES[mode]} The way back: send the same file from its first message.`
					: 'The page went away in the midst, and its loader does not answer. The way back: switch it off, bring it into update mode, and ask again.'
			};
		});
	const toggle = (name: string, on: boolean) =>
		(confirmed = on ? [...confirmed, name] : confirmed.filter((each) => each !== name));
	const tellTempo = () =>
		open
			.carryOut(step.id, () => Promise.resolve(null))
			.then(
				(begun) =>
					begun &&
					open.act({ do: 'done', step: step.id, confirmed, note: confirmed.join(', ').slice(0, 600) })
			);
</script>

{#if elsewhere}
	<p class="mt-2 max-w-prose" role="status">
		<span class="plate">The line goes elsewhere now.</span>
		This run is about {run.world === 'bench' ? 'the bench' : 'real ports'}{run.world === own
			? ', as the studio is'
			: ''}. <a class="link" href="/transfers/ports">Choose the world</a>.
	</p>
{/if}

<div class="mt-3 flex flex-wrap items-center gap-2 print:hidden">
	{#if step.act === 'backup'}
		<button
			class="btn btn-primary btn-sm"
			disabled={busy || elsewhere}
			{@attach focusNext}
			onclick={() => void transfer(`device=${run.device!.id}`)}>Back it up now</button
		>
	{:else if step.act === 'restore'}
		{#if run.versionId}
			<button
				class="btn btn-primary btn-sm"
				disabled={busy || elsewhere}
				{@attach focusNext}
				onclick={() => void transfer(`version=${run.versionId}`)}>Put them back now</button
			>
		{:else}
			<button
				class="btn btn-primary btn-sm"
				disabled={busy || run.begun !== null}
				onclick={() => void begin()}>Begin</button
			>
			<a class="btn btn-sm" href={`/gear/${run.device?.id}/drawer`}>Choose the version in its drawer</a>
		{/if}
	{:else if step.act === 'adapter-test'}
		<a class="btn btn-primary btn-sm" href="/transfers/ports" onclick={() => void begin()}>Test it on Ports</a
		>
	{:else if step.act === 'identity'}
		{#if line && profile && target}
			<button
				class="btn btn-primary btn-sm"
				disabled={busy || elsewhere}
				{@attach focusNext}
				onclick={() => void identify()}>Ask it now</button
			>
		{:else}<p class="small-print">It has no profile, so it cannot be asked here.</p>{/if}
	{:else if step.act === 'mode'}
		<button
			class="btn btn-primary btn-sm"
			disabled={busy || elsewhere || !run.firmware}
			{@attach focusNext}
			onclick={() => void askMode()}>Ask its loader</button
		>
	{:else if step.act === 'send'}
		{#if run.begun !== null && !sending}
			<p class="w-full max-w-prose">
				<span class="plate">Begun <When at={run.begun} />, and nobody noted how it ended.</span>
				The page went away, or the sending goes on in another tab.
			</p>
			<button
				class="btn btn-primary btn-sm"
				disabled={busy || elsewhere}
				onclick={() => void seeHowItStands()}>Ask its loader how it stands</button
			>
		{:else if !sending}
			<div class="w-full"><ComputerFeed /></div>
			<button
				class="btn btn-primary btn-sm"
				disabled={busy || elsewhere || !run.file || !run.firmware}
				{@attach focusNext}
				onclick={() => void send()}
				>Send {run.file?.name ?? 'the file'}{run.file?.version ? `, version ${run.file.version}` : ''}</button
			>
		{/if}
	{/if}
</div>
{#if sending}
	<div class="mt-2 grid gap-1" role="status" aria-label="Sending">
		<progress
			class="progress w-full progress-primary"
			value={progress?.taken ?? 0}
			max={progress?.of ?? 1}
			aria-label="Messages taken"
		></progress>
		<p>
			<span class="plate">Do not touch anything.</span>
			<span class="figures"
				>{progress
					? `${progress.taken} of ${progress.of} messages taken${progress.leftMs === null ? '' : `, about ${duration(progress.leftMs / desk.factor)} left`}`
					: 'Asking its loader'}</span
			>
		</p>
	</div>
{/if}
{#if awaited && run.shown}
	<p class="small-print mt-2" role="status">
		{run.shown}
		{tray.open ? 'It is in the tray.' : 'Begun; the tray has it.'}
	</p>
{/if}
{#if step.act === 'clock-check'}
	<fieldset class="mt-2 print:hidden">
		<legend class="text-sm">Who followed</legend>
		{#if run.followers.length === 0}<p class="small-print">
				The wiring names nobody that follows a clock. <a class="link" href="/wiring/map">See the wiring</a>.
			</p>{/if}
		<ul class="mt-1 flex flex-wrap gap-x-6 gap-y-1">
			{#each run.followers as name (name)}
				<li>
					<label class="flex items-center gap-2"
						><input
							type="checkbox"
							class="checkbox checkbox-sm"
							checked={confirmed.includes(name)}
							onchange={(event) => toggle(name, event.currentTarget.checked)}
						/>{name}</label
					>
				</li>
			{/each}
		</ul>
		<button
			class="btn mt-2 btn-primary btn-sm"
			disabled={busy || run.followers.length === 0 || confirmed.length < run.followers.length}
			onclick={() => void tellTempo()}>They all followed</button
		>
	</fieldset>
{/if}
