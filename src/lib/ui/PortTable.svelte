<script lang="ts">
	import { Doing } from './doing.svelte';
	import { nameLikeness } from '../core/gear';
	import { midiDesk } from '../hardware/midi-desk.svelte';
	import ProblemNote from './ProblemNote.svelte';
	import StateMark from './StateMark.svelte';

	interface Socket {
		port: string;
		name: string;
		direction: 'in' | 'out';
	}
	/** Which of the computer's ports each socket of the catalogue is. */
	let { sockets }: { sockets: Socket[] } = $props();
	const doing = new Doing();
	const WORDS = {
		same: 'there',
		'by name': 'there, found by its name',
		renamed: 'there, under another name',
		absent: 'away'
	} as const;
	const matchOf = (socket: Socket) =>
		midiDesk.matches.find(
			({ memory }) => memory.key === socket.port && memory.direction === socket.direction
		) ?? null;
	const free = $derived(
		midiDesk.present.filter(
			(port) =>
				!midiDesk.matches.some(
					({ match }) => match.port?.id === port.id && match.port.direction === port.direction
				)
		)
	);
	const open = $derived(sockets.filter((socket) => !matchOf(socket)));

	async function choose(socket: Socket, id: string) {
		await doing.run(async () => {
			if (id === '') await midiDesk.forget(socket.port, socket.direction);
			else {
				const port = midiDesk.present.find(
					(candidate) => candidate.id === id && candidate.direction === socket.direction
				);
				if (port) await midiDesk.remember(socket.port, port);
			}
		});
	}

	/** Gives each open socket the free port whose name is most like its own. */
	async function matchByName() {
		const offers = open
			.flatMap((socket) =>
				free
					.filter(({ direction }) => direction === socket.direction)
					.map((port) => ({ socket, port, score: nameLikeness(socket.name, port.name) }))
			)
			.filter(({ score }) => score >= 0.5)
			.sort((a, b) => b.score - a.score);
		const [sockets, ports] = [new Set<Socket>(), new Set<unknown>()];
		for (const { socket, port } of offers) {
			if (sockets.has(socket) || ports.has(port)) continue;
			sockets.add(socket);
			ports.add(port);
			await choose(socket, port.id);
		}
	}
</script>

<section aria-label="Ports of the computer" class="mt-6">
	<div class="flex items-baseline gap-3">
		<h2 class="flex-1">Which port is which</h2>
		{#if open.length > 0 && free.length > 0}<button class="btn btn-sm" onclick={matchByName}
				>Match by name</button
			>{/if}
	</div>
	{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
	{#if sockets.length === 0}
		<p class="mt-1">
			There is no interface in the catalogue yet. <a class="link-quiet" href="/gear/new">Add it</a> with its ports.
		</p>
	{:else}
		<table class="ledger-table mt-2">
			<thead><tr><th>Socket</th><th></th><th>Port of the computer</th><th>Now</th></tr></thead>
			<tbody>
				{#each sockets as socket (socket.port + socket.direction)}
					{@const found = matchOf(socket)}
					<tr>
						<td class="plate">{socket.name}</td>
						<td>{socket.direction}</td>
						<td>
							<select
								class="select w-full max-w-80 select-sm"
								aria-label={`Port of the computer that ${socket.name} ${socket.direction} is`}
								value={found?.match.port?.id ?? ''}
								onchange={(event) => void choose(socket, event.currentTarget.value)}
							>
								<option value="">{found && !found.match.port ? `${found.memory.name} (away)` : 'none'}</option
								>
								{#each midiDesk.present.filter(({ direction }) => direction === socket.direction) as port (port.id)}
									<option value={port.id}>{port.name}</option>
								{/each}
							</select>
						</td>
						<td
							>{#if found}<span class="flex items-center gap-1.5"
									><StateMark state={found.match.how === 'absent' ? 'danger' : 'verified'} size={11} />{WORDS[
										found.match.how
									]}</span
								>{/if}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	{/if}
	{#if free.length > 0}<p class="small-print mt-1">
			Not given to a socket: {free.map(({ name, direction }) => `${name} (${direction})`).join(', ')}.
		</p>{/if}
</section>
