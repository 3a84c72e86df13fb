<script lang="ts">
	import { page } from '$app/state';
	import { levelWord } from '@keen-relay/core/judgement';
	import { lineStands, type HourOfShift } from '@keen-relay/core/line';
	import { tick, untrack, type Snippet } from 'svelte';
	import type { LineState } from '$lib/model/types.ts';
	import { plantTime } from './clock.svelte.ts';
	import { clockTime, sayWhen } from './format.ts';
	import HourBars from './HourBars.svelte';
	import LevelMark from './LevelMark.svelte';
	import { say } from './theirs.svelte.ts';

	interface Props {
		line: LineState;
		hours: { hours: HourOfShift[] } | null;
		/** Read from five metres: larger, and nothing to press. */
		wall?: boolean;
		children?: Snippet;
	}
	let { line, hours, wall = false, children }: Props = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const stands = $derived(lineStands(line.stations, line.pace.verdict));
	const finished = $derived(hours?.hours.reduce((sum, h) => sum + h.finished, 0) ?? 0);
	const asked = $derived(hours?.hours.reduce((sum, h) => sum + h.asked, 0) ?? 0);
	const urgent = $derived(line.next.slice(0, 3));
	// Nobody scrolls a wall: there, stations that ask for nothing shrink to their names.
	const quiet = $derived(wall ? line.stations.filter((s) => s.verdict.level === 'good' || s.verdict.level === 'noData') : []);
	const told = $derived(line.stations.filter((s) => !quiet.includes(s)));
	// A wall is read from afar and never scrolled: its writing is as large as lets every station be seen.
	const SIZES = [1, 0.88, 0.76, 0.66, 0.56];
	let size = $state(0);
	let list = $state<HTMLElement>();
	const words = $derived(JSON.stringify(line.stations.map((s) => [s.verdict.statement, s.act?.say])));
	async function fit() {
		for (size = 0; size < SIZES.length - 1; size++) {
			await tick();
			if (!list || list.scrollHeight <= list.clientHeight) return;
		}
	}
	$effect(() => {
		void words;
		if (wall) untrack(() => void fit());
	});
	const px = (large: number) => `font-size:${Math.round(large * SIZES[size]!)}px;line-height:1.15`;
</script>

<div class="grid h-full {wall ? 'grid-cols-[minmax(0,1fr)_480px]' : 'beside [--beside:350px]'}">
	<section class="flex min-h-0 flex-col pt-3 pr-5">
		<header class="flex items-start gap-3.5" data-testid="verdict" data-level={stands.level}>
			<span class="mt-1.5"><LevelMark level={stands.level} size={wall ? 44 : 28} /></span>
			<h1 class="font-bold {wall ? '' : 'text-[28px] leading-[34px]'}" style={wall ? px(52) : ''}>
				{levelWord(stands.level)}. <span class="font-semibold">{stands.station ? `${stands.station}: ` : ''}{say(stands.statement)}</span>
			</h1>
		</header>
		<p class="mt-1 {wall ? 'text-2xl' : ''} text-soft">
			{wall ? `${line.name}. ` : ''}{line.run
				? `${line.run.number}, ${line.run.board} ${line.run.side}: ${line.run.finished} of ${line.run.panels} finished. `
				: 'No run. '}{stands.station ? say(line.pace.verdict.statement) : ''}
		</p>
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<ul
			class="mt-2 min-h-0 flex-1 overflow-y-auto border-t border-hair"
			bind:this={list}
			data-testid="stations"
			aria-label="Stations"
			tabindex={wall ? undefined : 0}
		>
			{#each told as s (`${s.stationId} ${s.role}`)}
				<li
					class="grid items-center gap-x-3.5 border-b border-hair {wall
						? 'grid-cols-[auto_minmax(0,1fr)_18rem] py-1.5'
						: 'min-h-[48px] grid-cols-[auto_minmax(0,7.5rem)_minmax(0,1fr)_auto] text-lg leading-6'}"
					style={wall ? px(30) : ''}
				>
					<LevelMark level={s.verdict.level} size={wall ? 34 : 20} />
					{#if wall}
						<span><strong>{s.name}.</strong> {say(s.verdict.statement)}</span>
					{:else}
						<a class="font-semibold" href={s.href}>{s.name}</a>
						<span>{say(s.verdict.statement)}</span>
					{/if}
					{#if s.act}
						<span class="text-right {wall ? '' : 'max-w-72 text-base leading-5 max-[1179px]:max-w-44'}" style={wall ? px(24) : ''}>
							{#if wall}<strong>{say(s.act.say)}</strong>{:else}<a class="font-bold underline" href={s.act.href}>{say(s.act.say)}</a>{/if}
							{#if s.act.who !== 'anybody'}<span class="text-soft {wall ? '' : 'text-sm'}" style={wall ? px(18) : ''}>{s.act.who}</span
								>{/if}
						</span>
					{/if}
				</li>
			{/each}
		</ul>
		{#if quiet.length}
			<ul
				class="flex flex-wrap gap-x-7 gap-y-2 border-t border-line py-3 text-2xl"
				data-testid="quiet"
				aria-label="Stations that ask for nothing"
			>
				{#each quiet as s (`${s.stationId} ${s.role}`)}
					<li class="flex items-center gap-2"><LevelMark level={s.verdict.level} size={26} />{s.name}</li>
				{/each}
			</ul>
		{/if}
	</section>
	<aside class="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-line pt-3 pb-3 pl-5 *:shrink-0">
		<div>
			<p class="figure font-semibold {wall ? 'text-[88px] leading-[124px]' : 'text-[52px] leading-[54px]'}" data-testid="key-figure">
				{finished}
			</p>
			<p class="{wall ? 'text-2xl' : ''} text-soft">
				panels finished this shift; the takt asks for {asked}{asked > finished ? `, ${asked - finished} more` : ''}.
			</p>
		</div>
		{#if urgent.length}
			<section>
				<h2 class="border-b border-hair pb-1 {wall ? 'text-xl' : 'text-sm'} font-semibold text-soft">Most urgent</h2>
				<ol data-testid="urgent">
					{#each urgent as n, i (i)}
						<li class="border-b border-hair py-1.5 {wall ? 'text-2xl' : ''}">
							<span class="figure">{clockTime(n.atMs, zone)}</span>
							{#if wall}<strong>{say(n.action)}</strong>{:else}<a class="font-semibold underline" href={n.href}>{say(n.action)}</a>{/if}
							<span class="text-soft">{n.station}{n.who === 'anybody' ? '' : `, ${n.who}`}, {sayWhen(n.atMs, plantTime.now)}</span>
						</li>
					{/each}
				</ol>
			</section>
		{/if}
		{#if hours?.hours.length}<HourBars hours={hours.hours.slice(wall ? -8 : -4)} {wall} />
			<p class="text-sm text-soft">Panels of each hour, and what the takt asks for while a run is on.</p>{/if}
		{@render children?.()}
	</aside>
</div>
