<script lang="ts">
	import { page } from '$app/state';
	import { levelWord } from '@keen-relay/core/judgement';
	import type { Tile } from '$lib/model/types.ts';
	import LevelMark from './LevelMark.svelte';
	import { clockTime } from './format.ts';

	interface Props {
		tiles: Tile[];
		timeZone: string;
	}
	let { tiles, timeZone }: Props = $props();

	const PLACES = [
		{ href: '/boards', name: 'Boards' },
		{ href: '/runs', name: 'Run' },
		{ href: '/panels', name: 'Panels' },
		{ href: '/shift', name: 'Shift' },
		{ href: '/log', name: 'Log' },
		{ href: '/plant', name: 'Plant' }
	];
	const MOST_DRAWN = 4;
	const open = (href: string) => page.url.pathname === href || page.url.pathname.startsWith(`${href}/`);

	function step(event: KeyboardEvent) {
		if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return;
		const links = [...(event.currentTarget as HTMLElement).querySelectorAll('a')];
		const at = links.indexOf(document.activeElement as HTMLAnchorElement);
		links[at + (event.key === 'ArrowRight' ? 1 : -1)]?.focus();
	}
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<nav class="flex h-[92px] border-b border-line bg-sheet" aria-label="Line" onkeydown={step}>
	{#each tiles as tile (tile.stationId)}
		{@const chosen = open(tile.href)}
		<a
			href={tile.href}
			class="relative flex w-[136px] min-w-0 shrink flex-col overflow-hidden border-r border-hair px-2.5 pt-2.5 {chosen
				? 'border-t-4 border-t-copper bg-paper pt-1.5'
				: ''}"
			style={chosen ? 'margin-bottom:-1px' : ''}
			aria-current={chosen ? 'page' : undefined}
			data-testid="tile-{tile.name}"
		>
			<span class="flex items-center gap-2 text-[15px] whitespace-nowrap {chosen ? 'font-semibold' : 'text-soft'}">
				<LevelMark level={tile.level} />{tile.name}
			</span>
			<span class="whitespace-nowrap">
				<span class="figure text-[22px] leading-6 font-semibold">{tile.figure}</span>
				<span class="text-sm text-soft">{tile.unit}</span>
			</span>
			<span class="mt-0.5 text-xs text-soft" title={levelWord(tile.level)}>
				{tile.dueAtMs === null ? (tile.state === 'stopped' ? 'stopped' : 'nothing due') : `due ${clockTime(tile.dueAtMs, timeZone)}`}
			</span>
			{#if !chosen}
				<!-- The belt: a block for each panel that is at the station now. -->
				<svg class="absolute inset-x-0 bottom-1 h-2.5 w-full" aria-hidden="true">
					<line x1="0" x2="100%" y1="1.5" y2="1.5" stroke="var(--line)" />
					<line x1="0" x2="100%" y1="8.5" y2="8.5" stroke="var(--line)" />
					{#each Array.from({ length: Math.min(tile.panels, MOST_DRAWN) }) as _, i (i)}
						<rect x={10 + i * 30} y="2" width="18" height="6" fill="var(--soft)" />
					{/each}
				</svg>
			{/if}
		</a>
	{/each}
	<div class="grid min-w-[168px] flex-1 shrink-0 grid-cols-2 content-center gap-x-2 px-4 text-[15px]">
		{#each PLACES as place (place.href)}
			{@const chosen = open(place.href)}
			<a
				href={place.href}
				class="border-b-2 py-0.5 {chosen ? 'border-copper font-semibold' : 'border-transparent'}"
				aria-current={chosen ? 'page' : undefined}
			>
				{place.name}
			</a>
		{/each}
	</div>
</nav>
