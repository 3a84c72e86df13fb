<script lang="ts">
	import { page } from '$app/state';
	import { levelWord } from '@keen-relay/core/judgement';
	import { lineStands } from '@keen-relay/core/line';
	import type { LineState } from '$lib/model/types.ts';
	import { clockTime } from './format.ts';
	import LevelMark from './LevelMark.svelte';

	interface Props {
		lines: readonly LineState[];
		wall?: boolean;
	}
	let { lines, wall = false }: Props = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const asking = $derived(lines.filter((line) => ['act', 'stopped'].includes(lineStands(line.stations, line.pace.verdict).level)).length);
</script>

<h1 class="font-bold {wall ? 'text-[52px] leading-[58px]' : 'text-[28px] leading-[34px]'}">
	{lines.length === 1 ? 'One line' : `${lines.length} lines`}; {asking === 0
		? 'none asks for an act'
		: asking === 1
			? 'one asks for an act'
			: `${asking} ask for an act`}.
</h1>
<ul data-testid="lines">
	{#each lines as line (line.id)}
		{@const stands = lineStands(line.stations, line.pace.verdict)}
		{@const [first] = line.next}
		<li
			class="grid grid-cols-[auto_minmax(0,9rem)_minmax(0,1fr)_auto] items-center gap-x-4 border-b border-hair {wall
				? 'min-h-36 text-4xl'
				: 'min-h-24 text-lg'}"
		>
			<LevelMark level={stands.level} size={wall ? 48 : 26} />
			<div>
				<a class="font-bold {wall ? '' : 'text-xl'}" href="/line/{line.id}">{line.name}</a>
				<p class="{wall ? 'text-2xl' : 'text-sm'} text-soft">
					{#if line.run}<span class="figure">{line.run.finished}/{line.run.panels}</span> {line.run.number}{:else}no run{/if}
				</p>
			</div>
			<div>
				<p class="font-semibold">{levelWord(stands.level)}. {stands.station ? `${stands.station}: ` : ''}{stands.statement}</p>
				<ol class="mt-1 flex flex-wrap gap-x-3 gap-y-1 {wall ? 'text-2xl' : 'text-sm'}" aria-label="Stations of {line.name}">
					{#each line.stations as s (`${s.stationId} ${s.role}`)}
						<li class="flex items-center gap-1"><LevelMark level={s.verdict.level} size={wall ? 24 : 16} />{s.name}</li>
					{/each}
				</ol>
			</div>
			<div class="max-w-72 text-right {wall ? 'text-2xl' : 'text-sm'}">
				{#if first}<span class="figure">{clockTime(first.atMs, zone)}</span>
					{#if wall}<strong>{first.action}</strong>{:else}<a class="font-semibold underline" href={first.href}>{first.action}</a>{/if}
					<span class="text-soft">{first.station}</span>{:else}<span class="text-soft">Nothing due</span>{/if}
			</div>
		</li>
	{:else}
		<li class="py-8 text-soft">No line yet.</li>
	{/each}
</ul>
