<script lang="ts">
	import { page } from '$app/state';
	import { causeNext, causeWords, isOf, offsetWords, TRIM_LEVELS, type OffsetCause, type TrimLevel } from '@keen-relay/core/placement';
	import { act, undo } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import { dayTime } from '$lib/ui/format.ts';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { fixed } from '$lib/ui/theirs.svelte.ts';
	import CareForm from '../picks/CareForm.svelte';
	import OffsetMap from './OffsetMap.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const offsets = $derived(data.offsets);
	const causes = $derived(offsets?.report.causes ?? []);
	type Kept = NonNullable<typeof offsets>['trims'][number];

	let picked = $state<string | null>(null);
	const keyOf = (c: OffsetCause) => `${c.level} ${c.name}`;
	const nth = $derived(
		Math.max(
			0,
			causes.findIndex((c) => keyOf(c) === picked)
		)
	);
	const chosen = $derived(causes[nth] ?? null);
	const ask = $derived(offsets?.asks[nth] ?? null);
	const size = $derived(chosen ? chosen.sizeUm : offsets ? Math.hypot(offsets.report.median.dxUm, offsets.report.median.dyUm) : null);

	const rowOf = (spot: { refDes: string; circuit: number }) => offsets?.placed[`${spot.refDes}.${spot.circuit}`] ?? null;
	const marked = (spot: { refDes: string; circuit: number }): boolean => {
		const row = rowOf(spot);
		if (!chosen || !row) return false;
		if (chosen.level === 'nozzle') return row.nozzle === chosen.name;
		if (chosen.level === 'circuit') return String(spot.circuit + 1) === chosen.name;
		if (chosen.level === 'board') return true;
		return isOf({ level: chosen.level, name: chosen.name }, { ...row, refDes: spot.refDes });
	};
	const frame = (level: string) => (level === 'part' ? ' as the part lies' : level === 'ref' ? ' as its circuit lies' : '');
	const between = (c: OffsetCause, axis: 'x' | 'y') => {
		const interval = c.trim?.[axis].interval;
		return interval ? `${fixed(interval.lowUm, 0)} to ${fixed(interval.highUm, 0)}` : '';
	};
	/** Why a cause that could be trimmed asks for no trim. */
	const whyNot = $derived(
		chosen && !ask && chosen.trim && chosen.tied.length === 0 && (TRIM_LEVELS as readonly string[]).includes(chosen.level)
			? (Math.abs(chosen.dxUm) > Math.abs(chosen.dyUm) ? chosen.trim.x : chosen.trim.y).why
			: null
	);
	const slot = $derived(chosen && [chosen, ...chosen.tied].find((c) => c.level === 'feeder')?.name);
	const became = (t: Kept) => {
		if (!t.inUse) return { undone: 'taken back', expired: 'lapsed', feeder: 'another feeder stands there' }[t.why!];
		const e = t.effect!;
		if (e.state === 'waits') return `wait: ${e.rows} of ${Math.max(e.needed, 1)} placements`;
		return e.state === 'gone' ? `gone: ${offsetWords(e)} left` : `still there: ${offsetWords(e)}`;
	};
	const accept = () =>
		act(
			'POST',
			`/api/v1/stations/${data.station.id}/trims`,
			{ sideId: data.side!.id, ...ask!, startedFrom: offsets!.trims[0]?.revision ?? null },
			`Trimmed: ${causeWords(ask!)} ${offsetWords(ask!)}`
		);
	const trimName = (t: { level: TrimLevel; name: string }) =>
		({ program: 'the whole program', feeder: `slot ${t.name}`, part: t.name, ref: t.name })[t.level];
</script>

<StationFrame verdict={data.verdict}>
	{#snippet about()}
		{#if offsets && offsets.report.rows > 0}
			The latest {offsets.report.panels} panels{offsets.since ? ` since ${dayTime(offsets.since, zone)}` : ''}, {offsets.report.rows} placements,
			measured {offsets.afterOven
				? 'after the oven: chips and ball grids, which solder pulls into place, are left out'
				: 'before the oven'}.
		{/if}
	{/snippet}
	{#snippet picture()}
		{#if offsets && data.side}
			<div class="flex h-full flex-col gap-3">
				<div class="min-h-0 flex-1" data-testid="offset-map">
					<OffsetMap panel={data.side.panel} circuit={data.side} spots={offsets.spots} {marked} />
				</div>
				<div class="max-h-[38%] shrink-0 overflow-y-auto">
					{#snippet mark(c: OffsetCause)}<LevelMark level={keyOf(c) === keyOf(chosen!) ? 'act' : 'watch'} />{/snippet}
					<DataTable
						small
						whole
						name="offset-causes"
						label="What is off together"
						testid="offset-causes"
						rows={causes}
						key={keyOf}
						picked={(c) => chosen !== null && keyOf(c) === keyOf(chosen)}
						onpick={(c) => (picked = keyOf(c))}
						columns={[
							{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-6' },
							{ id: 'what', title: 'What', value: (c) => [c, ...c.tied].map(causeWords).join(' or ') },
							{ id: 'x', title: 'Right, µm', value: (c) => (c.trim ? c.dxUm : null), decimals: 0 },
							{ id: 'x95', title: '95 % between', value: (c) => between(c, 'x'), figures: true },
							{ id: 'y', title: 'Up, µm', value: (c) => (c.trim ? c.dyUm : null), decimals: 0 },
							{ id: 'y95', title: '95 % between', value: (c) => between(c, 'y'), figures: true },
							{ id: 'rows', title: 'Placements', value: (c) => c.rows, figures: true },
							{ id: 'panels', title: 'Panels', value: (c) => c.panels, figures: true }
						]}
						empty={offsets.report.panels < 3 ? 'Too few panels yet.' : 'Nothing is off together.'}
					/>
				</div>
			</div>
		{/if}
	{/snippet}
	{#snippet side()}
		{#if offsets && data.side}
			<KeyFigure
				value={size === null || offsets.report.rows === 0 ? '–' : fixed(size, 0)}
				unit={offsets.report.rows === 0 ? '' : 'µm'}
				label={chosen ? (chosen.level === 'board' ? 'from panel to panel' : 'off together') : 'off, the median of all'}
				verdict={data.verdict}
			/>
			{#if chosen}
				<section class="flex flex-col gap-2" data-testid="trim-act">
					{#if nth > 0}<p class="font-semibold">{causeNext(chosen)}</p>{/if}
					{#if ask}
						<button class="btn min-h-16 text-lg btn-primary" disabled={!can('trim.accept')} onclick={accept}
							>Trim {trimName(ask)}: {offsetWords(ask)}{frame(ask.level)}</button
						>
					{:else if whyNot}<p class="text-sm">No trim yet: {whyNot}</p>{/if}
					{#if chosen.level === 'nozzle'}
						{#key chosen.name}<CareForm kind="nozzle" name={chosen.name} stationId={data.station.id} />{/key}
					{/if}
					{#if slot}<a class="btn min-h-12 border-ink bg-transparent" href="/line/{data.lineId}/place/{data.station.id}?slot={slot}"
							>Slot {slot}</a
						>{/if}
					{#if chosen.level === 'circuit' || chosen.level === 'board'}
						<a class="btn min-h-12 border-ink bg-transparent" href="/boards/{data.side.id}">Panel and fiducials</a>
					{/if}
				</section>
			{/if}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Trims of program {data.program}</h2>
				<ul data-testid="trims">
					{#each offsets.trims as trim (trim.id)}
						<li class="border-b border-hair py-1.5 text-sm">
							<span class="flex justify-between gap-2">
								<span class={trim.inUse ? 'font-semibold' : 'text-soft line-through'}
									>{trim.revision}: {trimName(trim)} {offsetWords(trim)}{frame(trim.level)}</span
								>
								{#if trim.why !== 'undone' && data.actions[trim.id] !== undefined}
									<button class="underline" disabled={!can('trim.accept')} onclick={() => undo(data.actions[trim.id]!)}>Take back</button>
								{/if}
							</span>
							<span class="flex items-center gap-1.5">
								<LevelMark
									level={!trim.inUse || trim.effect?.state === 'waits' ? 'noData' : trim.effect?.state === 'gone' ? 'good' : 'watch'}
								/>
								{became(trim)}
							</span>
							<span class="block text-soft"
								>{trim.by}, {dayTime(trim.at, zone)}; was {offsetWords({ dxUm: trim.wasDxUm, dyUm: trim.wasDyUm })} on {trim.panels} panels; lapses
								{dayTime(trim.expiresAt, zone)}</span
							>
						</li>
					{:else}
						<li class="py-1.5 text-sm text-soft">
							None yet. A trim is added to what the program says, judged by placements younger than it, and lapses after {data.days} days.
						</li>
					{/each}
				</ul>
			</section>
		{/if}
		<Caution
			text="A trim advises: who releases the program answers for it. Heads move: look at nozzles and feeders only with the machine stopped, as its manual allows."
		/>
	{/snippet}
</StationFrame>
