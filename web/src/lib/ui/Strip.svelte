<script lang="ts">
	import { page } from '$app/state';
	import { levelWord } from '@keen-relay/core/judgement';
	import type { Tile } from '$lib/model/types.ts';
	import LevelMark from './LevelMark.svelte';
	import { clockTime } from './format.ts';
	import { PLACES } from './places.ts';
	import { say } from './theirs.svelte.ts';

	interface Props {
		tiles: Tile[];
		timeZone: string;
		/** News from the server is late: what is shown may not be so any more. */
		stale: boolean;
	}
	let { tiles, timeZone, stale }: Props = $props();

	const MOST_DRAWN = 4;
	const open = (href: string) => page.url.pathname === href || page.url.pathname.startsWith(`${href}/`);
	const opens = (tile: Tile) => open(tile.href) || tile.members.some((member) => open(member.href));

	function step(event: KeyboardEvent) {
		if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return;
		const links = [...(event.currentTarget as HTMLElement).querySelectorAll('a')];
		const at = links.indexOf(document.activeElement as HTMLAnchorElement);
		links[at + (event.key === 'ArrowRight' ? 1 : -1)]?.focus();
	}
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<nav class="flex h-[92px] border-b border-line bg-sheet" aria-label="Line" onkeydown={step}>
	{#each tiles as tile (`${tile.stationId} ${tile.role}`)}
		{@const chosen = opens(tile)}
		{@const level = stale ? 'noData' : tile.level}
		<div
			class="relative flex w-[124px] min-w-0 shrink flex-col overflow-hidden border-r border-hair px-2.5 pt-2 max-[1179px]:px-1.5 {chosen
				? 'border-t-4 border-t-copper bg-paper pt-1'
				: ''}"
			style={chosen ? 'margin-bottom:-1px' : ''}
		>
			<a
				href={tile.href}
				class="flex flex-col"
				aria-current={chosen ? 'page' : undefined}
				data-testid="tile-{tile.name}"
				data-level={level}
				title="{tile.name}: {levelWord(level)}"
			>
				<span
					class="flex items-center gap-1.5 text-[15px] tracking-tight whitespace-nowrap max-[1179px]:gap-1 max-[1179px]:text-xs max-[999px]:flex-col max-[999px]:items-start max-[999px]:gap-0 {chosen
						? 'font-semibold'
						: 'text-soft'}"
				>
					<LevelMark {level} />{tile.name}
				</span>
				<span
					class="figure text-[21px] leading-6 font-semibold whitespace-nowrap max-[1179px]:text-[17px] max-[999px]:text-sm max-[999px]:leading-4"
					>{say(tile.figure)}</span
				>
				{#if !(chosen && tile.members.length)}
					<span class="truncate text-xs leading-4 text-soft max-[999px]:hidden">{say(tile.words)}</span>
					<span class="truncate text-xs leading-4 {tile.dueAtMs === null ? 'text-soft' : ''}">
						{tile.dueAtMs === null ? (tile.state === 'stopped' ? 'stopped' : 'nothing due') : `due ${clockTime(tile.dueAtMs, timeZone)}`}
					</span>
				{/if}
				<span class="absolute inset-0" aria-hidden="true"></span>
			</a>
			{#if chosen && tile.members.length}
				<span class="absolute inset-x-0 bottom-0 flex border-t border-hair bg-paper" role="group" aria-label={tile.name}>
					{#each tile.members as member, i (member.href)}
						<a
							href={member.href}
							class="flex-1 py-0.5 text-center text-xs {open(member.href) ? 'bg-ink font-semibold text-paper' : ''}"
							aria-label={member.name}
							aria-current={open(member.href) ? 'true' : undefined}>{i + 1}</a
						>
					{/each}
				</span>
			{:else if !chosen}
				<!-- The belt: a block for each panel that is at the station now. -->
				<svg class="pointer-events-none absolute inset-x-0 bottom-0 h-1.5 w-full" aria-hidden="true">
					<line x1="0" x2="100%" y1="0.5" y2="0.5" stroke="var(--line)" />
					{#each Array.from({ length: Math.min(tile.panels, MOST_DRAWN) }) as _, i (i)}
						<rect x={10 + i * 28} y="1" width="18" height="5" fill="var(--soft)" />
					{/each}
				</svg>
			{/if}
		</div>
	{/each}
	<div
		class="ml-auto grid w-[290px] min-w-[230px] shrink-0 grid-cols-4 content-center gap-x-1 px-2 text-[15px] max-[1179px]:w-[210px] max-[1179px]:min-w-[210px] max-[1179px]:gap-x-0 max-[1179px]:px-1 max-[1179px]:text-sm"
		role="group"
		aria-label="Places"
	>
		{#each PLACES as place (place.href)}
			{@const chosen = open(place.href)}
			<a
				href={place.href}
				class="flex h-11 items-center justify-center border-b-2 {chosen ? 'border-copper font-semibold' : 'border-transparent'}"
				aria-current={chosen ? 'page' : undefined}
			>
				{place.name}
			</a>
		{/each}
	</div>
</nav>
