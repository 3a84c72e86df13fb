import { stationModule } from '../module.ts';
import { ovenPass } from './messages.ts';
import { ovenStory } from './story.ts';
import { ovenSummary } from './summary.ts';
import { ovenTaker } from './take.ts';

export const oven = stationModule({
	role: 'oven',
	messages: [ovenPass],
	taker: ovenTaker,
	rows: [{ table: 'oven_pass', at: 'left_at', key: ['id'], station: 'station_id' }],
	summary: ovenSummary,
	story: ovenStory
});
