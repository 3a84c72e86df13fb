<script lang="ts">
	import { untrack } from 'svelte';
	import { page } from '$app/state';
	import { InputError, noData } from '@keen-relay/core/judgement';
	import { alignLog, bestMoves, checkProfile, measureLog, placesOfLog, predictCurve, type ProfileCheck } from '@keen-relay/core/reflow';
	import { ovenHeadwayS } from '@keen-relay/core/balance';
	import { invalidateAll } from '$app/navigation';
	import { sayDone, sayNot } from '$lib/ui/said.ts';
	import { bodies } from '$lib/api/bodies.ts';
	import { send } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import DraftOffer from '$lib/ui/DraftOffer.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { dayTime } from '$lib/ui/format.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import OvenPicture from '$lib/ui/OvenPicture.svelte';
	import SideChoice from '$lib/ui/SideChoice.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { startTuning } from '$lib/workers/tuning.ts';
	import { fixed, say, unitName } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	const oven = $derived(data.oven);
	// Edited here, compared with what is released, kept only by releasing it.
	const { form, enhance, draft } = entry({
		id: 'oven-recipe',
		schema: bodies.recipe,
		start: () => ({
			sideId: data.side?.id ?? 0,
			lineId: data.lineId,
			pasteId: data.pasteId,
			setC: [...data.start.setC],
			beltCmPerMin: data.start.beltCmPerMin,
			startedFrom: data.recipe?.revision ?? null
		}),
		follows: true,
		path: '/api/v1/recipes',
		done: () => 'Oven recipe released',
		draft: {
			subject: untrack(() => `oven.${data.lineId}.${data.side?.id ?? 0}`),
			base: () => (data.recipe ? `recipe ${data.recipe.revision}` : 'no recipe')
		}
	});
	let tuning: { stop: () => void; steps: number } | null = $state(null);
	// A draft may be of a paste that went, or of an oven with other zones.
	const paste = $derived(data.pastes.find((p) => p.id === $form.pasteId) ?? data.pastes[0]!);
	const recipe = $derived({
		setC: ($form.setC.length === oven.zoneM.length ? $form.setC : data.start.setC).map(Number),
		beltCmPerMin: Number($form.beltCmPerMin)
	});

	const result: { check: ProfileCheck | null; refusal: string } = $derived.by(() => {
		if (!data.side) return { check: null, refusal: 'No board yet.' };
		try {
			return { check: checkProfile(oven, recipe, data.spots, paste.window), refusal: '' };
		} catch (error) {
			if (error instanceof InputError) return { check: null, refusal: `The oven cannot do this: ${error.message}.` };
			throw error;
		}
	});
	let lastGood = $state.raw<ProfileCheck | null>(null);
	$effect(() => {
		if (result.check) lastGood = result.check;
	});
	const verdict = $derived(
		result.check?.verdict ?? { ...noData(result.refusal), level: data.side ? ('act' as const) : ('noData' as const) }
	);
	/** Changes that are worth a visit to the oven: at least one point of the window. */
	const moves = $derived(
		result.check
			? bestMoves(oven, recipe, data.spots, paste.window)
					.filter((move) => !Number.isFinite(result.check!.usePct) || move.usePct < result.check!.usePct - 1)
					.slice(0, 3)
			: []
	);
	const changed = $derived(
		!data.recipe ||
			data.pasteId !== $form.pasteId ||
			data.recipe.beltCmPerMin !== recipe.beltCmPerMin ||
			data.recipe.setC.length !== recipe.setC.length ||
			data.recipe.setC.some((c, i) => c !== recipe.setC[i])
	);
	const allowed = $derived(data.side && can('recipe.release'));
	const headway = $derived(
		data.side && recipe.beltCmPerMin > 0 ? ovenHeadwayS(data.side.geometry.widthMm, data.gapMm, recipe.beltCmPerMin) : null
	);
	const use = $derived(result.check ? (Number.isFinite(result.check.usePct) ? fixed(result.check.usePct, 0) : 'over 100') : '–');
	const lowest = $derived(data.passes[0]);

	/** The measured profile that is drawn: the newest unless another is chosen. */
	let profileId = $state<number | null>(null);
	const profile = $derived(data.profiles.find((p) => p.id === profileId) ?? data.profiles[0] ?? null);
	const measured = $derived.by(() => {
		const typical = data.spots.find((spot) => spot.name === 'typical') ?? data.spots[0];
		if (!profile || !typical || profile.recipe.setC.length !== oven.zoneM.length) return null;
		// Laid over what was predicted for the recipe that it was run with, not for what is being edited.
		const curve = predictCurve(oven, profile.recipe, typical.tau);
		const { shiftS } = alignLog(profile.log, curve);
		const placeM = placesOfLog(profile.log, curve, shiftS, profile.recipe.beltCmPerMin);
		return {
			channels: measureLog(profile.log, paste.window),
			curves: profile.log.channels.map((channel) => ({
				name: channel.name,
				points: channel.tempC.flatMap((y, i) => (i % 2 === 0 ? [{ x: placeM[i]!, y }] : []))
			}))
		};
	});

	async function upload(event: Event) {
		const field = event.currentTarget as HTMLInputElement;
		const file = field.files?.[0];
		if (file) await keepLog(file, '');
		field.value = '';
	}

	async function keepLog(file: File, decimal: '' | '.' | ',') {
		if (!data.side) return;
		const form = new FormData();
		form.append('log', file);
		form.append('lineId', String(data.lineId));
		form.append('decimal', decimal);
		const answer = await send<{ id: number; issues: { message: string }[] }>('POST', `/api/v1/sides/${data.side.id}/profiles`, form);
		if (answer.issues.some((issue) => issue.code === 'decimal_sign'))
			return void sayNot(answer.message, {
				duration: Infinity,
				action: { label: 'Decimal comma', onClick: () => void keepLog(file, ',') },
				cancel: { label: 'Decimal point', onClick: () => void keepLog(file, '.') }
			});
		if (!answer.data) return void sayNot(answer.message);
		sayDone(`${file.name} kept${answer.data.issues.length ? `; ${answer.data.issues.length} rows or channels left out` : ''}`);
		profileId = answer.data.id;
		await invalidateAll();
	}

	function take(next: { setC: readonly number[]; beltCmPerMin: number }) {
		$form.setC = [...next.setC];
		$form.beltCmPerMin = next.beltCmPerMin;
	}

	async function tune() {
		const job = startTuning({ oven, recipe, spots: data.spots, window: paste.window }, (best, steps) => {
			take(best);
			if (tuning) tuning.steps = steps;
		});
		tuning = { stop: job.stop, steps: 0 };
		const best = await job.done;
		if (best) take(best);
		tuning = null;
	}
	/** What is predicted for each spot, and below it what a log has measured. */
	const spots = $derived([
		...(result.check?.spots ?? []).map(({ spot, metrics, worst }) => ({
			name: spot.name,
			metrics,
			usePct: Number.isFinite(worst.use) ? worst.use : null,
			at: spot.at,
			measured: false
		})),
		...(measured?.channels ?? []).map(({ name, metrics }) => ({ name, metrics, usePct: null, at: 'measured', measured: true }))
	]);
</script>

<StationFrame {verdict}>
	{#snippet about()}
		{#if data.recipe && !changed}Recipe {data.recipe.revision}, released.
		{:else if data.recipe}Edited; recipe {data.recipe.revision} is what is released.
		{:else}No recipe is released: this is a start.
		{/if}
		{profile
			? say(`Measured by ${profile.by}, in copper; predicted from thickness, copper and parts: ±8 °C, ±14 s.`)
			: say('Predicted from thickness, copper and parts until a profile is measured: ±8 °C, ±14 s.')}
	{/snippet}
	{#snippet bar()}
		<SideChoice sides={data.sides} sideId={data.side?.id ?? null} />
		<label class="flex items-center gap-2">
			<span class="text-soft">Paste</span>
			<select class="select h-11 w-auto border-line bg-sheet" form="oven-recipe" bind:value={$form.pasteId} aria-label="Paste">
				{#each data.pastes as p (p.id)}<option value={p.id}>{p.name}</option>{/each}
			</select>
		</label>
	{/snippet}
	{#snippet picture()}
		<EntryForm {enhance} id="oven-recipe" label="Oven recipe" class="h-full">
			{#if lastGood && data.side}
				<OvenPicture
					{oven}
					{recipe}
					spots={lastGood.spots}
					window={paste.window}
					stale={result.check === null}
					panelMm={data.side.geometry.widthMm}
					gapMm={data.gapMm}
					actualC={lowest?.zoneC ?? null}
					measured={measured?.curves ?? []}
					bind:setC={$form.setC}
					bind:belt={$form.beltCmPerMin}
				/>
			{/if}
		</EntryForm>
	{/snippet}
	{#snippet side()}
		{#if draft}<DraftOffer {draft} />{/if}
		<KeyFigure value={use} unit="%" label="of the window used" {verdict} />
		{#if result.check}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">To get further inside</h2>
				{#each moves as move (move.action)}
					<button
						class="flex w-full justify-between border-b border-hair py-2 text-left font-semibold hover:text-copper"
						onclick={() => take(move.recipe)}
					>
						<span>{say(move.action)}</span><span class="figure font-normal"
							>{Number.isFinite(move.usePct) ? `${fixed(move.usePct, 0)} %` : 'over 100 %'}</span
						>
					</button>
				{:else}<p class="border-b border-hair py-2 text-soft">No single change gains a point. Tune tries several at once.</p>{/each}
			</section>
		{/if}
		<div class="flex gap-3">
			{#if tuning}
				<button class="btn min-h-16 flex-1 border-ink bg-transparent text-lg" onclick={() => tuning?.stop()}
					>Stop, {tuning.steps} steps</button
				>
			{:else}
				<button class="btn min-h-16 flex-1 border-ink bg-transparent text-lg" disabled={!result.check} onclick={tune}>Tune</button>
			{/if}
			<button
				class="btn min-h-16 flex-[2] text-lg btn-primary"
				disabled={!allowed || !(changed || data.old) || !result.check || tuning !== null}
				form="oven-recipe"
			>
				{changed || data.old ? 'Release recipe' : `Recipe ${data.recipe?.revision} released`}
			</button>
		</div>
		{#if data.old}<p class="flex items-start gap-2" data-testid="old"><LevelMark level="act" />{say(data.old)}</p>{/if}
		{#if result.check}
			<section>
				<h2 class="text-sm font-semibold text-soft">Spots</h2>
				<DataTable
					small
					whole
					name="oven-spots"
					label="Spots"
					testid="spots"
					rows={spots}
					key={(s) => s.name}
					rowClass={(s) => (s.measured ? 'text-copper' : '')}
					rowTestid={(s) => (s.measured ? 'measured' : 'spot')}
					columns={[
						{ id: 'spot', title: 'Spot', value: (s) => s.name },
						{ id: 'peak', title: 'peak, °C', value: (s) => s.metrics.peakC, decimals: 1 },
						{ id: 'above', title: 'above, s', value: (s) => s.metrics.aboveReferenceS, decimals: 0 },
						{ id: 'soak', title: 'soak, s', value: (s) => s.metrics.soakS, decimals: 0 },
						{ id: 'rise', title: 'rise, °C/s', value: (s) => s.metrics.maxRiseCPerS, decimals: 2 },
						{ id: 'use', title: 'use, %', value: (s) => s.usePct, decimals: 0, away: true },
						{ id: 'at', title: 'Where', value: (s) => s.at, away: true }
					]}
					empty="No spot is known."
				/>
				<div class="flex items-center gap-2 py-1 text-sm">
					{#if data.profiles.length}
						<select
							class="select h-9 min-w-0 flex-1 border-line bg-sheet text-sm"
							value={profile?.id}
							onchange={(event) => (profileId = Number(event.currentTarget.value))}
							aria-label="Measured profile"
						>
							{#each data.profiles as p (p.id)}<option value={p.id}
									>{dayTime(p.createdAt, page.data.plant?.timeZone ?? 'UTC')}, {p.name}</option
								>{/each}
						</select>
					{/if}
					<label class="btn h-9 border-ink bg-transparent font-normal {can('profile.log') ? '' : 'btn-disabled'}"
						>Add a log<input
							class="hidden"
							type="file"
							accept=".csv,.txt"
							onchange={upload}
							disabled={!can('profile.log')}
							aria-label="Thermocouple log, CSV"
						/></label
					>
				</div>
				<p class="pt-1 text-xs text-soft">
					{say(`Above ${paste.window.referenceC} °C; soak ${paste.window.soakFromC} to ${paste.window.soakToC} °C; rise in`)}
					{unitName('°C/s')} over 10 s.
					{#if headway}One panel every {fixed(headway, 1)} s.{/if}
				</p>
			</section>
		{/if}
		<Caution text="Hot surfaces, molten solder, flux fume: extraction on. A person enters set-points; nothing here writes to the oven." />
	{/snippet}
</StationFrame>
