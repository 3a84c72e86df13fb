<script lang="ts">
	import { page } from '$app/state';
	import { levelWord } from '@keen-relay/core/judgement';
	import { lineStands } from '@keen-relay/core/line';
	import type { LineState } from '$lib/model/types.ts';
	import { clockTime } from './format.ts';
	import LevelMark from './LevelMark.svelte';
	import { say } from './theirs.svelte.ts';

	interface Props {
		lines: readonly LineState[];
		wall?: boolean;
	}
	let { lines, wall = false }: Props = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	// A wall with many lines is read all the same: smaller, and of each line only the stations that ask for something.
	const many = $derived(wall && lines.length > 4);
	const asking = $derived(lines.filter((line) => ['act', 'stopped'].includes(lineStands(line.stations, line.pace.verdict).level)).length);
</script>

<div class={wall ? 'flex h-full flex-col' : ''}>
	<h1 class="font-bold {wall ? 'text-[52px] leading-[58px]' : 'text-[28px] leading-[34px]'}">
		{lines.length === 1 ? 'One line' : `${lines.length} lines`}; {asking === 0
			? 'none asks for an act'
			: asking === 1
				? 'one asks for an act'
				: `${asking} ask for an act`}.
	</h1>
	<ul data-testid="lines" class={wall ? 'grid min-h-0 flex-1 auto-rows-fr' : ''}>
		{#each lines as line (line.id)}
			{@const stands = lineStands(line.stations, line.pace.verdict)}
			{@const [first] = line.next}
			<li
				class="grid items-center gap-x-4 border-b border-hair {wall
					? `grid-cols-[auto_minmax(0,15rem)_minmax(0,1fr)_15rem] overflow-hidden ${many ? 'text-xl leading-6' : 'max-h-48 py-3 text-3xl leading-9'}`
					: 'min-h-24 grid-cols-[auto_minmax(0,9rem)_minmax(0,1fr)_auto] text-lg'}"
			>
				<LevelMark level={stands.level} size={many ? 34 : wall ? 48 : 26} />
				<div>
					<a class="block truncate font-bold {wall ? '' : 'text-xl'}" href="/line/{line.id}">{line.name}</a>
					<p class="{many ? 'text-base' : wall ? 'text-2xl' : 'text-sm'} text-soft">
						{#if line.run}<span class="figure">{line.run.finished}/{line.run.panels}</span>
							<span class="whitespace-nowrap">{line.run.number}</span>{:else}no run{/if}
					</p>
				</div>
				<div>
					<p class="font-semibold {many ? 'truncate' : ''}">
						{levelWord(stands.level)}. {stands.station ? `${stands.station}: ` : ''}{say(stands.statement)}
					</p>
					<ol
						class="mt-1 flex gap-x-3 gap-y-1 {many
							? 'h-7 flex-wrap overflow-hidden text-lg whitespace-nowrap'
							: wall
								? 'flex-wrap text-2xl'
								: 'flex-wrap text-sm'}"
						aria-label="Stations of {line.name}"
					>
						{#each line.stations.filter((s) => !many || (s.verdict.level !== 'good' && s.verdict.level !== 'noData')) as s (`${s.stationId} ${s.role}`)}
							<li class="flex items-center gap-1"><LevelMark level={s.verdict.level} size={many ? 18 : wall ? 24 : 16} />{s.name}</li>
						{/each}
					</ol>
				</div>
				<div class="max-w-72 text-right {wall ? (many ? 'line-clamp-2 text-lg leading-6' : 'text-2xl') : 'text-sm'}">
					{#if first}<span class="figure">{clockTime(first.atMs, zone)}</span>
						{#if wall}<strong>{say(first.action)}</strong>{:else}<a class="font-semibold underline" href={first.href}>{say(first.action)}</a
							>{/if}
						<span class="text-soft">{first.station}</span>{:else}<span class="text-soft">Nothing due</span>{/if}
				</div>
			</li>
		{:else}
			<li class="py-8 text-soft">No line yet. <a class="underline" href="/plant/set-up/lines">Enter the first one</a></li>
		{/each}
	</ul>
</div>
