import { error } from '@sveltejs/kit';
import { bodies, draftSubject } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { draftOf, dropDraft, keepDraft } from '$lib/server/people/drafts.ts';

function personOf(locals: App.Locals): string {
	if (!locals.person) error(401, 'Drafts belong to a person: sign in or show your badge first.');
	return locals.person.id;
}

/** What this person typed there and did not save; null where there is nothing. */
export async function GET({ locals, params }) {
	return answer(async () => ({ draft: await draftOf(personOf(locals), draftSubject.parse(params.subject)) }));
}

export async function PUT(event) {
	return answer(async () => {
		const personId = personOf(event.locals);
		const { content, base } = await readJson(event, bodies.draft);
		await keepDraft(personId, draftSubject.parse(event.params.subject), content, base);
	});
}

export async function DELETE({ locals, params }) {
	return answer(() => dropDraft(personOf(locals), draftSubject.parse(params.subject)));
}
