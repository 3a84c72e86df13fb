<script lang="ts">
	import { untrack } from 'svelte';
	import { z } from 'zod';
	import { can } from '$lib/ui/can.ts';
	import DateField from '$lib/ui/DateField.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { plantInstant, plantLocal } from '$lib/ui/format.ts';

	interface Props {
		job: { jobId: number; number: string; wantedMs: number | null };
		lineId: number;
		zone: string;
	}
	let { job, lineId, zone }: Props = $props();
	/** By the plant's clock; emptied, it leaves the job to the order of entry. */
	const local = z.object({ startsAt: z.string().nullable() });
	const { form, errors, enhance, submit } = entry({
		id: `job-start-${untrack(() => job.jobId)}`,
		schema: local,
		start: () => ({ startsAt: job.wantedMs === null ? null : plantLocal(job.wantedMs, zone) }),
		method: 'PUT',
		path: () => `/api/v1/jobs/${job.jobId}/start`,
		body: ({ startsAt }) => ({ lineId, startsAt: startsAt ? plantInstant(startsAt, zone) : null }),
		done: ({ startsAt }) => (startsAt ? 'Time kept' : 'In the order of entry'),
		follows: true
	});
</script>

<EntryForm {enhance} label="When {job.number} is wanted">
	<DateField
		bare
		time
		label="{job.number} is wanted from"
		around="w-52"
		class="h-11 px-2 text-sm"
		bind:value={$form.startsAt}
		errors={$errors.startsAt}
		disabled={!can('job.plan')}
		onvalue={() => submit()}
	/>
</EntryForm>
