<script lang="ts">
	import { onDestroy, untrack } from 'svelte';
	import { onPanel } from '@keen-relay/core/artwork';
	import {
		headProgram,
		headWays,
		moveFeeder,
		movePart,
		moveToCycle,
		reorderCycle,
		programCsv,
		programJson,
		readProgram,
		whyNot,
		type LinePlan,
		type LineStep
	} from '@keen-relay/core/balance';
	import { outOfOrder } from '@keen-relay/core/placement';
	import { InputError, noData, type Issue, type Verdict } from '@keen-relay/core/judgement';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import HeadPath from '$lib/ui/HeadPath.svelte';
	import Issues from '$lib/ui/Issues.svelte';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import SelectField from '$lib/ui/SelectField.svelte';
	import SideChoice from '$lib/ui/SideChoice.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { fixed } from '$lib/ui/theirs.svelte.ts';
	import { workFrom } from '$lib/workers/program-work.ts';
	import type { ProgramNews, ProgramTask } from '$lib/workers/program.worker.ts';
	import ProgramWorker from '$lib/workers/program.worker.ts?worker';

	let { data } = $props();
	const work = $derived(data.side ? workFrom(data.work) : null);

	/** What was changed and is not released, one after the other: each can be taken back. */
	interface Change {
		words: string;
		plan: LinePlan;
	}
	let changes = $state.raw<Change[]>([]);
	/** Of which side and revision they are: another one begins anew. */
	const of = $derived(`${data.side?.id} ${data.released}`);
	let begunOf = $state(untrack(() => of));
	$effect(() => {
		if (begunOf === of) return;
		begunOf = of;
		untrack(() => {
			stop();
			[changes, issues] = [[], []];
		});
	});
	const plan = $derived(changes.at(-1)?.plan ?? data.plan ?? null);
	const machine = $derived(plan?.machines.find((m) => m.machine === data.station.name) ?? null);
	const spec = $derived(work?.machines.find((m) => m.name === data.station.name) ?? null);
	const ways = $derived(work && machine && spec ? headWays(work, spec, machine) : []);
	const taktOf = (of: Pick<LinePlan, 'machines'>) => Math.max(0, ...of.machines.map((m) => m.totalS));
	const boundOf = (of: Pick<LinePlan, 'machines'>) => Math.max(0, ...of.machines.map((m) => m.head?.boundS ?? 0));
	/** Pairs that a change has put the wrong way round. */
	const wrongWay = $derived.by(() => {
		const program = work && machine && changes.length ? headProgram(work, machine) : null;
		return program ? outOfOrder(program) : [];
	});
	let cycle = $state(0);
	const shown = $derived(Math.min(cycle, Math.max(0, ways.length - 1)));
	const now = $derived(ways[shown] ?? null);
	let issues = $state.raw<Issue[]>([]);
	const refused = $derived(issues.some(({ severity }) => severity === 'error'));

	const verdict = $derived<Verdict>(
		!plan || !machine
			? (data.verdict ?? noData('No board to place yet.'))
			: refused
				? { level: 'act', statement: 'The file cannot be run here: see what stands in its way.', because: [], doNext: [] }
				: data.old && changes.length === 0
					? { level: data.old.misfit ? 'act' : 'watch', statement: data.old.words, because: [], doNext: [] }
					: {
							level: changes.length || data.released === null ? 'watch' : 'good',
							statement: changes.length
								? `${fixed(taktOf(plan), 1)} s a panel at the slowest placer, ${fixed(taktOf(data.plan!), 1)} s as it stands; not released yet.`
								: data.released === null
									? `${fixed(taktOf(plan), 1)} s a panel at the slowest placer; no program is released yet.`
									: `Program ${data.released}: ${fixed(taktOf(plan), 1)} s a panel at the slowest placer.`,
							because: plan.machines.map((m) => ({
								quantity: m.machine,
								value: m.totalS,
								unit: 's',
								limit: m.head ? `not below ${fixed(m.head.boundS, 1)}` : null,
								source: 'gantry model with the machine’s own speeds',
								formula: `${m.placements} placements in ${m.head?.cycles.length ?? '–'} cycles`
							})),
							doNext: []
						}
	);

	function changed(words: string, make: () => LinePlan) {
		try {
			changes = [...changes, { words, plan: make() }];
			issues = [];
		} catch (caught) {
			if (!(caught instanceof InputError)) throw caught;
			issues = [
				{ severity: 'error', code: caught.code, field: caught.path, value: String(caught.received), message: `${caught.message}.` }
			];
		}
	}

	// A person's own changes.
	let part = $state<string | null>(null);
	const chosen = $derived(machine?.loadList.find((load) => load.partNumber === part) ?? machine?.loadList[0] ?? null);
	let slot = $state<number | null>(null);
	const others = $derived(
		work && chosen
			? work.machines.filter((m) => m.name !== data.station.name && whyNot(m, work.types.get(chosen.partNumber)!).length === 0)
			: []
	);
	const indexOf = (name: string) => work!.machines.findIndex((m) => m.name === name);
	const toMachine = (name: string) =>
		changed(`${chosen!.partNumber} to ${name}`, () => ({
			...plan!,
			machines: movePart(work!, plan!.machines, chosen!.partNumber, indexOf(data.station.name), indexOf(name)),
			dealGapPct: null
		}));
	const toSlot = (to: number) =>
		changed(`${chosen!.partNumber} to slot ${to}`, () => ({
			...plan!,
			machines: plan!.machines.map((m) => (m === machine ? moveFeeder(work!, m, chosen!.partNumber, to) : m))
		}));

	/** One placement of the cycle that is shown. */
	let nth = $state<number | null>(null);
	const picked = $derived(nth === null ? null : (now?.places[nth] ?? null));
	let toCycle = $state<number | null>(null);
	const own = (make: (of: NonNullable<typeof machine>) => NonNullable<typeof machine>) => () => ({
		...plan!,
		machines: plan!.machines.map((m) => (m === machine ? make(m) : m))
	});
	function shift(way: 1 | -1) {
		const [from, to] = [nth!, nth! + way];
		const before = changes.length;
		changed(
			`${picked!.refDes} of ${picked!.circuit + 1} placed ${way < 0 ? 'earlier' : 'later'}`,
			own((m) => reorderCycle(work!, m, shown, from, to))
		);
		if (changes.length > before) nth = to;
	}
	function intoCycle() {
		const { refDes, circuit, spindle } = picked!;
		const before = changes.length;
		changed(
			`${refDes} of ${circuit + 1} to cycle ${toCycle}`,
			own((m) => moveToCycle(work!, m, { cycle: shown, spindle }, toCycle! - 1))
		);
		if (changes.length > before) nth = null;
	}

	// The search, off the page.
	let worker: Worker | null = null;
	let step = $state.raw<LineStep | null>(null);
	let searching = $state(false);
	let slowerPct = $state<0 | 3>(0);
	function search() {
		const before = plan!;
		searching = true;
		step = null;
		worker = new ProgramWorker();
		worker.onmessage = ({ data: news }: MessageEvent<ProgramNews>) => {
			if (news.kind === 'step') step = news.step;
			else stop();
		};
		const task: ProgramTask = { work: data.work!, start: $state.snapshot(before) as LinePlan, search: { slowerPct } };
		worker.postMessage(task);
	}
	/** Ends the search and keeps the best so far. */
	function stop() {
		worker?.terminate();
		worker = null;
		if (searching && step && plan && taktOf(step.plan) < taktOf(plan) - 1e-9) {
			const found = step.plan;
			changed(`found: ${fixed(taktOf(plan), 1)} to ${fixed(taktOf(found), 1)} s`, () => found);
		}
		searching = false;
	}
	onDestroy(() => worker?.terminate());

	async function choose(event: Event & { currentTarget: HTMLInputElement }) {
		const file = event.currentTarget.files?.[0];
		if (!file || !work) return;
		event.currentTarget.value = '';
		if (file.size > 4e6) {
			issues = [{ severity: 'error', code: 'too_large', field: 'file', value: file.name, message: `${file.name} is larger than 4 MB.` }];
			return;
		}
		const read = readProgram(await file.text(), work);
		if (read.plan) changed(`from ${file.name}`, () => read.plan!);
		issues = read.issues;
	}
	const away = (text: string, ending: string, type: string) => {
		const link = document.createElement('a');
		link.href = URL.createObjectURL(new Blob([text], { type }));
		link.download = `program-${data.side!.name.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}-${data.side!.side}.${ending}`;
		link.click();
		setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
	};
	const names = $derived({ board: data.side?.name ?? '', side: data.side?.side ?? '', line: `Line ${data.lineId}` });
	/** Where parts that nobody places stand on the panel. */
	const byHand = $derived(
		work && data.side
			? work.byHand.flatMap((hand) =>
					hand.refDes.flatMap((refDes) => {
						const own = data.work!.parts.find((p) => p.refDes === refDes);
						return own ? work.panel.origins.map((origin) => ({ refDes, ...onPanel({ x: own.xMm, y: own.yMm }, origin) })) : [];
					})
				)
			: []
	);
	const fall = $derived(plan && data.plan ? 100 * (1 - taktOf(plan) / taktOf(data.plan)) : 0);
</script>

<StationFrame {verdict}>
	{#snippet about()}
		{#if machine}{machine.placements} placements in {machine.head?.cycles.length ?? '–'} cycles from {machine.loadList.length} feeders. Low parts
			go before taller or finer ones within 10 mm, as is usual; tips stay on their spindles: no changer is reckoned with.{/if}
	{/snippet}
	{#snippet bar()}<SideChoice sides={data.sides} sideId={data.side?.id ?? null} />{/snippet}
	{#snippet picture()}
		{#if machine && spec && work && data.side}
			<div class="flex h-full flex-col gap-2">
				{#if ways.length}
					<div class="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_280px] gap-4">
						<div class="flex min-h-0 flex-col" data-testid="head-path">
							<div class="min-h-0 flex-1">
								<HeadPath {spec} panel={work.panel} circuit={data.side} loadList={machine.loadList} {ways} {shown} {byHand} />
							</div>
							<p class="text-xs text-soft">
								Copper: this cycle, numbered as it is placed; dark: placed before. Panel and feeders to scale, the way between at a third.
							</p>
						</div>
						<div class="flex min-h-0 flex-col gap-2">
							<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
							<div class="min-h-0 flex-1 overflow-y-auto" role="group" aria-label="Steps" tabindex="0">
								<DataTable
									whole
									small
									name="head-cycle"
									label="What the head does in this cycle"
									testid="steps"
									rows={(now?.places ?? []).map((p, nth) => ({
										...p,
										nth: nth + 1,
										stroke: now!.strokes.findIndex(({ spindles }) => spindles.includes(p.spindle)) + 1,
										slot: machine.loadList.find((load) => load.partNumber === p.partNumber)?.slot ?? null
									}))}
									key={(p) => p.nth}
									picked={(p) => p.nth - 1 === nth}
									onpick={(p) => (nth = p.nth - 1)}
									columns={[
										{ id: 'placed', title: '', value: (p) => p.nth, figures: true },
										{ id: 'designator', title: 'Part', value: (p) => p.refDes },
										{ id: 'circuit', title: 'of', value: (p) => p.circuit + 1, figures: true },
										{ id: 'number', title: 'Number', value: (p) => p.partNumber, away: true },
										{ id: 'spindle', title: 'Spindle', value: (p) => p.spindle + 1, figures: true },
										{ id: 'slot', title: 'Slot', value: (p) => p.slot, figures: true },
										{ id: 'stroke', title: 'Pick', value: (p) => p.stroke, figures: true }
									]}
									empty="Nothing."
								/>
							</div>
							{#if picked && !searching}
								<div class="grid grid-cols-2 items-end gap-2 text-sm" role="group" aria-label="Change {picked.refDes}">
									<p class="col-span-2 font-semibold">{picked.refDes} of {picked.circuit + 1}</p>
									<button
										class="btn min-h-11 border-line bg-transparent font-normal"
										disabled={nth === 0 || !can('program.release')}
										onclick={() => shift(-1)}>Earlier</button
									>
									<button
										class="btn min-h-11 border-line bg-transparent font-normal"
										disabled={nth === now!.places.length - 1 || !can('program.release')}
										onclick={() => shift(1)}>Later</button
									>
									<NumberField label="Into cycle" whole min={1} max={ways.length} class="h-11" bind:value={toCycle} />
									<button
										class="btn min-h-11 border-line bg-transparent px-2 font-normal"
										disabled={toCycle === null || !can('program.release')}
										onclick={intoCycle}>Into this cycle</button
									>
								</div>
							{:else}<p class="text-xs text-soft">Choose a part to place it earlier, later or in another cycle.</p>{/if}
						</div>
					</div>
					<div class="flex items-center gap-3">
						<button class="btn min-h-11 border-line bg-transparent font-normal" disabled={shown === 0} onclick={() => (cycle = shown - 1)}
							>Before</button
						>
						<input
							type="range"
							class="range flex-1 range-sm"
							min="1"
							max={ways.length}
							value={shown + 1}
							oninput={(e) => (cycle = Number(e.currentTarget.value) - 1)}
							aria-label="Cycle"
						/>
						<button
							class="btn min-h-11 border-line bg-transparent font-normal"
							disabled={shown >= ways.length - 1}
							onclick={() => (cycle = shown + 1)}>Next</button
						>
						<span class="figure w-52 text-right text-sm" data-testid="cycle"
							>cycle {shown + 1} of {ways.length}, {fixed(now?.seconds ?? 0, 2)} s</span
						>
					</div>
				{:else}
					<p class="border border-dashed border-(color:--none) p-8 text-soft">
						{machine.placements
							? `The way of the head was not kept with program ${data.released}. Release one anew on Slots, and it is drawn here.`
							: 'This machine places nothing of this side.'}
					</p>
				{/if}
			</div>
		{/if}
	{/snippet}
	{#snippet side()}
		{#if machine && plan && data.side}
			<KeyFigure
				value={fixed(machine.totalS, 1)}
				unit="s"
				label={machine.head ? `a panel here; at least ${fixed(machine.head.boundS, 1)} s whatever the way` : 'a panel here'}
				{verdict}
			/>
			{#if searching}
				<div class="flex flex-col gap-2" data-testid="searching" role="status">
					<progress class="progress w-full" value={step?.done ?? 0} max={step?.of ?? 1}></progress>
					<p class="text-sm">
						Step {step?.done ?? 0} of {step?.of ?? '–'}: {step ? `${fixed(taktOf(step.plan), 1)} s at the slowest placer` : 'beginning'}
					</p>
					<button class="btn min-h-16 border-ink bg-transparent text-lg" onclick={stop}>Stop, keep the best so far</button>
				</div>
			{:else}
				<button
					class="btn min-h-16 text-lg {changes.length ? 'border-ink bg-transparent' : 'btn-primary'}"
					disabled={!ways.length || !can('program.release')}
					onclick={search}>Look for a faster one</button
				>
				<SelectField
					label="The line is to be balanced"
					bind:value={slowerPct}
					options={[
						[0, 'equally'],
						[3, 'the first placer 3 % slower, so that panels do not queue']
					]}
				/>
			{/if}
			{#if changes.length && !searching}
				<section data-testid="changes">
					<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Changed, not released</h2>
					<ol class="text-sm">
						{#each changes as change, i (i)}<li class="flex justify-between border-b border-hair py-1">
								<span>{change.words}</span><span class="figure">{fixed(taktOf(change.plan), 1)} s</span>
							</li>{/each}
					</ol>
					<p class="py-1 text-sm">
						{fall >= 0 ? `${fixed(fall, 1)} % faster` : `${fixed(-fall, 1)} % slower`} than as it stands, {fixed(
							100 * (taktOf(plan) / boundOf(plan) - 1),
							0
						)} % above what no program can beat.
						{data.jobs.length
							? `Concerns ${data.jobs.map((job) => `${job.number} (${job.panels})`).join(', ')}.`
							: 'No open job is built from it.'}
						{data.running ? `${data.running.number} runs on with program ${data.running.revision}.` : ''}
					</p>
					{#if wrongWay.length}<p class="flex items-start gap-2 pb-2 text-sm" data-testid="wrong-way">
							<LevelMark level="watch" />{wrongWay[0]![1].refDes} is placed before {wrongWay[0]![0].refDes}, lower and within 10 mm{wrongWay.length >
							1
								? `; ${wrongWay.length - 1} more such pairs`
								: ''}: its tip may touch it.
						</p>{/if}
					<div class="grid grid-cols-2 gap-2">
						<button class="btn min-h-12 border-ink bg-transparent" onclick={() => (changes = changes.slice(0, -1))}>Undo the last</button>
						<button
							class="btn min-h-12 btn-primary"
							disabled={!can('program.release')}
							onclick={() =>
								act(
									'POST',
									'/api/v1/programs',
									{ sideId: data.side!.id, lineId: data.lineId, startedFrom: data.released, text: programCsv(plan) },
									'Placement program released'
								)}>Release {(data.released ?? 0) + 1}</button
						>
					</div>
				</section>
			{/if}
			{#if issues.length}<div class="max-h-52 overflow-y-auto" data-testid="program-issues"><Issues {issues} /></div>{/if}
			{#if chosen && ways.length && !searching}
				<section>
					<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Change it by hand</h2>
					<div class="grid grid-cols-[1fr_auto] items-end gap-2 pt-1">
						<SelectField
							label="Part"
							bind:value={() => chosen.partNumber, (to) => (part = to)}
							options={machine.loadList.map((load) => [load.partNumber, `${load.slot}: ${load.partNumber} × ${load.perPanel}`] as const)}
							class="h-11"
							around="col-span-2"
						/>
						<NumberField label="Slot" whole min={1} max={spec?.slots ?? 1} class="h-11" bind:value={slot} />
						<button
							class="btn min-h-11 border-line bg-transparent font-normal"
							disabled={slot === null || !can('program.release')}
							onclick={() => toSlot(slot!)}>Put it there</button
						>
					</div>
					{#each others as other (other.name)}
						<button
							class="btn mt-2 min-h-11 w-full border-line bg-transparent font-normal"
							disabled={!can('program.release')}
							onclick={() => toMachine(other.name)}>Give {chosen.partNumber} to {other.name}</button
						>
					{/each}
				</section>
			{/if}
			{#if work?.byHand.length}
				<p class="flex items-start gap-2 text-sm">
					<LevelMark level="watch" />By hand: {work.byHand.map((hand) => `${hand.refDes.join(', ')} (${hand.partNumber})`).join('; ')}, a
					cross on the drawing.
				</p>
			{/if}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">As a file, a row a placement</h2>
				<div class="grid grid-cols-2 gap-2 pt-2">
					<button
						class="btn min-h-11 border-line bg-transparent font-normal"
						disabled={!ways.length}
						onclick={() => away(programCsv(plan), 'csv', 'text/csv')}>CSV</button
					>
					<button
						class="btn min-h-11 border-line bg-transparent font-normal"
						disabled={!ways.length}
						onclick={() => away(programJson(plan, names), 'json', 'application/json')}>JSON</button
					>
					<label class="col-span-2 text-sm"
						><span class="text-soft">Read one, also from elsewhere</span><input
							class="file-input h-11 w-full border-line bg-sheet"
							type="file"
							accept=".csv,.txt,.tsv,.json"
							name="program"
							onchange={choose}
						/></label
					>
				</div>
			</section>
		{/if}
		<Caution
			text="Moving gantry and feeder carriage crush and cut: a new program is run the first time with the covers closed, by trained staff."
		/>
	{/snippet}
</StationFrame>
