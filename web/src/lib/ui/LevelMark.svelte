<script lang="ts">
	import { levelWord, type Level } from '@keen-relay/core/judgement';

	interface Props {
		level: Level;
		/** Edge of the mark in px, at least 20 where it stands alone. */
		size?: number;
	}
	let { level, size = 20 }: Props = $props();
	const COLOUR: Record<Level, string> = {
		good: 'var(--good)',
		watch: 'var(--watch)',
		act: 'var(--act)',
		stopped: 'var(--stop)',
		noData: 'none'
	};
</script>

<svg width={size} height={size} viewBox="0 0 20 20" role="img" aria-label={levelWord(level)} class="shrink-0" data-level={level}>
	{#if level === 'good'}
		<circle cx="10" cy="10" r="9" fill={COLOUR.good} />
	{:else if level === 'watch'}
		<path d="M10 1 19.5 18.5H.5Z" fill={COLOUR.watch} />
	{:else if level === 'act'}
		<path d="M10 .5 19.5 10 10 19.5 .5 10Z" fill={COLOUR.act} />
	{:else if level === 'stopped'}
		<rect x="1.5" y="1.5" width="17" height="17" fill={COLOUR.stopped} />
	{:else}
		<circle cx="10" cy="10" r="8.5" fill="none" stroke="var(--none)" stroke-width="1.8" stroke-dasharray="3.6 2.4" />
	{/if}
</svg>
