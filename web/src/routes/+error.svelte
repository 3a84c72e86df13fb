<script lang="ts">
	import { page } from '$app/state';
</script>

<section class="p-8" role="alert">
	<h1 class="text-[28px] font-bold">
		{page.status === 404 ? 'Not found.' : 'This did not work.'} <span class="font-semibold">{page.error?.message}</span>
	</h1>
	<p class="mt-2 text-soft">Nothing was changed. Choose a station above, or go back and try again.</p>
</section>
