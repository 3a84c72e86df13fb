import { error } from '@sveltejs/kit';
import { panelStory } from '$lib/server/trace/panel-story.ts';

export async function load({ params, depends }) {
	depends('live:results');
	const story = await panelStory(params.serial);
	if (!story) error(404, `There is no panel ${params.serial}.`);
	return story;
}
