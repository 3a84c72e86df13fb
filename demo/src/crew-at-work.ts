import { linesLeft } from '@keen-relay/devices/lines-left';
import { Crew } from './crew.ts';
import { PEOPLE, Person, Refused } from './person.ts';

// The demo's crew as a program: it looks at every line in turn, but for those that are left to whoever uses the application.
const base = process.env.BASE_URL ?? 'http://127.0.0.1:4173';
const origin = process.env.ORIGIN ?? base;
const isLeft = linesLeft(process.env.LEAVE ?? '');
const TURN_MS = 1500;
const AFTER_TROUBLE_MS = 5000;
const [technicianOfCrew, engineerOfCrew] = PEOPLE.filter((person) => person.crew);

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const signIn = ({ badge, pin }: { badge: string; pin: string }) => new Person(base, origin, badge).signIn(pin);

async function work(): Promise<never> {
	const technician = await signIn(technicianOfCrew!);
	const crew = new Crew(technician, await signIn(engineerOfCrew!), `C${Date.now().toString(36).slice(-4).toUpperCase()}`);
	for (;;) {
		for (const { id, name } of await technician.send<{ id: number; name: string }[]>('GET', '/api/v1/lines')) {
			if (isLeft(name)) continue;
			const done = await crew.turn(id).catch((error: unknown) => {
				// Refused in words: somebody else did it meanwhile, or it cannot be done now. The next turn looks again.
				if (error instanceof Refused && error.status === 422) return null;
				throw error;
			});
			if (done) console.log(`crew: ${name}, ${done}`);
		}
		await pause(TURN_MS);
	}
}

let trouble = '';
for (;;)
	await work().catch((error: unknown) => {
		const words = error instanceof Error ? error.message : String(error);
		// An answer that says no is explained by itself; anything else is ours, and the place in the code tells what.
		if (words !== trouble) console.error('crew:', error instanceof Refused ? words : error);
		trouble = words;
		return pause(AFTER_TROUBLE_MS);
	});
