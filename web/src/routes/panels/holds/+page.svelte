<script lang="ts">
	import type { Verdict } from '@keen-relay/core/judgement';
	import { kindOf } from '$lib/stations/index.ts';
	import Leave from '$lib/ui/Leave.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import VerdictHead from '$lib/ui/VerdictHead.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';

	let { data } = $props();
	const verdict = $derived<Verdict>({
		level: data.open.length ? 'act' : 'good',
		statement: data.open.length
			? `${data.open.length} ${data.open.length === 1 ? 'thing is' : 'things are'} held: ${data.open
					.slice(0, 3)
					.map((hold) => hold.subject)
					.join(', ')}${data.open.length > 3 ? `, and ${data.open.length - 3} more` : ''}.`
			: 'Nothing is held.',
		because: [],
		doNext: []
	});
	type Hold = (typeof data.open)[number];
	type Lifted = (typeof data.lifted)[number];
	const howLifted = (hold: Lifted) =>
		hold.liftedHow === 'leave'
			? `leave of ${hold.liftedBy}: ${hold.liftNote}`
			: `${hold.liftedHow}${hold.liftedBy ? `, ${hold.liftedBy}` : ''}`;
	const WHAT = { panel: 'Panel', jar: 'Jar' } as const;
	const href = (hold: { kind: 'panel' | 'jar'; subject: string }) =>
		hold.kind === 'panel' ? `/panels/${encodeURIComponent(hold.subject)}` : `/paste?jar=${encodeURIComponent(hold.subject)}`;
</script>

<section class="flex h-full flex-col gap-3 px-5 pt-3.5">
	<VerdictHead {verdict}>What is held is not worked on by the stations named, until somebody who may says that it goes on.</VerdictHead>
	<div class="flex min-h-0 flex-1 flex-col">
		{#snippet what(hold: Hold | Lifted)}<span class="flex items-center gap-2"
				>{#if !('liftedAt' in hold)}<LevelMark level="stopped" />{/if}{WHAT[hold.kind]}
				<a class="figure underline" href={href(hold)}>{hold.subject}</a></span
			>{#if hold.lineId !== null}<span class="text-sm text-soft">{data.lines[hold.lineId]}</span>{/if}{/snippet}
		{#snippet lift(hold: Hold)}{#if hold.kind === 'panel'}<Leave holdId={hold.id} subject={hold.subject} />{:else}<a
					class="btn min-h-12 border-ink bg-transparent"
					href={href(hold)}>Review</a
				>{/if}{/snippet}
		<div class="max-h-[70%] min-h-44 flex-1">
			<DataTable
				name="holds"
				label="Held"
				testid="holds"
				rows={data.open}
				key={(h) => h.id}
				rowTestid={(h) => `hold-${h.subject}`}
				columns={[
					{ id: 'what', title: 'What', value: (h) => `${WHAT[h.kind]} ${h.subject}`, cell: what, class: 'whitespace-nowrap' },
					{ id: 'line', title: 'Line', value: (h) => (h.lineId === null ? null : data.lines[h.lineId]), away: true },
					{ id: 'why', title: 'Why', value: (h) => h.why },
					{ id: 'since', title: 'Since', value: (h) => h.since.getTime(), time: true },
					{ id: 'obeys', title: 'Obeyed by', value: (h) => h.obeys.map((role) => kindOf(role).name).join(', ') },
					{ id: 'lifts', title: 'Lifted by', value: (h) => h.who.join(', ') },
					{ id: 'act', title: '', value: () => null, cell: lift, class: 'text-right' }
				]}
				empty="Nothing is held: rejected panels and jars in quarantine would stand here."
			/>
		</div>
		{#if data.lifted.length}
			<h2 class="mt-4 border-b border-hair pb-1 font-semibold text-soft">Lifted last</h2>
			<div class="min-h-52 flex-1">
				<DataTable
					name="holds-lifted"
					label="Lifted"
					testid="lifted"
					rows={data.lifted}
					key={(h) => h.id}
					columns={[
						{ id: 'what', title: 'What', value: (h) => `${WHAT[h.kind]} ${h.subject}`, cell: what, class: 'whitespace-nowrap' },
						{ id: 'why', title: 'Why it was held', value: (h) => h.why },
						{ id: 'held', title: 'Held', value: (h) => h.since.getTime(), time: true },
						{ id: 'lifted', title: 'Lifted', value: (h) => h.liftedAt?.getTime(), time: true },
						{ id: 'how', title: 'How', value: howLifted }
					]}
					empty="Nothing was lifted yet."
				/>
			</div>
		{/if}
	</div>
</section>
