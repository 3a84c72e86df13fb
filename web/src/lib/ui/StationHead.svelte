<script lang="ts">
	import { page } from '$app/state';
	import { noData, type Verdict } from '@keen-relay/core/judgement';
	import type { Snippet } from 'svelte';
	import { kindOf } from '$lib/stations/index.ts';
	import LevelMark from './LevelMark.svelte';
	import Tabs from './Tabs.svelte';
	import VerdictHead from './VerdictHead.svelte';
	import { say } from './theirs.svelte.ts';

	interface Props {
		/** What this tab says of its own part; the station's one verdict stands above it. */
		own: Verdict;
		/** What it was judged on. */
		children?: Snippet;
		/** Beside the tabs' own line: the board chosen, a button. */
		bar?: Snippet;
	}
	let { own, children, bar }: Props = $props();

	const stations = $derived(page.data.line?.stations ?? []);
	/** The station whose page this is. */
	const standing = $derived(
		stations.find((s) => page.url.pathname === s.href || page.url.pathname.startsWith(`${s.href}/`)) ??
			stations.find((s) => page.data.station && s.stationId === page.data.station.id) ??
			null
	);
	const verdict = $derived(standing?.verdict ?? noData('No run on this line.'));
	const same = $derived(own.statement === verdict.statement && own.level === verdict.level);
	const tabs = $derived(standing ? kindOf(standing.role).tabs : []);
	/** A link to the page that is open does nothing. */
	const elsewhere = $derived(standing?.act && page.url.pathname + page.url.search !== standing.act.href);
</script>

<div class="flex items-start gap-4">
	<div class="min-w-0 flex-1">
		<VerdictHead {verdict} testid={same ? 'verdict' : 'standing'}
			>{#if same}{@render children?.()}{/if}</VerdictHead
		>
	</div>
	{#if standing?.act}
		<div class="shrink-0 text-right" data-testid="act">
			{#if elsewhere}
				<a class="btn min-h-16 max-w-80 border-ink bg-ink px-5 text-left text-paper" href={standing.act.href}>{say(standing.act.say)}</a>
			{:else}
				<p class="max-w-80 text-left text-lg leading-6 font-bold">{say(standing.act.say)}</p>
			{/if}
			<p class="mt-0.5 text-xs text-soft">{standing.act.who}</p>
		</div>
	{/if}
</div>
{#if tabs.length > 1 && standing}<Tabs base={standing.href} {tabs} label={standing.name} />{/if}
{#if !same}
	<div class="flex items-start gap-2" data-testid="verdict" data-level={own.level}>
		<span class="mt-0.5"><LevelMark level={own.level} size={20} /></span>
		<div class="min-w-0">
			<p class="text-lg leading-6 font-semibold">{say(own.statement)}</p>
			{#if children}<p class="text-soft">{@render children()}</p>{/if}
		</div>
	</div>
{/if}
{#if bar}<div class="flex items-center gap-4">{@render bar()}</div>{/if}
