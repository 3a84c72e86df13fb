<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import { checkShifts, type ShiftPattern } from '@keen-relay/core/schedule';
	import { LOCALES, UNIT_SYSTEMS } from '@keen-relay/core/people';
	import { untrack } from 'svelte';
	import { can } from '$lib/ui/can.ts';
	import { localeWords, UNIT_WORDS } from '$lib/ui/figures.ts';
	import DateField from '$lib/ui/DateField.svelte';
	import FieldError from '$lib/ui/FieldError.svelte';
	import Issues from '$lib/ui/Issues.svelte';
	import { theirs } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	/** Numbers of the days, Monday 1, in the order of the reader's week. */
	const WEEK = $derived(Array.from({ length: 7 }, (_, i) => ((theirs().firstWeekday - 1 + i) % 7) + 1));
	const DAYS = ['Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa', 'Su'];
	type Shift = Required<Omit<ShiftPattern, 'notOn'>> & { days: number[]; breaks: { from: string; to: string }[] };
	const entered = () => ({
		name: data.info.name,
		timeZone: data.info.timeZone,
		locale: data.info.locale,
		units: data.info.units,
		shifts: data.info.shifts.map(({ name, from, to, days, breaks }): Shift => ({
			name,
			from,
			to,
			days: [...(days ?? [1, 2, 3, 4, 5, 6, 7])],
			breaks: (breaks ?? []).map((b) => ({ ...b }))
		})),
		holidays: data.info.holidays.map((h) => ({ ...h }))
	});
	const schema = bodies.plant.omit({ startedFrom: true });
	const { form, errors, enhance, draft } = entry<typeof schema, { revision: number }>({
		id: 'plant',
		schema,
		start: entered,
		method: 'PUT',
		path: '/api/v1/plant',
		body: (plant) => ({ ...plant, startedFrom }),
		done: ({ name }) => `${name} is set`,
		then: ({ revision }) => (startedFrom = revision),
		draft: { subject: 'plant', base: () => (data.info.revision === null ? 'nothing' : `revision ${data.info.revision}`) }
	});
	/** What others set meanwhile is not overwritten. */
	let startedFrom = $state(untrack(() => data.info.revision));
	const shifts = $derived($form.shifts as Shift[]);
	const readable = $derived(shifts.every((s) => [s, ...s.breaks].every((t) => /^\d\d:\d\d$/.test(t.from) && /^\d\d:\d\d$/.test(t.to))));
	const issues = $derived(readable ? checkShifts(shifts) : []);
	const minutes = (time: string) => (/^\d\d:\d\d$/.test(time) ? Number(time.slice(0, 2)) * 60 + Number(time.slice(3)) : 0);
	/** Parts of the day's bar that a shift takes, % of its width. */
	const spans = (from: string, to: string) => {
		const [a, b] = [minutes(from), minutes(to)];
		return (
			b > a
				? [[a, b]]
				: [
						[a, 1440],
						[0, b]
					]
		).map(([x, y]) => ({ x: (x! / 1440) * 100, w: ((y! - x!) / 1440) * 100 }));
	};
</script>

<EntryForm {enhance} {draft} label="The plant" class="beside grid h-full gap-8 overflow-y-auto pt-3 pb-4 [--beside:330px]">
	<section class="flex flex-col gap-3">
		<h1 class="text-[26px] leading-8 font-bold">The plant</h1>
		<div class="grid grid-cols-2 gap-3">
			<TextField label="Name" bind:value={$form.name} errors={$errors.name} />
			<TextField label="Time zone" bind:value={$form.timeZone} errors={$errors.timeZone} list="zones" />
			<SelectField
				label="Numbers and dates, where a person chose nothing else"
				bind:value={$form.locale}
				errors={$errors.locale}
				options={LOCALES.map((locale) => [locale, localeWords(locale)])}
			/>
			<SelectField
				label="Units, where a person chose nothing else"
				bind:value={$form.units}
				errors={$errors.units}
				options={UNIT_SYSTEMS.map((units) => [units, UNIT_WORDS[units]])}
			/>
			<datalist id="zones"
				>{#each data.zones as zone (zone)}<option value={zone}></option>{/each}</datalist
			>
		</div>
		<h2 class="border-b border-hair pb-1 font-semibold text-soft">Shifts, by the wall clock</h2>
		<div class="relative h-11 bg-hair" role="img" aria-label="The shifts over a day, with their breaks">
			{#each shifts as s, i (i)}
				{#each spans(s.from, s.to) as span (span.x)}
					<span
						class="absolute inset-y-1 overflow-hidden border-x border-paper bg-line px-1 text-sm leading-9 whitespace-nowrap"
						style="left:{span.x}%;width:{span.w}%">{s.name}</span
					>
				{/each}
				{#each s.breaks as b, k (k)}{#each spans(b.from, b.to) as span (span.x)}<span
							class="absolute inset-y-1 bg-paper"
							style="left:{span.x}%;width:{span.w}%"
						></span>{/each}{/each}
			{/each}
		</div>
		<div class="figure -mt-2 flex justify-between text-xs text-soft">
			{#each [0, 6, 12, 18, 24] as hour (hour)}<span>{String(hour).padStart(2, '0')}:00</span>{/each}
		</div>
		{#each shifts as s, i (i)}
			{@const wrong = $errors.shifts?.[i]}
			<fieldset class="border border-line px-3 py-2" aria-label="Shift {i + 1}">
				<div class="flex flex-wrap items-end gap-3">
					<TextField label="Shift" bind:value={$form.shifts[i]!.name} errors={wrong?.name} class="h-11" around="w-28" />
					<TextField
						label="From"
						bind:value={$form.shifts[i]!.from}
						errors={wrong?.from}
						figure
						placeholder="06:00"
						class="h-11"
						around="w-20"
					/>
					<TextField label="To" bind:value={$form.shifts[i]!.to} errors={wrong?.to} figure placeholder="06:00" class="h-11" around="w-20" />
					<span class="flex gap-1" role="group" aria-label="Weekdays of {s.name}">
						{#each WEEK as day (day)}
							{@const on = s.days.includes(day)}
							<button
								type="button"
								class="btn h-11 min-w-11 px-1 {on ? 'border-ink bg-ink text-paper' : 'border-line bg-transparent font-normal'}"
								aria-pressed={on}
								onclick={() => ($form.shifts[i]!.days = on ? s.days.filter((n) => n !== day) : [...s.days, day].sort())}
								>{DAYS[day - 1]}</button
							>
						{/each}
					</span>
					<button
						type="button"
						class="btn ml-auto min-h-11 border-line bg-transparent font-normal"
						disabled={shifts.length === 1}
						onclick={() => ($form.shifts = shifts.filter((_, k) => k !== i))}>Take out</button
					>
				</div>
				<div class="mt-2 flex flex-wrap items-center gap-3 text-sm">
					{#each s.breaks as _, k (k)}
						<span class="flex items-center gap-1"
							>break
							<TextField
								bare
								label="Break {k + 1} of {s.name}, from"
								bind:value={$form.shifts[i]!.breaks![k]!.from}
								errors={wrong?.breaks?.[k]?.from}
								figure
								class="h-11"
								around="w-20"
							/>
							to
							<TextField
								bare
								label="Break {k + 1} of {s.name}, to"
								bind:value={$form.shifts[i]!.breaks![k]!.to}
								errors={wrong?.breaks?.[k]?.to}
								figure
								class="h-11"
								around="w-20"
							/>
							<button
								type="button"
								class="btn min-h-11 border-line bg-transparent font-normal"
								onclick={() => ($form.shifts[i]!.breaks = s.breaks.filter((_, n) => n !== k))}
								aria-label="Take out break {k + 1} of {s.name}">✕</button
							></span
						>
					{/each}
					<button
						type="button"
						class="btn min-h-11 border-line bg-transparent font-normal"
						onclick={() => ($form.shifts[i]!.breaks = [...s.breaks, { from: s.from, to: s.from }])}>A break more</button
					>
				</div>
				<FieldError id="shift-{i}-days" words={wrong?.days?._errors} />
			</fieldset>
		{/each}
		<button
			type="button"
			class="btn min-h-12 self-start border-ink bg-transparent font-normal"
			disabled={shifts.length >= 8}
			onclick={() =>
				($form.shifts = [...shifts, { name: `Shift ${shifts.length + 1}`, from: '06:00', to: '14:00', days: [1, 2, 3, 4, 5], breaks: [] }])}
			>One more shift</button
		>
	</section>
	<aside class="flex flex-col gap-3 border-l border-line pl-5">
		<button class="btn min-h-16 text-lg btn-primary" disabled={!can('plant.set') || issues.length > 0}>Keep the plant so</button>
		{#if !can('plant.set')}<p class="text-sm text-soft">A lead sets the plant up.</p>{/if}
		{#if issues.length}<Issues {issues} />{/if}
		<p class="text-sm text-soft">
			What was recorded keeps its instants. Another zone or pattern changes to which shift it is counted; hand-overs that were signed stay
			with the name they had.
		</p>
		<h2 class="border-b border-hair pb-1 font-semibold text-soft">Days on which no shift begins</h2>
		<ul class="grid gap-2">
			{#each $form.holidays as _, i (i)}
				<li class="flex items-start gap-2">
					<DateField
						bare
						label="Date of holiday {i + 1}"
						bind:value={$form.holidays[i]!.date}
						errors={$errors.holidays?.[i]?.date}
						around="w-36"
					/>
					<TextField
						bare
						label="Name of holiday {i + 1}"
						bind:value={$form.holidays[i]!.name}
						errors={$errors.holidays?.[i]?.name}
						class="h-11"
						around="min-w-0 flex-1"
					/>
					<button
						type="button"
						class="btn min-h-11 border-line bg-transparent font-normal"
						onclick={() => ($form.holidays = $form.holidays.filter((_, k) => k !== i))}
						aria-label="Take out holiday {i + 1}">✕</button
					>
				</li>
			{:else}<li class="text-sm text-soft">None entered.</li>{/each}
		</ul>
		<button
			type="button"
			class="btn min-h-11 self-start border-line bg-transparent font-normal"
			onclick={() => ($form.holidays = [...$form.holidays, { date: '', name: '' }])}>One more day</button
		>
	</aside>
</EntryForm>
