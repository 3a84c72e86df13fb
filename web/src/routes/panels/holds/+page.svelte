<script lang="ts">
	import { page } from '$app/state';
	import type { Verdict } from '@keen-relay/core/judgement';
	import { kindOf } from '$lib/stations/index.ts';
	import { dayTime } from '$lib/ui/format.ts';
	import Leave from '$lib/ui/Leave.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import VerdictHead from '$lib/ui/VerdictHead.svelte';
	import { say } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
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
	const WHAT = { panel: 'Panel', jar: 'Jar' } as const;
	const href = (hold: { kind: 'panel' | 'jar'; subject: string }) =>
		hold.kind === 'panel' ? `/panels/${encodeURIComponent(hold.subject)}` : `/paste?jar=${encodeURIComponent(hold.subject)}`;
</script>

<section class="flex h-full flex-col gap-3 px-5 pt-3.5">
	<VerdictHead {verdict}>What is held is not worked on by the stations named, until somebody who may says that it goes on.</VerdictHead>
	<div class="min-h-0 flex-1 overflow-y-auto">
		<table class="rows" data-testid="holds">
			<thead><tr><th>What</th><th>Why</th><th>Since</th><th>Obeyed by</th><th>Lifted by</th><th></th></tr></thead>
			<tbody>
				{#each data.open as hold (hold.id)}
					<tr data-testid="hold-{hold.subject}">
						<td class="whitespace-nowrap"
							><span class="flex items-center gap-2"
								><LevelMark level="stopped" />{WHAT[hold.kind]} <a class="figure underline" href={href(hold)}>{hold.subject}</a></span
							>{#if hold.lineId !== null}<span class="text-sm text-soft">{data.lines[hold.lineId]}</span>{/if}</td
						>
						<td>{say(hold.why)}</td>
						<td class="whitespace-nowrap">{dayTime(hold.since, zone)}</td>
						<td>{hold.obeys.map((role) => kindOf(role).name).join(', ')}</td>
						<td>{hold.who.join(', ')}</td>
						<td class="text-right">
							{#if hold.kind === 'panel'}<Leave holdId={hold.id} subject={hold.subject} />{:else}<a
									class="btn min-h-12 border-ink bg-transparent"
									href={href(hold)}>Review</a
								>{/if}
						</td>
					</tr>
				{:else}<tr><td colspan="6" class="text-soft">Nothing is held: rejected panels and jars in quarantine would stand here.</td></tr
					>{/each}
			</tbody>
		</table>
		{#if data.lifted.length}
			<h2 class="mt-4 border-b border-hair pb-1 font-semibold text-soft">Lifted last</h2>
			<table class="rows" data-testid="lifted">
				<thead><tr><th>What</th><th>Why it was held</th><th>Held</th><th>Lifted</th><th>How</th></tr></thead>
				<tbody>
					{#each data.lifted as hold (hold.id)}
						<tr>
							<td class="whitespace-nowrap">{WHAT[hold.kind]} <a class="figure underline" href={href(hold)}>{hold.subject}</a></td>
							<td>{say(hold.why)}</td>
							<td class="whitespace-nowrap">{dayTime(hold.since, zone)}</td>
							<td class="whitespace-nowrap">{dayTime(hold.liftedAt!, zone)}</td>
							<td
								>{hold.liftedHow === 'leave' ? `leave of ${hold.liftedBy}: ${hold.liftNote}` : hold.liftedHow}{hold.liftedHow !== 'leave' &&
								hold.liftedBy
									? `, ${hold.liftedBy}`
									: ''}</td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		{/if}
	</div>
</section>
