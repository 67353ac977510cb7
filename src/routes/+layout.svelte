<script lang="ts">
	import { refresh } from '$lib/ui/refresh';
	import '../app.css';
	import { onMount, tick } from 'svelte';
	import { afterNavigate, beforeNavigate, goto, invalidate } from '$app/navigation';
	import { page } from '$app/state';
	import { desk } from '$lib/hardware/desk.svelte';
	import { otherTabs } from '$lib/hardware/other-tabs.svelte';
	import Cabinet from '$lib/ui/Cabinet.svelte';
	import DropZone from '$lib/ui/intake/DropZone.svelte';
	import Tray from '$lib/ui/tray/Tray.svelte';
	import { putInTray } from '$lib/ui/tray/put';
	import { tray } from '$lib/hardware/tray.svelte';
	import KeysSheet from '$lib/ui/KeysSheet.svelte';
	import { pageKeys, singleKeys, typing } from '$lib/ui/keys.svelte';
	import { pressPanic } from '$lib/ui/panic';
	import { notices } from '$lib/ui/notices.svelte';
	import { STAGES } from '$lib/ui/stages';
	import { outcomeLine } from '$lib/ui/outcome-words';
	import WorkStrip from '$lib/ui/WorkStrip.svelte';

	let { data, children } = $props();
	let commands = $state(false);
	/** The command field is fetched when it is asked for first. */
	let asked = $state(false);
	$effect(() => {
		if (commands) asked = true;
	});
	let keys = $state(false);
	let cabinet = $state(false);
	const bare = $derived(page.url.pathname === '/enter');

	// Before this, the page shows everything and answers to nothing but links.
	onMount(() => {
		notices.recall();
		desk.startIn(data.world);
		document.documentElement.dataset.ready = '';
		otherTabs.onEnd = () => void refresh();
	});

	/** Another window or the phone may have changed something: after this time the cabinet is asked for again. */
	const STALE_MS = 10_000;
	let loadedAt = 0;
	$effect(() => {
		void data.fronts;
		loadedAt = performance.now();
	});
	const freshen = () => {
		if (performance.now() - loadedAt > STALE_MS) void invalidate('drawer:cabinet');
	};

	function press(event: KeyboardEvent) {
		if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
			event.preventDefault();
			commands = !commands;
			return;
		}
		if (event.key === 'Escape') {
			cabinet = false;
			// It may have been called and not be there yet: then nothing else hears that it is taken back.
			if (!event.isComposing) commands = false;
		}
		// What is typed is for the command field, also while that is being fetched, or where it lost the focus.
		if (commands) {
			if (!typing(event)) document.querySelector<HTMLElement>('dialog[open] input')?.focus();
			return;
		}
		if (typing(event) || !singleKeys.allows(event)) return;
		// With Alt some keyboards write another letter: what is printed on the key counts.
		const pressed = event.altKey ? event.code.replace(/^(Key|Digit)/, '').toLowerCase() : event.key;
		const stage = STAGES.find(({ key }) => key === pressed);
		if (pressed === 't') {
			tray.open = !tray.open;
			event.preventDefault();
			return;
		}
		if (pressed === '.' || pressed === 'period') {
			void pressPanic();
			event.preventDefault();
			return;
		}
		const own = pageKeys.all.find(({ key }) => key === pressed.toLowerCase());
		if (event.key === '?') keys = true;
		else if (event.key === '/') document.getElementById('cabinet-filter')?.focus();
		else if (pressed === '0') goto('/');
		else if (stage) goto(stage.href);
		else if (own) own.run();
		else return;
		event.preventDefault();
	}

	// Fetched when something is taken back first.
	notices.takeBack = async (way) => (await import('$lib/ui/take-back')).takeBack(way);
	tray.wordsOf = (name, report) => ({
		says: outcomeLine(name, report),
		good: ['complete', 'verified'].includes(report.status)
	});
	// A link to a transfer puts it into the tray, over whatever page is shown.
	beforeNavigate(({ to, type, cancel }) => {
		if (type !== 'link' || to?.url.pathname !== '/transfers/new') return;
		cancel();
		void putInTray(to.url.search.slice(1));
	});
	// What is known has changed: what waits in the tray is looked at again.
	// The work goes on at the page's heading, unless somebody holds the focus elsewhere.
	afterNavigate(async ({ from }) => {
		void tray.lookAgain();
		freshen();
		await tick();
		if (!from || document.activeElement !== document.body) return;
		const heading = document.querySelector<HTMLElement>('#page h1, #page h2');
		if (!heading) return;
		heading.tabIndex = -1;
		heading.focus({ preventScroll: true });
	});

	// What ended is told in the footer, and every page shows it.
	$effect(() => {
		const ended = desk.last;
		if (!ended?.ended) return;
		notices.say(
			outcomeLine(ended.deviceName, ended.ended),
			['complete', 'verified', 'sent'].includes(ended.ended.status) ? 'good' : 'bad',
			ended.direction === 'restore' && ended.ended.touched.length > 0
				? { title: 'Bring back what was there', way: { by: 'restore', transferId: ended.transferId } }
				: undefined
		);
		void refresh();
	});
	$effect(() => {
		if (desk.problem) notices.say(desk.problem.message, 'bad');
	});
</script>

<svelte:window onkeydown={press} />
<svelte:document onvisibilitychange={() => document.visibilityState === 'visible' && freshen()} />

{#if bare}
	{@render children()}
{:else}
	<a href="#page" class="btn absolute top-1 left-1 z-40 -translate-y-16 btn-sm focus:translate-y-0"
		>Skip to the page</a
	>
	<div class="flex h-dvh">
		<Cabinet fronts={data.fronts} bind:open={cabinet} />
		<div class="flex min-w-0 flex-1 flex-col">
			<WorkStrip
				onCommands={() => (commands = true)}
				onKeys={() => (keys = true)}
				onCabinet={() => (cabinet = !cabinet)}
				{cabinet}
			/>
			<main
				id="page"
				tabindex="-1"
				class="relative min-h-0 flex-1 overflow-auto bg-sheet px-3 py-4 outline-none sm:px-6 sm:py-5"
			>
				{@render children()}
			</main>
			<Tray />
		</div>
	</div>
	{#if asked}
		{#await import('$lib/ui/CommandSheet.svelte') then { default: CommandSheet }}<CommandSheet
				bind:open={commands}
				fronts={data.fronts}
			/>{/await}
	{/if}
	<KeysSheet bind:open={keys} />
	<DropZone />
{/if}
