<script lang="ts">
	import type { JarFacts, JarSpan, JarStatus } from '@keen-relay/core/paste';
	import { clockTime } from './format.ts';

	interface Props {
		jars: { facts: JarFacts; status: JarStatus; history: JarSpan[] }[];
		nowMs: number;
		timeZone: string;
		selected: string | null;
		onpick: (id: string) => void;
	}
	let { jars, nowMs, timeZone, selected, onpick }: Props = $props();

	const H = 3_600_000;
	const [BACK, AHEAD] = [10, 14];
	const LEFT = 128;
	let width = $state(800);
	let room = $state(400);
	/** Few jars stand further apart. */
	const ROW = $derived(Math.max(34, Math.min(60, (room - 34) / Math.max(1, jars.length))));
	const plot = $derived(Math.max(200, width - LEFT - 70));
	const from = $derived(nowMs - BACK * H);
	const x = $derived((ms: number) => LEFT + (plot * (Math.min(nowMs + AHEAD * H, Math.max(from, ms)) - from)) / ((BACK + AHEAD) * H));
	const NAMES: Record<JarStatus['state'], string> = {
		received: 'received',
		cold: 'in the fridge',
		warming: 'warming',
		ready: 'ready',
		mixed: 'stirred',
		open: 'open',
		on_stencil: 'on a stencil',
		quarantined: 'quarantine',
		discarded: 'discarded',
		empty: 'empty'
	};
	/** Thickness says how far along its life a jar is: thin in the cold, full on the stencil. */
	const THICK: Record<JarStatus['state'], number> = {
		received: 2,
		cold: 3,
		warming: 8,
		ready: 11,
		mixed: 11,
		open: 15,
		on_stencil: 20,
		quarantined: 20,
		discarded: 0,
		empty: 0
	};
	const spans = $derived(
		jars.map(({ history }) =>
			history
				.map((h, i) => ({ state: h.state, fromMs: h.fromMs, toMs: history[i + 1]?.fromMs ?? nowMs }))
				.filter((s) => s.toMs > from && THICK[s.state] > 0)
		)
	);
	const ticks = $derived.by(() => {
		const first = Math.ceil(from / (4 * H)) * 4 * H;
		return Array.from({ length: 7 }, (_, i) => first + i * 4 * H).filter((t) => t < nowMs + AHEAD * H);
	});
	const height = $derived(jars.length * ROW + 30);
</script>

<div
	class="h-full overflow-y-auto"
	bind:clientWidth={width}
	bind:clientHeight={room}
	role="group"
	aria-label="Lives of the jars on a time axis"
	tabindex="-1"
>
	<svg {width} {height} class="block" font-size="14" fill="var(--ink)">
		{#each ticks as t (t)}
			<line x1={x(t)} x2={x(t)} y1="18" y2={height} stroke="var(--hair)" />
			<text x={x(t)} y="12" text-anchor="middle" fill="var(--soft)" font-size="12" class="figure">{clockTime(t, timeZone)}</text>
		{/each}
		{#each jars as jar, i (jar.facts.id)}
			{@const y = 30 + i * ROW + ROW / 2}
			{@const until = jar.status.untilMs}
			<g
				role="button"
				tabindex="0"
				class="cursor-pointer"
				onclick={() => onpick(jar.facts.id)}
				onkeydown={(e) => (e.key === 'Enter' || e.key === ' ') && onpick(jar.facts.id)}
				data-testid="jar-{jar.facts.id}"
			>
				<rect
					x="0"
					y={y - ROW / 2 + 1}
					{width}
					height={ROW - 2}
					fill={selected === jar.facts.id ? 'var(--sheet)' : 'transparent'}
					stroke={selected === jar.facts.id ? 'var(--copper)' : 'none'}
				/>
				<text x="6" y={y - 1} font-weight="600" class="figure">{jar.facts.id}</text>
				<text x="6" y={y + 13} font-size="12" fill="var(--soft)">{NAMES[jar.status.state]}</text>
				{#each spans[i]! as s (s.fromMs)}
					<rect
						x={x(s.fromMs)}
						y={y - THICK[s.state] / 2}
						width={Math.max(1.5, x(s.toMs) - x(s.fromMs))}
						height={THICK[s.state]}
						fill={s.state === 'on_stencil' ? 'var(--copper)' : s.state === 'quarantined' ? 'transparent' : 'var(--ink)'}
						fill-opacity={s.state === 'warming' ? 0.35 : 1}
						stroke={s.state === 'quarantined' ? 'var(--act)' : 'none'}
						stroke-dasharray="4 3"
					/>
				{/each}
				{#if until !== null && until > nowMs && THICK[jar.status.state] > 0}
					<line x1={x(nowMs)} x2={x(until)} y1={y} y2={y} stroke="var(--soft)" stroke-width="1.5" stroke-dasharray="2 3" />
					{#if until < nowMs + AHEAD * H}
						<line x1={x(until)} x2={x(until)} y1={y - 11} y2={y + 11} stroke="var(--ink)" stroke-width="2.5" />
						<text x={x(until) + 5} y={y + 5} font-size="13" class="figure">{clockTime(until, timeZone)}</text>
					{:else}
						<text x={LEFT + plot + 4} y={y + 5} font-size="12" fill="var(--soft)">&gt; {AHEAD} h</text>
					{/if}
				{/if}
				{#if jar.status.readyMs !== null && jar.status.readyMs > nowMs}
					<circle cx={x(jar.status.readyMs)} cy={y} r="5" fill="var(--paper)" stroke="var(--ink)" stroke-width="2" />
					<text x={x(jar.status.readyMs) + 9} y={y - 6} font-size="12">opens {clockTime(jar.status.readyMs, timeZone)}</text>
				{/if}
			</g>
		{/each}
		<line x1={x(nowMs)} x2={x(nowMs)} y1="18" y2={height} stroke="var(--copper)" stroke-width="2" />
		<text x={x(nowMs)} y={height - 2} text-anchor="middle" fill="var(--copper)" font-size="12" font-weight="600">now</text>
	</svg>
</div>
