<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { page } from '$app/state';
	import { untrack } from 'svelte';
	import { noData, type Verdict } from '@keen-relay/core/judgement';
	import { TRIAL_FACTORS } from '@keen-relay/core/printing';
	import { bodies } from '$lib/api/bodies.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import DoNext from '$lib/ui/DoNext.svelte';
	import { clockTime } from '$lib/ui/format.ts';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { fixed, quantity, unitName } from '$lib/ui/theirs.svelte.ts';
	import NumberField from '$lib/ui/NumberField.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const { form, enhance, draft, errors } = entry({
		id: 'trial',
		schema: bodies.trial,
		start: () => ({ ranges: structuredClone(data.start), panelsEach: 4 }),
		follows: true,
		path: () => `/api/v1/runs/${data.runId}/trials`,
		done: () => 'Trial begun',
		draft: { subject: untrack(() => `trial.${data.line?.id ?? 0}`), base: () => (data.runId === null ? 'no run' : `run ${data.runId}`) }
	});
	const each = $derived($form.panelsEach);
	const trial = $derived(data.trial);
	const going = $derived(trial !== null && trial.endedAt === null);
	const now = $derived(trial ? trial.steps.length - 1 : -1);
	const next = $derived(trial?.settings[now + 1] ?? null);
	const full = $derived(trial !== null && now >= 0 && trial.counts[now]! >= trial.panelsEach);
	const verdict = $derived<Verdict>(
		data.runId === null
			? noData('No run on this line: a trial is made in one.')
			: trial === null
				? {
						level: 'noData',
						statement: 'No trial in this run.',
						because: [],
						doNext: ['Choose low and high of each, begin with panels that may be washed']
					}
				: (trial.reading?.verdict ?? {
						level: 'watch',
						statement: going
							? now < 0
								? 'Set the first setting on the printer.'
								: full
									? next
										? 'This setting has its panels: set the next one.'
										: 'All settings are printed: the last panels are being inspected.'
									: `Setting ${now + 1} of ${trial.settings.length}: ${trial.counts[now]} of ${trial.panelsEach} panels.`
							: `Ended early: ${trial.waiting}`,
						because: [],
						doNext:
							going && next && (now < 0 || full)
								? [
										`Set force ${quantity(next.value.force, 2, 'kg/cm')}, speed ${quantity(next.value.speed, 0, 'mm/s')}, separation ${quantity(next.value.separation, 1, 'mm/s')}`
									]
								: []
					})
	);
	let box = $state({ width: 700, height: 360 });
	const strokes = $derived(trial?.reading?.strokes ?? []);
	const reach = $derived(Math.max(1, ...strokes.flatMap((s) => s.effects.flatMap((e) => [Math.abs(e.low), Math.abs(e.high)]))));
	const x = $derived((v: number) => 170 + ((v + reach) / (2 * reach)) * (box.width - 190));
</script>

<StationFrame {verdict}>
	{#snippet about()}Low and high of each, the middle three times, in a drawn order; front and rear are read apart.{/snippet}
	{#snippet picture()}
		<EntryForm {enhance} {draft} id="trial" label="Trial" class="h-full">
			<!-- svelte-ignore a11y_no_noninteractive_tabindex (what scrolls is reached by keys too) -->
			<div
				class="h-full overflow-auto"
				tabindex="0"
				role="region"
				aria-label="Trial"
				bind:clientWidth={box.width}
				bind:clientHeight={box.height}
			>
				{#if strokes.length}
					<svg
						width={box.width}
						height={strokes.length * 210 + 40}
						role="img"
						aria-label="Effects with their intervals"
						font-size="14"
						fill="var(--ink)"
					>
						{#each strokes as s, k (s.stroke)}
							{@const top = k * 210}
							<text x="0" y={top + 18} font-weight="600"
								>{s.stroke === 'F' ? 'Front' : s.stroke === 'R' ? 'Rear' : s.stroke} stroke, {s.panels} panels</text
							>
							<line x1={x(0)} x2={x(0)} y1={top + 26} y2={top + 200} stroke="var(--line)" />
							{#each s.effects as e, i (e.name)}
								{@const y = top + 42 + i * 28}
								<text x="0" y={y + 5}>{e.name}</text>
								<line x1={x(e.low)} x2={x(e.high)} y1={y} y2={y} stroke={e.real ? 'var(--copper)' : 'var(--soft)'} stroke-width="3" />
								<circle
									cx={x(e.effect)}
									cy={y}
									r="6"
									fill={e.real ? 'var(--copper)' : 'var(--paper)'}
									stroke={e.real ? 'var(--copper)' : 'var(--soft)'}
									stroke-width="2"
								/>
							{/each}
						{/each}
						<text x={x(0)} y={strokes.length * 210 + 24} text-anchor="middle" fill="var(--soft)" font-size="13"
							>change of volume from low to high, %, with 95 % interval (± {fixed(reach, 0)})</text
						>
					</svg>
				{:else if trial}
					<DataTable
						whole
						name="trial-settings"
						label="Settings of the trial"
						testid="settings"
						rows={trial.settings.map((s, i) => ({ ...s, i }))}
						key={({ i }) => i}
						rowClass={({ i }) => (i === now && going ? 'font-semibold' : i > now ? 'text-soft' : '')}
						columns={[
							{
								id: 'no',
								title: 'No.',
								value: ({ i }) => i + 1,
								words: ({ i, centre }) => `${i + 1}${centre ? ', middle' : ''}`,
								figures: true
							},
							{ id: 'force', title: 'force, kg/cm', value: ({ value }) => value.force, decimals: 2 },
							{ id: 'speed', title: 'speed, mm/s', value: ({ value }) => value.speed, decimals: 0 },
							{ id: 'separation', title: 'separation, mm/s', value: ({ value }) => value.separation, decimals: 1 },
							{
								id: 'set',
								title: 'set at',
								value: ({ i }) => (trial.steps[i] ? new Date(trial.steps[i].from).getTime() : null),
								words: ({ i }) => (trial.steps[i] ? clockTime(trial.steps[i].from, zone) : '')
							},
							{
								id: 'panels',
								title: 'panels',
								value: ({ i }) => trial.counts[i] ?? 0,
								words: ({ i }) => `${trial.counts[i]} of ${trial.panelsEach}`,
								figures: true
							}
						]}
						empty="No setting."
					/>
				{:else}
					<table class="rows max-w-2xl text-sm">
						<thead><tr><th>Varied</th><th class="n">low</th><th class="n">high</th><th>unit</th><th class="n">recipe now</th></tr></thead>
						<tbody>
							{#each TRIAL_FACTORS as f (f)}
								<tr>
									<td>{f}</td>
									<td class="n"
										><NumberField
											bare
											label="{f} low"
											unit={data.start[f].unit}
											class="h-11 w-24 text-right"
											step="any"
											bind:value={$form.ranges[f].low}
											min={-Infinity}
										/></td
									>
									<td class="n"
										><NumberField
											bare
											label="{f} high"
											unit={data.start[f].unit}
											class="h-11 w-24 text-right"
											step="any"
											bind:value={$form.ranges[f].high}
											min={-Infinity}
										/></td
									>
									<td>{unitName(data.start[f].unit)}</td>
									<td class="n"
										>{data.recipe
											? { force: data.recipe.forceKgPerCm, speed: data.recipe.speedMmPerS, separation: data.recipe.separationMmPerS }[f]
											: '–'}</td
									>
								</tr>
							{/each}
						</tbody>
					</table>
					<p class="mt-2 max-w-2xl text-sm text-soft">
						Eleven settings. Keep the wipe interval as it is and wipe before the first panel of each. Panels of a trial are inspected like
						any other; what fails is washed.
					</p>
				{/if}
			</div>
		</EntryForm>
	{/snippet}
	{#snippet side()}
		<DoNext actions={verdict.doNext} />
		{#if trial === null || trial.endedAt !== null}
			<label class="flex items-center justify-between gap-3 text-sm"
				><span class="text-soft">Panels a setting, an even number</span><NumberField
					bare
					label="Panels a setting, an even number"
					unit=""
					whole
					class="h-11 w-20"
					form="trial"
					min={2}
					max={20}
					step={2}
					bind:value={$form.panelsEach}
					errors={$errors.panelsEach}
				/></label
			>
			<button class="btn min-h-16 text-lg btn-primary" disabled={data.runId === null || !can('trial.run')} form="trial"
				>Begin a trial of {11 * each} panels</button
			>
		{:else}
			<button
				class="btn min-h-16 text-lg {now < 0 || full ? 'btn-primary' : 'border-ink bg-transparent'}"
				disabled={next === null || (now >= 0 && !full) || !can('trial.run')}
				onclick={() => act('POST', `/api/v1/trials/${trial.id}/settings`, {}, 'Noted: panels from now on belong to it')}
				>{next ? `Setting ${now + 2} is set` : 'All settings are set'}</button
			>
			<button
				class="btn min-h-16 border-ink bg-transparent text-lg"
				disabled={!can('trial.run')}
				onclick={() => act('POST', `/api/v1/trials/${trial.id}/end`, {}, 'Trial ended')}>End the trial</button
			>
		{/if}
		{#each strokes as s (s.stroke)}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">{s.stroke === 'F' ? 'Front' : 'Rear'} stroke</h2>
				<dl class="facts text-sm">
					<div>
						<dt>spread at one setting, %</dt>
						<dd class="n">{fixed(s.sigma, 1)}</dd>
					</div>
					{#if s.curvature}<div>
							<dt>corners less middle, %</dt>
							<dd class="n">{fixed(s.curvature.effect, 1)} ({fixed(s.curvature.low, 1)} to {fixed(s.curvature.high, 1)})</dd>
						</div>{/if}
					{#if s.best}<div>
							<dt>corner nearest to 100 %</dt>
							<dd class="n">
								{TRIAL_FACTORS.map((f) => `${f} ${s.best!.coded[f] > 0 ? 'high' : 'low'}`).join(', ')}: {fixed(s.best.expected, 0)} %
							</dd>
						</div>{/if}
				</dl>
			</section>
		{/each}
		<p class="text-sm text-soft">
			Some plants state force by blade length, some by panel width; some separate fast, some slowly. Here force is per blade length, and the
			trial answers for this paste, board and printer.
		</p>
		<Caution text="Change settings only with the printer stopped: blades, gantry and foil edges cut and pinch." />
	{/snippet}
</StationFrame>
