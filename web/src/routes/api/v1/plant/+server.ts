import { bodies } from '$lib/api/bodies.ts';
import { plantInfo, setPlant } from '$lib/server/plant/settings.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Name, time zone, ways to write numbers, shifts and holidays of the plant.',
	run: () => plantInfo()
});

export const PUT = route({
	who: 'plant.set',
	does: 'Sets name, time zone, how numbers are written and in which units, shifts with their weekdays and breaks, and holidays; startedFrom is the revision that the edit began with.',
	body: bodies.plant,
	example: {
		name: 'Fernbrook Assembly',
		timeZone: 'Europe/Dublin',
		locale: 'en-GB',
		units: 'metric',
		shifts: [{ name: 'Day', from: '07:30', to: '16:00', days: [1, 2, 3, 4, 5], breaks: [{ from: '10:00', to: '10:15' }] }],
		holidays: [{ date: '2026-12-25', name: 'Christmas' }],
		startedFrom: 1
	},
	run: ({ actor, body }) => setPlant(actor, body)
});
