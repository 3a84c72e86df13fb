import { inspected, visitStory } from '../inspected.ts';
import { stationModule } from '../module.ts';
import { OFFSETS, VISIT_ROWS, visitOf, visitTaker } from '../visits.ts';

export const optical = stationModule({
	role: 'optical',
	messages: [visitOf('optical_inspection', 'an optical inspection of a circuit', OFFSETS)],
	taker: visitTaker,
	rows: [VISIT_ROWS],
	summary: inspected('optical'),
	story: visitStory('optical')
});
