<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { page } from '$app/state';
	import { send } from './api.ts';

	interface Props {
		stationPc: string;
		person: { name: string; role: string } | null;
	}
	let { stationPc, person }: Props = $props();

	const clearAfterS = $derived(page.data.badgeIdleS);
	const TELL_EVERY_S = 20;
	let idleS = $state(0);
	let toldS = 0;

	/** News of the line brings the same person as a new object: only another person starts the count anew. */
	const who = $derived(person?.name ?? null);

	function active() {
		idleS = 0;
	}
	async function clear() {
		await send('DELETE', '/api/v1/badge');
		await invalidateAll();
	}
	$effect(() => {
		if (who === null) return;
		idleS = 0;
		const timer = setInterval(() => {
			idleS++;
			toldS++;
			if (idleS >= clearAfterS) void clear();
			// The server forgets a badge by itself: it is told while somebody is here.
			else if (toldS >= TELL_EVERY_S && idleS < TELL_EVERY_S) {
				toldS = 0;
				void send('POST', '/api/v1/badge/seen', {});
			}
		}, 1000);
		return () => clearInterval(timer);
	});
</script>

<svelte:window onpointerdown={active} onkeydown={active} />

<span class="flex items-center gap-3" data-testid="badge">
	<span class="text-sm text-soft">{stationPc}</span>
	{#if person}
		<strong class="text-2xl">{person.name}</strong>
		<span class="text-soft">{person.role}</span>
		<button class="btn h-9 border-line bg-transparent font-normal" onclick={clear}
			>Done{#if clearAfterS - idleS <= 20}<span class="figure">&nbsp;{clearAfterS - idleS} s</span>{/if}</button
		>
	{:else}
		<strong>Show your badge</strong>
	{/if}
</span>
